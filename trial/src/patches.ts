import { provenMendOf, remarks, withMend, type Remark } from '@pentachord/core/coverage';
import { balance, lufsOf, powerOf, type Responses } from '@pentachord/core/loudness';
import { patchSchema, type Patch } from '@pentachord/core/model';
import { compilePatch, compileRig } from '@pentachord/core/routing';
import { Chance } from './chance.js';
import type { Finding } from './finding.js';
import { anyPatch, devices } from './some-show.js';

const rig = compileRig(devices);

/** Random patches: what balancing keeps, and what one-click mends do. */
export function askPatches(count: number, seed = 1): Finding[] {
  const chance = new Chance(seed);
  let [worst, heldBack, mends, stayed, worse, invalid] = [0, 0, 0, 0, 0, 0];
  const examples = new Map<string, string>();
  for (let n = 0; n < count; n++) {
    const responses = anyResponses(chance);
    const patch = anyPatch(chance, `patch-${n}`, {
      treated: false,
      soundIds: ['struck', 'held'],
      most: 4,
    });
    const compiled = compilePatch(patch, { rig, songShift: 0 });
    const wishes = new Map(patch.layers.map(({ id }) => [id, chance.whole(-20, 10)]));
    const balanced = balance(compiled, responses, chance.percent(50) ? wishes : new Map());
    const whole = (all: number[]) => lufsOf(all.reduce((sum, one) => sum + powerOf(one), 0));
    const off = Math.abs(
      whole(balanced.map((b) => b.loudnessAfter)) - whole(balanced.map((b) => b.loudnessBefore)),
    );
    if (balanced.some(({ missing }) => missing !== 0)) heldBack++;
    else if (balanced.length > 0) worst = Math.max(worst, off);

    const before = remarksOf(patch, responses);
    // One of them: all would take as long as a night.
    if (before.length > 0) {
      const remark = chance.of(before);
      const mend = provenMendOf(remark, patch, devices, before, (p) => remarksOf(p, responses));
      if (!mend) continue;
      mends++;
      const mended = withMend(patch, mend);
      const note = (what: string) => {
        const kind = `${what}: ${remark.kind}, “${mend.words}”`;
        examples.set(kind, `${remark.text} (patch ${n} of seed ${seed})`);
      };
      if (!patchSchema.safeParse(mended).success) {
        invalid++;
        note('invalid');
        continue;
      }
      const after = remarksOf(mended, responses);
      if (after.some(({ id }) => id === remark.id)) {
        stayed++;
        note('stays');
      }
      if (alarms(after) > alarms(before)) {
        worse++;
        note('worse');
      }
    }
  }
  for (const [kind, example] of examples) console.log(`  ${kind}; such as ${example}`);
  const none = (what: string, found: number): Finding => ({
    what,
    ...{ found: String(found), promised: '0', holds: found === 0 },
  });
  return [
    {
      what: `${count} random patches balanced, ${heldBack} of them as far as levels go, which is told: the most by which the power of the others changed`,
      ...{ found: `${worst.toFixed(3)} dB`, promised: 'at most 0.2 dB', holds: worst <= 0.2 },
    },
    none(`${mends} mends: remarks that stay`, stayed),
    none('mends that make a patch worse', worse),
    none('mends that make a patch invalid', invalid),
  ];
}

function anyResponses(chance: Chance): Responses {
  const response = () => {
    const loudest = -chance.whole(10, 40);
    return [
      { velocity: 1, loudness: loudest - chance.whole(0, 40) },
      { velocity: 127, loudness: loudest },
    ];
  };
  return new Map([
    ['struck', response()],
    ['held', response()],
  ]);
}

function remarksOf(patch: Patch, responses: Responses): Remark[] {
  return remarks(compilePatch(patch, { rig, songShift: 0 }), {
    ...{ devices, sounds: new Map(), middleC: 4 as const, responses },
  });
}

function alarms(all: readonly Remark[]): number {
  return all.filter(({ weight }) => weight === 'alarm').length;
}
