import {
  BLOCK,
  blockOutput,
  COMMAND,
  COMMAND_RING_BYTES,
  CommandRing,
  Limiter,
  LIMIT,
  METER,
  METERS,
  VoiceEngine,
} from '@pentachord/core/sampler';
import { HOUSE_SOUNDS, planZones, renderZone } from '@pentachord/core/synthesis';
import { Chance } from './chance.js';
import type { Finding } from './finding.js';

const RATE = 48_000;
/** Blocks whose work is taken together: what the system’s clock of work can tell apart. */
const TOGETHER = 64;
const BUDGET = (TOGETHER * BLOCK) / RATE;

/** So many seconds of a show with the house sounds: how often the audio thread would be late, and the loudest that goes out. */
export function playTwoHours(seconds: number): Finding[] {
  const chance = new Chance(7);
  const ring = new CommandRing(new ArrayBuffer(COMMAND_RING_BYTES));
  const meters = new Float32Array(METERS);
  const engine = new VoiceEngine(RATE, ring, meters);
  const limiter = new Limiter(RATE);
  HOUSE_SOUNDS.slice(0, 6).forEach((recipe, slot) =>
    engine.load(slot, { voicing: recipe.voicing, zones: planZones(recipe).map(renderZone) }),
  );
  for (let strip = 0; strip < 8; strip++) ring.write(COMMAND.level, 0, strip, 0, 0);
  const output = blockOutput();
  const out = blockOutput().mix;
  const held: number[] = [];
  let [voice, late, most, loudestIn, loudestOut, mostVoices] = [0, 0, 0, 0, 0, 0];
  const blocks = Math.ceil((seconds * RATE) / BLOCK / TOGETHER) * TOGETHER;
  let begun = work();
  for (let block = 1; block <= blocks; block++) {
    // About eight notes a second on up to four layers, held for some seconds under the pedal.
    if (chance.percent(2)) {
      const note = chance.whole(36, 84);
      const velocity = chance.whole(40, 127);
      for (let strip = 0; strip < chance.whole(1, 4); strip++) {
        ring.write(COMMAND.start, 0, ++voice, strip, strip, strip, 0, note, velocity, 1);
        held.push(voice);
      }
    }
    while (held.length > 40) ring.write(COMMAND.end, 0, held.shift());
    engine.render(output);
    limiter.render(output.mix, out);
    mostVoices = Math.max(mostVoices, meters[METER.voices]);
    for (let i = 0; i < BLOCK; i += 8) {
      loudestIn = Math.max(loudestIn, Math.abs(output.mix.left[i]));
      loudestOut = Math.max(loudestOut, Math.abs(out.left[i]), Math.abs(out.right[i]));
    }
    if (block % TOGETHER !== 0) continue;
    const spent = work() - begun;
    most = Math.max(most, spent / BUDGET);
    if (spent > BUDGET) late++;
    begun = work();
  }
  const decibels = (size: number) => (20 * Math.log10(size + 1e-9)).toFixed(1);
  return [
    {
      what: `${Math.round(seconds)} s of show, up to ${mostVoices} voices: stretches of ${TOGETHER} blocks that took longer than they last (at most ${(most * 100).toFixed(0)} % of it)`,
      ...{ found: String(late), promised: '0', holds: late === 0 },
    },
    {
      what: `the loudest that goes out of the limiter, ${decibels(loudestIn)} dBFS going in`,
      found: `${decibels(loudestOut)} dBFS`,
      promised: 'at most −0.3 dBFS',
      holds: loudestOut <= LIMIT * (1 + 1e-6),
    },
  ];
}

/** Seconds that this process has worked, whatever else the machine did. */
function work(): number {
  const { user, system } = process.cpuUsage();
  return (user + system) / 1e6;
}
