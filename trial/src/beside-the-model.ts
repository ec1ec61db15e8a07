import {
  newCue,
  newPatch,
  newPatchSound,
  newTreatment,
  usualManner,
  type Cue,
  type Layer,
  type Patch,
  type Tie,
  type Treatment,
} from '@pentachord/core/model';
import { LivePath, type NowPlaying, type ShowPlan } from '@pentachord/core/playing';
import { COMMAND, CommandWriter } from '@pentachord/core/sampler';
import { Chance } from './chance.js';
import type { Finding } from './finding.js';
import { idOf, lineOf, PlainModel, round, type PlainTie } from './plain-model.js';
import { anyLayer, anyShow, playedBy } from './some-show.js';

/** Events between two shows. */
const A_SHOW = 2000;
const HOUSE = ['struck', 'held'];
const CUES = 6;

/** Notes down what the core asks of the engine and of the module, and what of it sounds. */
class Listener extends CommandWriter {
  readonly voices = new Map<number, string>();
  readonly outside = new Set<number>();
  readonly level = new Map<number, number>();
  readonly reverb = new Map<number, number>();
  /** Which layer a strip is of. */
  layerOn: (strip: number) => string = () => '';

  send(): boolean {
    const [command, , a, b, c, , , f, g, h] = this.record;
    if (command === COMMAND.start) {
      if (this.voices.has(a)) throw new Error(`voice ${a} began twice`);
      this.voices.set(a, lineOf({ layer: this.layerOn(b), note: f, velocity: g, gain: h }));
    } else if (command === COMMAND.end || command === COMMAND.takeBack) this.voices.delete(a);
    else if (command === COMMAND.silence) this.voices.clear();
    else if (command === COMMAND.level) this.level.set(a, round(b));
    else if (command === COMMAND.send && b === 0) this.reverb.set(a, round(c));
    else if (command === COMMAND.reset) {
      this.level.set(a, -60);
      this.reverb.set(a, -60);
    }
    return true;
  }

  hear([status, note]: readonly number[]): void {
    const kind = status & 0xf0;
    if (kind === 0x90) this.outside.add(note);
    else if (kind === 0x80) this.outside.delete(note);
    else if (kind === 0xb0 && note === 120) this.outside.clear();
  }

  get sounding(): string[] {
    const outside = [...this.outside].map((note) => `outside ${note}`);
    return [...this.voices.values(), ...outside].sort();
  }
}

/** Layers a–d of house sounds, e of the module, some of them treated by what answers at once. */
function somePatch(chance: Chance, id: string, ties: readonly PlainTie[]): Patch {
  const layer = (name: string, sound: string): Layer => ({
    ...anyLayer(chance, name, [sound]),
    sends: { reverb: chance.whole(-50, 0), delay: -60, chorus: -60 },
  });
  const layers = ['a', 'b', 'c', 'd'].map((name) => layer(name, chance.of(HOUSE)));
  layers.push(layer('e', 'outside 3'));
  const treatments: Treatment[] = [];
  const add = (kind: 'doubling' | 'sieve', layerIds: string[], more: object) =>
    treatments.push({ ...newTreatment(kind, `${kind} ${id}`, layerIds), ...more });
  if (chance.percent(50))
    add('doubling', ['b'], { octaves: chance.of([-2, -1, 1, 3]), level: chance.whole(-60, 0) });
  if (chance.percent(50))
    add('sieve', chance.of([['b'], ['c'], ['b', 'c']]), {
      ...{ keys: { low: chance.whole(0, 55), high: chance.whole(56, 127) }, everyNth: 1 },
      velocities: { low: chance.whole(1, 60), high: chance.whole(61, 127) },
      on: chance.percent(70),
    });
  const controls = ties
    .filter(() => chance.percent(70))
    .map((tie): Tie => {
      const message = { kind: 'controller' as const, controller: tie.controller };
      return {
        ...{ id: idOf(tie), place: 'keys1', message, from: tie.from, to: tie.to },
        target: { kind: 'layer', layerId: tie.layerId, parameter: tie.parameter },
        ...{ ...usualManner(message), pickUp: false },
      };
    });
  const sounds = [...HOUSE, 'outside 3'].map((sound) => newPatchSound(sound, sound));
  return { ...newPatch(id, 'song', 0, id), sounds, layers, treatments, controls };
}

const TIES: readonly PlainTie[] = [
  { controller: 20, layerId: 'a', parameter: 'level', from: -40, to: 6 },
  { controller: 20, layerId: 'b', parameter: 'level', from: 0, to: -60 },
  { controller: 21, layerId: 'c', parameter: 'reverb', from: -60, to: 0 },
  { controller: 22, layerId: 'd', parameter: 'mute', from: 0, to: 1 },
  { controller: 23, layerId: 'a', parameter: 'mute', from: 0, to: 1 },
];

