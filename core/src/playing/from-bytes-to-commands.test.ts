import { beforeEach, describe, expect, it } from 'vitest';
import { COMMAND } from '../sampler/command-ring.js';
import { plan, SmallShow } from '../testing/small-show.js';
import { expressionGain } from './stage/controllers.js';
import type { PlayerHost } from './player-host.js';
import type { Player } from './notes/player.js';
import type { ShowRunner } from './show/show-runner.js';

let sent: number[][];
let player: Player;
let runner: ShowRunner;
let host: PlayerHost;
let small: SmallShow;
beforeEach(() => {
  small = new SmallShow();
  ({ sent, player, runner, host } = small);
});
const commands = () => small.commands();
const ofKind = (kind: number) => small.ofKind(kind);
const showtime = {
  entryId: 'entry',
  songId: 'song',
  cueId: 'one',
  patchId: 'first',
  soloed: new Set<string>(),
  asCue: true,
  showtime: false,
};

describe('from bytes to commands', () => {
  it('sounds a key through its layer’s strip, transposed with the song, and ends it', () => {
    runner.follow(plan, showtime);
    const strip = ofKind(COMMAND.level)[0][1];
    host.receive('upper port', [0x90, 60, 100]);
    const [[, voice, onStrip, slot, , polyphony, note, velocity]] = ofKind(COMMAND.start);
    expect([onStrip, slot, polyphony, note, velocity]).toEqual([strip, 5, 3, 62, 100]);
    host.receive('upper port', [60, 0]);
    expect(ofKind(COMMAND.end)).toEqual([[COMMAND.end, voice, 0, 0, 0, 0, 0, 0, 0, 0]]);
  });

  it('plays a port the rig does not know as the keyboard of its channel', () => {
    runner.follow(plan, showtime);
    host.receive('borrowed', [0x90, 60, 100]);
    expect(host.last.device).toBe('Upper');
    expect(ofKind(COMMAND.start)).toHaveLength(1);
  });

  it('counts broken bytes and keeps the running status of each cable apart', () => {
    host.receive('upper port', [0x90, 60, 100]);
    host.receive('upper port', [61, 100], 'another cable');
    expect(host.brokenBytes).toBe(2);
    host.receive('upper port', [62, 100]);
    expect(player.lastNote.key).toBe(62);
  });
});

describe('cues', () => {
  it('on the desk play the patch as it is written', () => {
    runner.follow(plan, { ...showtime, cueId: 'two', asCue: false });
    expect(ofKind(COMMAND.level)[0][2]).toBe(-6);
    runner.follow(plan, { ...showtime, cueId: 'two' });
    expect(ofKind(COMMAND.level)[0][2]).toBe(-20);
  });

  it('stay where they are at the ends, and are left alone when nothing changed', () => {
    runner.follow(plan, showtime);
    commands();
    runner.move(-1);
    runner.follow(plan, { ...showtime, soloed: new Set() });
    expect(commands()).toEqual([]);
  });

  it('put controllers where they say', () => {
    runner.follow(plan, { ...showtime, cueId: 'three', patchId: 'second' });
    expect(ofKind(COMMAND.expression)[0][2]).toBeCloseTo(expressionGain(64));
  });
});

describe('all notes off', () => {
  it('silences the engine and sends CC 120, 121 and 123 to the module', () => {
    runner.follow(plan, { ...showtime, cueId: 'three', patchId: 'second' });
    host.receive('upper port', [0x90, 60, 100]);
    player.allNotesOff();
    expect(ofKind(COMMAND.silence)).toHaveLength(1);
    expect(sent.slice(-4)).toEqual([
      [0xb2, 120, 0],
      [0xb2, 121, 0],
      [0xb2, 123, 0],
      // The pedal has not moved.
      [0xb2, 11, 64],
    ]);
  });
});
