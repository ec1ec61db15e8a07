import fc from 'fast-check';
import { beforeEach, describe, expect, it } from 'vitest';
import type { Layer } from '../../model/patch/layer.js';
import { anyLayers, compiled, layer } from '../../testing/fixtures.js';
import { VERDICT } from '../../routing/judge.js';
import type { PlayerOutput } from './player-output.js';
import { Player } from './player.js';
import { trace } from '../../routing/trace.js';

/** Hears what the player does: which voices sound, and whether it ever contradicts itself. */
class Listener implements PlayerOutput {
  readonly sounding = new Map<number, { layer: string; note: number; velocity: number }>();
  readonly log: string[] = [];
  start(
    voice: number,
    _patch: unknown,
    played: { id: string },
    note: number,
    velocity: number,
  ): void {
    if (this.sounding.has(voice)) throw new Error('a voice began twice');
    this.sounding.set(voice, { layer: played.id, note, velocity });
    this.log.push(`+${played.id} ${note}`);
  }
  end(voice: number): void {
    const was = this.sounding.get(voice);
    if (!was) throw new Error('a voice ended that did not sound');
    this.sounding.delete(voice);
    this.log.push(`-${was.layer} ${was.note}`);
  }
  takeBack(): void {
    // Without treatments everything is due at once.
  }
  retime(): void {
    // The same.
  }
  deviceGone(device: number): void {
    this.log.push(`gone ${device}`);
  }
  /** Layers by the id of a string die away by themselves. */
  ringsOn({ id }: { id: string }): boolean {
    return id === 'string';
  }
  moveDevices(): void {
    // Nothing is kept by device here.
  }
  control(device: number, channel: number, controller: number, value: number): void {
    this.log.push(`cc ${device} ${channel} ${controller} ${value}`);
  }
  bend(device: number, channel: number, amount: number): void {
    this.log.push(`bend ${device} ${channel} ${amount}`);
  }
  pressure(device: number, channel: number, value: number): void {
    this.log.push(`pressure ${device} ${channel} ${value}`);
  }
  voicePressure(voice: number, value: number): void {
    this.log.push(`pressure of ${this.sounding.get(voice)?.note} ${value}`);
  }
  silence(): void {
    this.log.push('silence');
  }
}

let heard: Listener;
let player: Player;
beforeEach(() => {
  heard = new Listener();
  player = new Player(heard);
});
const names = () => [...heard.sounding.values()].map((v) => `${v.layer} ${v.note}`);

describe('the player', () => {
  it('holds with the pedal only the layers that obey it', () => {
    player.take(compiled([layer('held'), layer('dry', { obeys: [] })]));
    player.message(0, 0xb0, 64, 64);
    player.noteOn(0, 1, 60, 90);
    player.noteOff(0, 1, 60);
    expect(names()).toEqual(['held 60']);
    player.message(0, 0xb0, 64, 63);
    expect(names()).toEqual([]);
  });

  it('ends a key struck again before its release, and one the pedal still holds', () => {
    player.take(compiled([layer('a')]));
    player.noteOn(0, 1, 60, 90);
    player.noteOn(0, 1, 60, 91);
    expect(names()).toEqual(['a 60']);
    player.message(0, 0xb0, 64, 127);
    player.noteOff(0, 1, 60);
    player.noteOn(0, 1, 60, 92);
    expect(names()).toEqual(['a 60']);
    expect(player.voicesHeld).toBe(1);
  });

  it('lets a string ring on under the pedal when it is struck again, and no more than one strike of it', () => {
    player.take(compiled([layer('string'), layer('pad')]));
    const strike = (velocity: number) => {
      player.noteOn(0, 1, 60, velocity);
      player.noteOff(0, 1, 60);
    };
    player.message(0, 0xb0, 64, 127);
    strike(120);
    strike(20);
    strike(30);
    const ringing = [...heard.sounding.values()].map((v) => `${v.layer} ${v.velocity}`);
    expect(ringing.sort()).toEqual(['pad 30', 'string 20', 'string 30']);
    player.message(0, 0xb0, 64, 0);
    expect(names()).toEqual([]);
    player.noteOn(0, 1, 60, 120);
    player.noteOn(0, 1, 60, 20);
    expect(names().sort()).toEqual(['pad 60', 'string 60']);
  });

  it('takes velocity 0 as a note-off and real keyboards’ mode messages at their word', () => {
    player.take(compiled([layer('a')]));
    player.message(0, 0x90, 60, 80);
    player.message(0, 0x90, 60, 0);
    expect(names()).toEqual([]);
    player.message(0, 0x90, 62, 80);
    player.message(0, 0xb0, 123, 0);
    expect(names()).toEqual([]);
    player.message(0, 0xb0, 64, 127);
    player.message(0, 0x90, 64, 80);
    player.message(0, 0xb0, 123, 0);
    expect(names()).toEqual(['a 64']);
    player.message(0, 0xb0, 120, 0);
    expect(names()).toEqual([]);
  });

  it('never holds more than its voices, and lets the oldest go', () => {
    const many = Array.from({ length: 32 }, (_, i) => layer(`layer-${i}`));
    player.take(compiled(many));
    // Places that were free in between are taken again, so that age and place differ.
    for (const key of [20, 21, 22]) player.noteOn(0, 1, key, 90);
    player.noteOff(0, 1, 20);
    for (let key = 23; key < 60; key++) player.noteOn(0, 1, key, 90);
    expect(player.voicesHeld).toBe(1024);
    const held = new Set([...heard.sounding.values()].map(({ note }) => note));
    // Of 39 keys with 32 voices each the first seven have given way.
    expect([...held]).toEqual(Array.from({ length: 32 }, (_, i) => 28 + i));
    for (let key = 20; key < 60; key++) player.noteOff(0, 1, key);
    expect(heard.sounding.size).toBe(0);
  });
});

