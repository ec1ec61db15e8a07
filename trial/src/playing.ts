import {
  LivePath,
  type NowPlaying,
  type Player,
  type PlayerHost,
  type ShowPlan,
  type ShowRunner,
} from '@pentachord/core/playing';
import {
  BLOCK,
  blockOutput,
  COMMAND_RING_BYTES,
  CommandRing,
  METER,
  METERS,
  VoiceEngine,
} from '@pentachord/core/sampler';
import { Chance } from './chance.js';
import type { Finding } from './finding.js';
import { heap } from './heap.js';
import { anyLayer, anyShow, devices, playedBy, SOUNDS } from './some-show.js';

const RATE = 48_000;
/** Seconds after which the longest release is over: of the sounds that are loaded here, and of what was cut. */
const LONGEST_RELEASE = 1.5;
/** Events between two looks at what is left when keys and pedals are up. */
const BETWEEN_LOOKS = 2000;

/** A sine that holds for ever, or dies away. */
function sound(loopDecay: number) {
  const left = Float32Array.from({ length: 4800 }, (_, i) => 0.3 * Math.sin((Math.PI * i) / 60));
  const all = { low: 0, high: 127 };
  const zone = { rootKey: 64, keys: all, velocities: all, sampleRate: RATE, left, right: left };
  const voicing = { attack: 0.005, release: 0.2, dynamics: 30, brightness: 9000, darkening: 2 };
  return { voicing, zones: [{ ...zone, loopStart: 0, loopEnd: 4800, loopDecay }] };
}

/** How far the engine's clock can be from the page's, in blocks either way, and the blocks of a burst. */
const MOST_APART = 4;
const BURST = 8;

/**
 * Everything from bytes to samples, on a clock that the trial turns. The engine is ahead of the page or behind it, renders block
 * by block or in bursts, and the page looks at what is due every 4 to 60 milliseconds.
 */
class Rehearsal {
  private readonly ring = new CommandRing(new ArrayBuffer(COMMAND_RING_BYTES));
  private readonly meters = new Float32Array(METERS);
  private readonly engine = new VoiceEngine(RATE, this.ring, this.meters);
  private readonly output = blockOutput();
  /** The frame at which the page is, and the one that the engine renders next. */
  private frame = MOST_APART * BLOCK;
  private rendered = 0;
  private apart = 0;
  private burst = 1;
  private advancesAt = 0;
  private longestAdvance = 4;
  /** Notes that the module holds, by channel and note. */
  readonly moduleHolds = new Map<number, number>();
  /** Clock messages that followers were sent. */
  ticksSent = 0;
  readonly live: LivePath;
  readonly player: Player;
  readonly runner: ShowRunner;
  readonly host: PlayerHost;

  constructor(private readonly chance: Chance) {
    this.changeClocks();
    this.engine.load(0, sound(20));
    this.engine.load(1, sound(0));
    const now = () => this.frame / RATE;
    const port = { name: 'module port', send: (bytes: readonly number[]) => this.hear(bytes) };
    this.live = new LivePath({
      commands: this.ring,
      frameAt: (time) => Math.round(time * RATE),
      now,
      playedBy,
      targetOf: ({ origin }) =>
        origin.kind === 'outside'
          ? { port, channel: origin.channel, bank: origin.bank, program: origin.program }
          : null,
      setEffects: () => undefined,
      outPort: () => ({ name: 'followers', send: () => this.ticksSent++ }),
      clicks: { click: () => undefined, callOff: () => undefined },
    });
    const { player, runner, host } = this.live;
    this.player = player;
    this.runner = runner;
    this.host = host;
  }

  /** Voices that sound. */
  get voices(): number {
    return this.meters[METER.voices];
  }

  /** Commands that found no room. */
  get refused(): number {
    return this.ring.refused;
  }

  get waits(): boolean {
    return this.player.needsClock;
  }

  wait(seconds: number): void {
    const until = this.frame + seconds * RATE;
    while (this.frame < until) {
      if (this.frame >= this.advancesAt) {
        this.live.advance();
        this.advancesAt = this.frame + (this.chance.whole(4, this.longestAdvance) / 1000) * RATE;
      }
      if (this.chance.percent(0.2)) this.changeClocks();
      this.renderTo(this.frame + this.apart * BLOCK);
      this.frame += BLOCK;
    }
  }

  private renderTo(frame: number): void {
    if (frame - this.rendered < this.burst * BLOCK) return;
    while (this.rendered + BLOCK <= frame) {
      this.engine.render(this.output, this.rendered);
      this.rendered += BLOCK;
    }
  }

