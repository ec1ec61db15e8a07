import fc from 'fast-check';
import { beginsSchema } from '../../model/patch/begins.js';
import { expect, it } from 'vitest';
import { newChooser } from '../../model/patch/chooser.js';
import { keyOfTarget, limitsOf, type ControlTarget } from '../../model/patch/control-target.js';
import { newPatch, newPatchSound } from '../../model/patch/patch.js';
import { newTreatment } from '../../model/patch/treatment.js';
import { actsSchema, readsSchema, travelCurveSchema, type Tie } from '../../model/patch/tie.js';
import { layer } from '../../testing/fixtures.js';
import { devices } from '../../testing/small-show.js';
import { choicesOf, WHATS } from '../../ties/targets.js';
import { TiedControls } from './tied-controls.js';

const layers = [layer('a', { soundId: 'one' }), layer('b', { soundId: 'two' })];
const patch = {
  ...newPatch('patch', 'song', 0, 'Patch'),
  layers,
  sounds: [newPatchSound('one', 'house'), newPatchSound('two', 'house')],
  treatments: [newTreatment('chord', 'chord', ['a'])],
  choosers: [newChooser('hand', 'Hand', layers)],
};
const sources = { patch, places: ['keys1', 'pads1'] as const, steps: [] };
const targets = WHATS.flatMap(({ whats }) =>
  whats.flatMap((what) =>
    (['patch', 'rig'] as const).flatMap((owner) =>
      choicesOf(what, owner, { ...sources, places: [...sources.places] }).map((c) => c.target),
    ),
  ),
);
const seven = fc.nat(127);
const message = fc.oneof(
  fc.record({ kind: fc.constant('controller' as const), controller: fc.nat(40) }),
  fc.record({ kind: fc.constant('note' as const), note: fc.integer({ min: 60, max: 62 }) }),
  fc.record({
    kind: fc.constantFrom('bend' as const, 'pressure' as const, 'keyPressure' as const),
  }),
);
const anyTie = (id: string) =>
  fc
    .record({
      id: fc.constant(id),
      place: fc.constant('keys1' as const),
      message,
      target: fc.constantFrom(...targets),
      shares: fc.tuple(fc.nat(4), fc.nat(4)),
      curve: fc.constantFrom(...travelCurveSchema.options),
      acts: fc.constantFrom(...actsSchema.options),
      reads: fc.constantFrom(...readsSchema.options),
      pickUp: fc.boolean(),
      begins: fc.constantFrom(...beginsSchema.options),
    })
    .map(({ shares, ...tie }): Tie => {
      const { min, max } = limitsOf(tie.target);
      const [from, to] = shares.map((share) => min + ((max - min) * share) / 4);
      return { ...tie, from, to };
    });

it('whatever is tied and moved stays within its limits, and nothing throws', () => {
  const many = fc
    .integer({ min: 1, max: 12 })
    .chain((count) => fc.tuple(...Array.from({ length: count }, (_, at) => anyTie(`t${at}`))));
  const played = fc.array(
    fc.tuple(fc.constantFrom(0x90, 0x80, 0xa0, 0xb0, 0xd0, 0xe0), fc.nat(70), seven),
    { maxLength: 60, size: 'max' },
  );
  fc.assert(
    fc.property(many, played, fc.boolean(), (ties, messages, ofRig) => {
      const within = (target: ControlTarget, value: number) => {
        const { min, max } = limitsOf(target);
        expect(Number.isFinite(value)).toBe(true);
        expect(value).toBeGreaterThanOrEqual(min - 1e-6);
        expect(value).toBeLessThanOrEqual(max + 1e-6);
      };
      const on = new Set<string>();
      const stands = new Map<string, number>();
      const controls = new TiedControls({
        moveLayer: (layerId, parameter, { value }) =>
          within({ kind: 'layer', layerId, parameter }, value),
        moveSound: (patchSoundId, parameter, { value }) =>
          within({ kind: 'sound', patchSoundId, parameter }, value),
        isOn: (target) => on.has(keyOfTarget(target)),
        switchTo: (target, now) => {
          // It is asked for only when it changes something.
          if (now) on.add(keyOfTarget(target));
          else on.delete(keyOfTarget(target));
        },
        untied: () => undefined,
        standingOf: (target) => stands.get(keyOfTarget(target)) ?? 0,
        put: (target, value) => {
          within(target, value);
          if (target.kind === 'octave') expect(Number.isInteger(value)).toBe(true);
          stands.set(keyOfTarget(target), value);
        },
        press: (target) => expect(['show', 'goTo']).toContain(target.kind),
        pickedBy: () => 0,
        pick: (_id, choice) => expect([0, 1]).toContain(choice),
      });
      controls.setSources({ devices, show: null, rig: { ties: ofRig ? ties : [] } });
      controls.take(ofRig ? patch : { ...patch, controls: ties });
      for (const [status, data1, data2] of messages) {
        controls.message(0, status, data1, data2, 1);
        if (data2 === 64) controls.recall([{ controller: data1, value: data2 }]);
        if (data2 === 1) controls.take(ofRig ? { ...patch } : { ...patch, controls: ties });
      }
      // Untied, everything that was shifted is where it was.
      controls.take({ ...patch, controls: [] });
      controls.setSources({ devices, show: null, rig: null });
      for (const [key, value] of stands) if (key.startsWith('octave')) expect(value).toBe(0);
    }),
    { numRuns: 300 },
  );
});
