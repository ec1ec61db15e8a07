import { newTreatment, type Patch } from '@pentachord/core/model';
import { LivePath, type ShowPlan } from '@pentachord/core/playing';
import { CommandWriter } from '@pentachord/core/sampler';
import { Chance } from './chance.js';
import type { Finding } from './finding.js';
import { heap } from './heap.js';
import { anyShow } from './some-show.js';

/** Commands that nobody carries out. */
class Unheard extends CommandWriter {
  send(): boolean {
    return true;
  }
}

const RATE = 48_000;
/** Seconds between two ticks of the clock on which everything is worked out. */
const TICK = 0.004;
/** Seconds between two cues. */
const CUE = 45;

/**
 * So many seconds of a show on a clock that is turned by hand: an arpeggio is held, the click and the clock for others go on, and
 * the tempo changes with every cue. Every click is compared with where the tempos so far put it.
 */
export function playFourHours(seconds: number): Finding[] {
  const chance = new Chance(11);
  let frame = 0;
  let ticks = 0;
  const due: number[] = [];
  const live = new LivePath({
    commands: new Unheard(),
    frameAt: (time) => Math.round(time * RATE),
    now: () => frame / RATE,
    playedBy: () => ({ slot: 0, ringsOn: true }),
    targetOf: () => null,
    setEffects: () => undefined,
    outPort: () => ({
      name: 'followers',
      send: ([status]) => {
        if (status === 0xf8) ticks++;
      },
    }),
    clicks: {
      click: (at) => due.push(Math.round(at * RATE)),
      callOff: () => {
        while (due.length > 0 && due[due.length - 1] > frame) due.pop();
      },
    },
  });
  const plan = heldArpeggio(anyShow(chance));
  live.host.setRig(plan.devices, []);
  live.follow(plan, {
    ...{ entryId: 'entry', songId: 'song', cueId: 'cue-0', patchId: 'patch-0' },
    ...{ soloed: new Set<string>(), asCue: true, showtime: true },
  });
  for (const key of [50, 54, 57]) live.host.receive('upper port', [0x90, key, 90]);
  const { clock } = live.player;
  const first = clock.beats;
  let [clicks, worst, heapEarly, beats] = [0, 0, 0, first];
  let then = 0;
  const end = seconds * RATE;
  let nextCue = CUE * RATE;
  // Where the clicks have to be, by adding up whole stretches of one tempo.
  let expected = Math.ceil(first - 1e-6);
  while (frame < end) {
    frame += TICK * RATE;
    live.advance();
    while (due.length > 0 && due[0] <= frame) {
      const at = due.shift() ?? 0;
      const should = then + ((expected - beats) * 60 * RATE) / clock.tempo;
      worst = Math.max(worst, Math.abs(at - should));
      expected++;
      clicks++;
    }
    if (frame < nextCue) continue;
    nextCue += CUE * RATE;
    // The next click is put where the new tempo has it.
    beats += ((frame - then) * clock.tempo) / 60 / RATE;
    then = frame;
    live.runner.setTempo(chance.whole(50, 200));
    if (heapEarly === 0 && frame > end / 5) heapEarly = heap();
  }
  const passed = clock.beats - first;
  const grown = (heap() - (heapEarly || heap())) / 1e6;
  return [
    {
      what: `${Math.round(seconds)} s of show, ${clicks} clicks: frames by which the worst is off, ticks for others missing or too many`,
      found: `${worst.toFixed(2)}, ${Math.abs(Math.floor(passed * 24) - ticks)}`,
      promised: 'at most 1, at most 1',
      holds: worst <= 1 && Math.abs(passed * 24 - ticks) <= 2,
    },
    {
      what: 'memory from a fifth of the way to the end',
      ...{ found: `${grown.toFixed(1)} MB more`, promised: 'at most 4 MB', holds: grown <= 4 },
    },
  ];
}

/** The show with an arpeggio on its first patch, the click on, and somebody who follows. */
function heldArpeggio(plan: ShowPlan): ShowPlan {
  const whole = plan.patches['patch-0'];
  const layers = whole.layers.map((layer) => ({
    ...layer,
    keyboards: 'any' as const,
    muted: false,
  }));
  const arpeggio = newTreatment(
    'arpeggio',
    'arpeggio',
    layers.map(({ id }) => id),
  );
  const patch: Patch = { ...whole, layers, treatments: [arpeggio], controls: [] };
  const clock = { ...plan.show.going.clock, leader: null, followers: ['followers'] };
  const going = { ...plan.show.going, clock: { ...clock, click: { ...clock.click, on: true } } };
  const cue = {
    ...plan.cues['cue-0'],
    patchId: 'patch-0',
    treatments: {},
    tempo: null,
    balance: {},
  };
  return {
    ...plan,
    show: { ...plan.show, going },
    cues: { ...plan.cues, 'cue-0': cue },
    patches: { ...plan.patches, 'patch-0': patch },
  };
}
