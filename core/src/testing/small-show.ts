import type { Sound } from '../model/library/sound.js';
import { newLayer } from '../model/patch/layer.js';
import { newPatch, newPatchSound, type Patch } from '../model/patch/patch.js';
import type { Device } from '../model/rig/rig.js';
import { newCue, type Cue } from '../model/show/cue.js';
import { USUAL_GOING } from '../model/show/going.js';
import { newShow, songEntry, type Show } from '../model/show/show.js';
import { newSong, type Song } from '../model/show/song.js';
import { LivePath } from '../playing/live-path.js';
import type { PlayerHost } from '../playing/player-host.js';
import type { Player } from '../playing/notes/player.js';
import type { ShowPlan } from '../playing/show/show-plan.js';
import type { ShowRunner } from '../playing/show/show-runner.js';
import { RememberedStrips } from '../playing/stage/remembered-strips.js';
import type { Stage } from '../playing/stage/stage.js';
import { compileRig } from '../routing/compile.js';
import { COMMAND_RING_BYTES, CommandRing, RECORD } from '../sampler/command-ring.js';
import { steps } from '../setlist/running-order.js';
import { sourceOf } from '../synthesis/source.js';
import { EVEN_TOUCH } from '../touch/touch.js';

export const devices: Device[] = [
  {
    kind: 'keyboard',
    heardAs: null,
    settings: { known: null, wanted: {} },
    id: 'upper',
    rigId: 's',
    place: 'keys1',
    position: 0,
    name: 'Upper',
    port: 'upper port',
    at: null,
    alsoAt: [],
    lowestKey: 28,
    highestKey: 103,
    channel: 1,
    octaveShift: 0,
    touch: EVEN_TOUCH,
  },
  {
    kind: 'controlBox',
    heardAs: null,
    settings: { known: null, wanted: {} },
    id: 'pads',
    rigId: 's',
    place: 'pads1',
    position: 1,
    name: 'Pads',
    port: 'pad port',
    at: null,
    alsoAt: [],
    channel: 10,
    padNotes: [36, 39],
    knobControllers: [],
  },
  {
    kind: 'pedal',
    id: 'right',
    rigId: 's',
    place: 'pedal3',
    position: 2,
    name: 'Right pedal',
    port: 'upper port',
    at: null,
    alsoAt: [],
    channel: 1,
    controller: 80,
    action: 'switch',
  },
  {
    kind: 'module',
    id: 'module',
    rigId: 's',
    place: 'module1',
    position: 3,
    name: 'Module',
    port: 'module port',
    at: null,
    alsoAt: [],
    channels: [3],
  },
];
const key = { tonic: 0, spelling: 'usual', mode: 'major' } as const;
export const song: Song = {
  ...newSong('song', 'Song'),
  lengthSeconds: 60,
  fingered: key,
  sounding: { ...key, tonic: 2 },
};
export const patchOf = (id: string, sound: string): Patch => ({
  ...newPatch(id, 'song', 0, id),
  sounds: [{ ...newPatchSound('sound', sound), polyphony: 3 }],
  layers: [{ ...newLayer('layer', 'Layer', 'sound'), keyboards: ['keys1'], level: -6, pan: 0.5 }],
});
export const cueOf = (
  id: string,
  position: number,
  patchId: string,
  more: Partial<Cue> = {},
): Cue => ({
  ...newCue(id, 'song', position, id, patchId),
  ...more,
});
export const cues = {
  one: cueOf('one', 0, 'first'),
  two: cueOf('two', 1, 'first', { balance: { layer: { level: -20 } }, fadeSeconds: 4 }),
  three: cueOf('three', 2, 'second', { controllers: [{ controller: 11, value: 64 }] }),
};
export const show: Show = {
  ...newShow('s', 'Show', '2027-01-01', 's'),
  slotSeconds: 60,
  order: [songEntry('entry', 'song')],
  going: { ...USUAL_GOING, guardSeconds: 0 },
  controls: [
    { action: 'nextCue', place: 'pads1', message: { kind: 'note', note: 39 } },
    { action: 'nextCue', place: 'pedal3', message: { kind: 'controller', controller: 80 } },
    { action: 'previousCue', place: 'pads1', message: { kind: 'note', note: 36 } },
  ],
};
export const sound = (id: string, origin: Sound['origin']): Sound => ({
  id,
  name: id,
  category: 'pianos',
  tags: [],
  favourite: false,
  origin,
  lowestNote: 0,
  highestNote: 127,
});
export const sounds = new Map([
  ['house', sound('house', { kind: 'house', recipe: 'felt-piano' })],
  [
    'outside',
    sound('outside', { kind: 'outside', place: 'module1', channel: 3, bank: null, program: 7 }),
  ],
]);
export const songs = new Map([['song', song]]);
export const plan: ShowPlan = {
  show,
  devices,
  rig: compileRig(devices),
  songs,
  sounds,
  cues,
  patches: { first: patchOf('first', 'house'), second: patchOf('second', 'outside') },
  steps: steps(show.order, songs, Object.values(cues)),
  patterns: new Map(),
  ties: [],
};

/** The whole way from bytes to commands and to the bytes of a module, with two patches and three cues. */
export class SmallShow {
  readonly ring = new CommandRing(new ArrayBuffer(COMMAND_RING_BYTES));
  /** What the module was sent. */
  readonly sent: number[][] = [];
  /** What the click was asked for: when, and whether it begins a bar. */
  readonly clicks: [number, boolean][] = [];
  readonly live: LivePath;
  readonly stage: Stage;
  readonly player: Player;
  readonly runner: ShowRunner;
  readonly host: PlayerHost;
  /** The present time in seconds. */
  time = 0;

  constructor(rig: readonly Device[] = devices, controls = show.controls) {
    const port = {
      name: 'module port',
      send: (bytes: readonly number[]) => this.hear(bytes),
    };
    this.live = new LivePath({
      // As the page has it: what strips are asked for is remembered on the way.
      commands: new RememberedStrips(this.ring, () => this.time),
      frameAt: (time) => time * 48_000,
      now: () => this.time,
      playedBy: (id) => ({ slot: 5, ringsOn: sourceOf(id)?.ringsOn ?? false }),
      targetOf: ({ origin }) =>
        origin.kind === 'outside'
          ? { port, channel: origin.channel, bank: origin.bank, program: origin.program }
          : null,
      setEffects: () => undefined,
      outPort: () => port,
      clicks: {
        click: (at, isFirst) => this.clicks.push([at, isFirst]),
        callOff: () => undefined,
      },
    });
    ({ stage: this.stage, player: this.player, runner: this.runner, host: this.host } = this.live);
    this.host.setRig(rig, controls);
  }

  /** The module is sent something. */
  hear(bytes: readonly number[]): void {
    this.sent.push([...bytes]);
  }

  /** Commands written since the last look: the kind and its arguments. */
  commands(): number[][] {
    const record = new Float64Array(RECORD);
    const found: number[][] = [];
    while (this.ring.read(record)) found.push([record[0], ...record.slice(2)]);
    return found;
  }

  /** Those of one kind. */
  ofKind(kind: number): number[][] {
    return this.commands().filter(([command]) => command === kind);
  }
}