  /** Clocks of two threads drift, and a busy machine is late. */
  private changeClocks(): void {
    const { chance } = this;
    this.apart = chance.whole(-MOST_APART, MOST_APART);
    this.burst = chance.of([1, 1, BURST]);
    this.longestAdvance = chance.of([4, 4, 12, 60]);
  }

  private hear([status, note, value]: readonly number[]): void {
    const kind = status & 0xf0;
    const at = (status & 15) * 128 + note;
    if (kind === 0x90) this.moduleHolds.set(at, value);
    else if (kind === 0x80) this.moduleHolds.delete(at);
    else if (kind === 0xb0 && (note === 120 || note === 123))
      for (const held of [...this.moduleHolds.keys()])
        if (held >> 7 === (status & 15)) this.moduleHolds.delete(held);
  }
}

/** What each device sends on, and from which keys. */
const SENDERS = [
  { port: 'upper port', channel: 1, from: 40, to: 70 },
  { port: 'lower port', channel: 2, from: 40, to: 70 },
  { port: 'pad port', channel: 10, from: 36, to: 39 },
];

/**
 * So many random events through host, player and engine; every so often all keys and pedals come up. Every other time nothing
 * was silenced until then.
 */
export function playAtRandom(events: number, seed = 1): Finding[] {
  const chance = new Chance(seed);
  let rehearsal = new Rehearsal(chance);
  let plan = anyShow(chance);
  let place: NowPlaying = at('cue-0', 'patch-0');
  let [looks, left, exceptions, refused] = [0, 0, 0, 0];
  let firstTrouble = '';
  const trouble = (words: string) => (firstTrouble ||= `${words} (seed ${seed})`);
  let heapEarly = 0;
  rehearsal.runner.onStep = ({ cueId }, patchId) => (place = at(cueId, patchId));
  rehearsal.host.setRig(devices, plan.show.controls);
  rehearsal.live.follow(plan, place);
  for (let event = 1; event <= events; event++) {
    try {
      [plan, place] = happen(rehearsal, chance, plan, place, looks % 2 === 0);
      if (chance.percent(25)) rehearsal.wait(chance.whole(1, 12) / 1000);
    } catch (error) {
      exceptions++;
      trouble(error instanceof Error ? (error.stack ?? error.message) : String(error));
    }
    if (event % BETWEEN_LOOKS !== 0) continue;
    looks++;
    letAllGo(rehearsal);
    place = at('last', 'last');
    rehearsal.live.follow(plan, place);
    rehearsal.wait(LONGEST_RELEASE);
    const held = rehearsal.voices + rehearsal.player.voicesHeld + rehearsal.moduleHolds.size;
    if (held > 0 || rehearsal.waits) {
      left++;
      trouble(
        `look ${looks}: ${rehearsal.voices} voices, ${rehearsal.player.voicesHeld} held, ${rehearsal.moduleHolds.size} of the module, clock ${rehearsal.waits}`,
      );
      refused += rehearsal.refused;
      rehearsal = new Rehearsal(chance);
      rehearsal.runner.onStep = ({ cueId }, patchId) => (place = at(cueId, patchId));
    }
    plan = anyShow(chance);
    place = at('cue-0', 'patch-0');
    rehearsal.host.setRig(devices, plan.show.controls);
    rehearsal.live.follow(plan, place);
    if (event >= events / 5 && heapEarly === 0) heapEarly = heap();
  }
  const grown = (heap() - heapEarly) / 1e6;
  if (firstTrouble) console.log(firstTrouble);
  refused += rehearsal.refused;
  return [
    {
      what: `${events} random events, all keys and pedals up ${looks} times: looks with something left`,
      ...{ found: String(left), promised: '0', holds: left === 0 },
    },
    {
      what: 'exceptions meanwhile, commands without room',
      ...{
        found: `${exceptions}, ${refused}`,
        promised: '0, 0',
        holds: exceptions + refused === 0,
      },
    },
    {
      what: 'memory from a fifth of the way to the end',
      ...{ found: `${grown.toFixed(1)} MB more`, promised: 'at most 8 MB', holds: grown <= 8 },
    },
  ];
}

function at(cueId: string | null, patchId: string | null): NowPlaying {
  return {
    ...{ entryId: 'entry', songId: 'song', cueId, patchId, soloed: new Set<string>() },
    ...{ asCue: true, showtime: true },
  };
}