type Event =
  | { kind: 'on' | 'off'; device: number; channel: number; key: number; velocity: number }
  | { kind: 'pedal'; device: number; channel: number; value: number }
  | { kind: 'patch'; layers: Layer[]; id: string; heldNotes: 'finish' | 'cut'; songShift: number };

const from = {
  device: fc.integer({ min: 0, max: 1 }),
  channel: fc.integer({ min: 1, max: 2 }),
};
const anyEvent: fc.Arbitrary<Event> = fc.oneof(
  fc.record({
    kind: fc.constantFrom('on' as const, 'off' as const),
    ...from,
    key: fc.integer({ min: 40, max: 46 }),
    velocity: fc.integer({ min: 0, max: 127 }),
  }),
  fc.record({
    kind: fc.constant('pedal' as const),
    ...from,
    value: fc.integer({ min: 0, max: 127 }),
  }),
  fc.record({
    kind: fc.constant('patch' as const),
    layers: anyLayers,
    id: fc.constantFrom('one', 'two'),
    heldNotes: fc.constantFrom('finish' as const, 'cut' as const),
    songShift: fc.integer({ min: -5, max: 6 }),
  }),
);

describe('for any sequence of note, pedal and cue events', () => {
  it('nothing sounds once no key and no pedal is down', () => {
    fc.assert(
      fc.property(fc.array(anyEvent, { maxLength: 60, size: 'max' }), (events) => {
        const listener = new Listener();
        const p = new Player(listener);
        p.take(compiled([layer('whole')]));
        const keysDown = new Set<string>();
        const pedalsDown = new Set<string>();
        for (const event of events) {
          if (event.kind === 'patch') {
            p.take(compiled(event.layers, event), event.heldNotes);
          } else {
            const where = `${event.device} ${event.channel}`;
            if (event.kind === 'pedal') {
              p.message(event.device, 0xb0 | (event.channel - 1), 64, event.value);
              if (event.value >= 64) pedalsDown.add(where);
              else pedalsDown.delete(where);
            } else {
              const on = event.kind === 'on' && event.velocity > 0;
              const status = (event.kind === 'on' ? 0x90 : 0x80) | (event.channel - 1);
              p.message(event.device, status, event.key, event.velocity);
              if (on) keysDown.add(`${where} ${event.key}`);
              else keysDown.delete(`${where} ${event.key}`);
            }
          }
          expect(p.voicesHeld).toBe(listener.sounding.size);
          if (keysDown.size === 0 && pedalsDown.size === 0) expect(listener.sounding.size).toBe(0);
        }
        for (const down of keysDown) {
          const [device, channel, key] = down.split(' ').map(Number);
          p.noteOff(device, channel, key);
        }
        for (const down of pedalsDown) {
          const [device, channel] = down.split(' ').map(Number);
          p.message(device, 0xb0 | (channel - 1), 64, 0);
        }
        expect(listener.sounding.size).toBe(0);
      }),
    );
  });

  it('begins exactly the voices that judging the note says sound', () => {
    fc.assert(
      fc.property(
        anyLayers,
        fc.integer({ min: 0, max: 1 }),
        fc.integer({ min: 1, max: 3 }),
        fc.integer({ min: 0, max: 127 }),
        fc.integer({ min: 1, max: 127 }),
        (layers, device, channel, key, velocity) => {
          const listener = new Listener();
          const p = new Player(listener);
          const patch = compiled(layers, { songShift: -3 });
          p.take(patch);
          p.noteOn(device, channel, key, velocity);
          const expected = trace(patch, { device, channel, key, velocity })
            .layers.filter((entry) => entry.verdict === VERDICT.sounds)
            .map((entry) => `+${entry.layer.id} ${entry.note}`);
          expect(listener.log).toEqual(expected);
          expect(p.velocityOf(device, key)).toBe(velocity);
        },
      ),
    );
  });

  it('all notes off leaves nothing, whatever came before, and playing goes on afterwards', () => {
    fc.assert(
      fc.property(fc.array(anyEvent, { maxLength: 30, size: 'max' }), (events) => {
        const listener = new Listener();
        const p = new Player(listener);
        for (const event of events) {
          if (event.kind === 'patch') p.take(compiled(event.layers, event), event.heldNotes);
          else if (event.kind === 'pedal')
            p.message(event.device, 0xb0 | (event.channel - 1), 64, event.value);
          else
            p.message(
              event.device,
              (event.kind === 'on' ? 0x90 : 0x80) | (event.channel - 1),
              event.key,
              event.velocity,
            );
        }
        p.allNotesOff();
        expect(listener.sounding.size).toBe(0);
        p.take(compiled([layer('whole')]));
        p.noteOn(0, 1, 60, 90);
        expect(listener.sounding.size).toBe(1);
        p.noteOff(0, 1, 60);
        expect(listener.sounding.size).toBe(0);
      }),
    );
  });
});