function someShow(chance: Chance): ShowPlan {
  const any = anyShow(chance);
  const patches = ['one', 'two', 'three'].map((id) => somePatch(chance, id, TIES));
  const cues = Array.from({ length: CUES }, (_, i): Cue => ({
    ...newCue(`cue ${i}`, 'song', i, `cue ${i}`, chance.of(patches).id),
    balance: Object.fromEntries(
      ['a', 'b', 'c', 'd', 'e']
        .filter(() => chance.percent(40))
        .map((id) => [id, { level: chance.whole(-60, 6), muted: chance.percent(20) }]),
    ),
  }));
  return {
    ...any,
    show: {
      ...any.show,
      ...{ heldNotes: 'finish', controls: [] },
      going: { ...any.show.going, clock: { ...any.show.going.clock, leader: null, followers: [] } },
    },
    patches: Object.fromEntries(patches.map((patch) => [patch.id, patch])),
    cues: Object.fromEntries(cues.map((cue) => [cue.id, cue])),
    steps: [],
  };
}

const at = (cueId: string, patchId: string): NowPlaying => ({
  ...{ entryId: 'entry', songId: 'song', cueId, patchId, soloed: new Set<string>() },
  ...{ asCue: true, showtime: true },
});

/** So many random events through the core and through a plain model of it; after every one of them both must say the same. */
export function holdBesideTheModel(events: number, seed = 1): Finding[] {
  const chance = new Chance(seed);
  let differences = 0;
  let first = '';
  for (let done = 0; done < events; done += A_SHOW) {
    const found = oneShow(chance, Math.min(A_SHOW, events - done));
    if (found === '') continue;
    differences++;
    first ||= `show ${done / A_SHOW} (seed ${seed}): ${found}`;
  }
  if (first) console.log(first);
  return [
    {
      what: `${events} random events beside a plain model of who sounds and how loud, looked at after each: shows that differ`,
      ...{ found: String(differences), promised: '0', holds: differences === 0 },
    },
  ];
}

/** Plays one show; what differs first, or an empty text. */
function oneShow(chance: Chance, events: number): string {
  const plan = someShow(chance);
  const listener = new Listener();
  const port = { name: 'module port', send: (bytes: readonly number[]) => listener.hear(bytes) };
  let time = 1;
  const live = new LivePath({
    commands: listener,
    frameAt: () => 0,
    now: () => time,
    playedBy,
    targetOf: ({ origin }) =>
      origin.kind === 'outside' ? { port, channel: origin.channel, bank: null, program: 7 } : null,
    setEffects: () => undefined,
    outPort: () => port,
    clicks: { click: () => undefined, callOff: () => undefined },
  });
  const { host, player, runner, stage } = live;
  listener.layerOn = (strip) =>
    runner.current?.layers.find(({ id }) => stage.stripOf(id) === strip)?.id ?? '?';
  const model = new PlainModel(plan, TIES, (sound) => sound === 'struck');
  const goTo = (cueId: string) => {
    live.follow(plan, at(cueId, plan.cues[cueId].patchId));
    model.goTo(cueId);
  };
  goTo('cue 0');
  const keys = [
    { port: 'upper port', device: 0, channel: 1 },
    { port: 'lower port', device: 1, channel: 2 },
  ];
  let cue = 'cue 0';
  for (let event = 0; event < events; event++) {
    time += 0.1;
    live.advance();
    const { port: name, device, channel } = chance.of(keys);
    const send = (kind: number, a: number, b: number) =>
      host.receive(name, [kind | (channel - 1), a, b]);
    const key = chance.whole(48, 72);
    const value = chance.whole(0, 127);
    const kind = chance.whole(0, 99);
    if (kind < 40) {
      send(0x90, key, Math.max(1, value));
      model.noteOn(device, channel, key, Math.max(1, value));
    } else if (kind < 72) {
      send(chance.of([0x80, 0x90]), key, 0);
      model.noteOff(device, channel, key);
    } else if (kind < 78) {
      send(0xb0, 64, value);
      model.sustain(device, channel, value);
    } else if (kind < 88) {
      const controller = chance.of([20, 21, 22, 23]);
      host.receive('upper port', [0xb0, controller, value]);
      model.control(controller, value);
    } else if (kind < 94) {
      const next = `cue ${chance.whole(0, CUES - 1)}`;
      // The same cue in the same place is no step.
      if (next === cue) continue;
      cue = next;
      goTo(next);
    } else if (kind < 96) {
      const by = chance.of([1, -1]);
      runner.transpose(by);
      model.transpose(by);
    } else if (kind < 99) {
      const layer = chance.of(['a', 'b', 'c', 'd']);
      const by = chance.whole(-24, 12);
      runner.trim(layer, by);
      model.trim(layer, by);
    } else {
      player.allNotesOff();
      model.allNotesOff();
    }
    const differs = difference(listener, model, (id) => stage.stripOf(id));
    if (differs) return `after event ${event} (${kind}): ${differs}`;
  }
  return '';
}

function difference(
  listener: Listener,
  model: PlainModel,
  stripOf: (layerId: string) => number,
): string {
  const [heard, meant] = [listener.sounding.join('; '), model.sounding.join('; ')];
  if (heard !== meant) return `heard ${heard}, meant ${meant}`;
  for (const [id, { level, reverb }] of Object.entries(model.standing)) {
    const strip = stripOf(id);
    const [isLevel, isReverb] = [listener.level.get(strip), listener.reverb.get(strip)];
    if (isLevel !== level || isReverb !== reverb)
      return `layer ${id} stands at ${isLevel} and ${isReverb}, meant ${level} and ${reverb}`;
  }
  return '';
}