function letAllGo(rehearsal: Rehearsal): void {
  rehearsal.host.setRig(devices, []);
  // On every channel: bytes by chance are keys of any.
  for (const { port } of SENDERS)
    for (let channel = 0; channel < 16; channel++) {
      for (let key = 0; key < 128; key++) rehearsal.host.receive(port, [0x80 | channel, key, 64]);
      rehearsal.host.receive(port, [0xb0 | channel, 64, 0]);
    }
}

/** One event of any kind. */
function happen(
  rehearsal: Rehearsal,
  chance: Chance,
  plan: ShowPlan,
  place: NowPlaying,
  silences: boolean,
): [ShowPlan, NowPlaying] {
  const { host, runner, player } = rehearsal;
  const { port, channel, from, to } = chance.of(SENDERS);
  const send = (kind: number, a: number, b: number) =>
    host.receive(port, [kind | (channel - 1), a, b]);
  const kind = chance.whole(0, 999);
  if (kind < 420) send(0x90, chance.whole(from, to), chance.whole(1, 127));
  else if (kind < 800) send(0x80, chance.whole(from, to), 64);
  else if (kind < 840) send(0xb0, 64, chance.of([0, 127]));
  else if (kind < 880) send(0xb0, chance.of([1, 11, 20, 21, 74]), chance.whole(0, 127));
  else if (kind < 900) send(0xe0, chance.whole(0, 127), chance.whole(0, 127));
  else if (kind < 910) send(0xb0, silences ? chance.of([120, 121, 123, 124, 127]) : 121, 0);
  else if (kind < 925) runner.move(chance.of([1, 1, -1]));
  else if (kind < 928) runner.transpose(chance.of([1, -1, 5]));
  else if (kind < 931) runner.trim(`layer-${chance.whole(0, 3)}`, chance.whole(-24, 12));
  else if (kind < 936) rehearsal.live.orders.press(chance.of(PRESSES));
  else if (kind < 940) lead(rehearsal, chance);
  else if (kind < 955 && !silences) lead(rehearsal, chance);
  else if (kind < 945) player.allNotesOff();
  else if (kind < 950) host.portGone(port);
  else if (kind < 955)
    host.setRig(chance.of([devices, devices.slice(0, 2), devices.slice(1)]), plan.show.controls);
  else if (kind < 960) player.clock.tempo = chance.whole(40, 240);
  else if (kind < 985) return [edited(rehearsal, chance, plan, place), place];
  else if (kind < 990) {
    const patchId = chance.of(Object.keys(plan.patches));
    const asCue = chance.percent(50);
    const next = { ...at(place.cueId, patchId), asCue, showtime: asCue };
    runner.follow(plan, next);
    return [plan, next];
  } else if (silences)
    host.receive(
      port,
      Array.from({ length: 5 }, () => chance.whole(0, 255)),
    );
  return [plan, place];
}

/** What is pressed besides going on and back. */
const PRESSES = ['tapTempo', 'countIn', 'stopClock', 'click', 'nextSong', 'previousSong'] as const;

/** Another device starts or stops, and ticks for a while, unsteadily. */
function lead(rehearsal: Rehearsal, chance: Chance): void {
  rehearsal.host.receive('clock port', [chance.of([0xfa, 0xfb, 0xfc])]);
  const period = chance.of([0.008, 0.02]);
  for (let tick = chance.whole(1, 30); tick > 0; tick--) {
    rehearsal.wait(period + chance.whole(-3, 3) / 1000);
    rehearsal.host.receive('clock port', [0xf8]);
  }
}

/** The plan with one thing of the present patch changed. */
function edited(
  { runner }: Rehearsal,
  chance: Chance,
  plan: ShowPlan,
  place: NowPlaying,
): ShowPlan {
  const patchId = (place.cueId && plan.cues[place.cueId]?.patchId) ?? place.patchId ?? 'last';
  const patch = plan.patches[patchId];
  const layers = patch.layers.map((layer) =>
    chance.percent(30) ? { ...anyLayer(chance, layer.id, SOUNDS), soundId: layer.soundId } : layer,
  );
  if (chance.percent(20)) layers.push(anyLayer(chance, `layer-${chance.whole(10, 999)}`, SOUNDS));
  const treatments = chance.percent(30)
    ? patch.treatments.slice(1)
    : patch.treatments.map((t) => (chance.percent(20) ? { ...t, on: !t.on } : t));
  const controls = chance.percent(20) ? patch.controls.slice(1) : patch.controls;
  const next = { ...patch, layers: layers.slice(-8), treatments, controls };
  const changed = { ...plan, patches: { ...plan.patches, [patchId]: next } };
  runner.follow(changed, place);
  return changed;
}
