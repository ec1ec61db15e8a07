import fc from 'fast-check';
import { beforeEach, describe, expect, it } from 'vitest';
import type { DeviceSettings } from '../model/rig/device-settings.js';
import { keyboard } from '../testing/fixtures.js';
import { asItHolds, factorySettings, settingInWords, wantedSettings } from './comparing.js';
import { ANSWER_WITHIN, SettingsExchange, type ExchangeState } from './exchange.js';
import {
  PACKET,
  inPackets,
  packetBytes,
  readPacket,
  readSettings,
  settingsPayload,
} from './packets.js';
import { fittedSensitivity, PAD_STROKES } from './pad-touch.js';
import { StandInMemory, type Misbehaviour } from './stand-in-memory.js';
import { velocitySent } from './stroke-curve.js';

const seven = fc.integer({ min: 0, max: 127 });
const anySettings: fc.Arbitrary<DeviceSettings> = fc.record({
  sendsOn: fc.uniqueArray(fc.integer({ min: 1, max: 16 }), { minLength: 1, maxLength: 4 }),
  octave: fc.integer({ min: -4, max: 4 }),
  curve: fc.constantFrom('softer', 'even', 'harder'),
  local: fc.boolean(),
  padNotes: fc.array(seven, { maxLength: 16 }),
  padSensitivity: fc.array(fc.integer({ min: 1, max: 8 }), { maxLength: 16 }),
  knobControllers: fc.array(fc.integer({ min: 0, max: 119 }), { maxLength: 16 }),
});
const before = factorySettings(keyboard('lower'));
const wanted: DeviceSettings = {
  ...before,
  ...{ sendsOn: [3], curve: 'softer', octave: -1 },
  padNotes: Array.from({ length: 16 }, (_, at) => 36 + at),
};

describe('settings in packets', () => {
  it('come out as they went in, seven bits a byte, whatever they are', () => {
    fc.assert(
      fc.property(anySettings, fc.integer({ min: 0, max: 127 }), (settings, exchange) => {
        const packets = inPackets(PACKET.write, exchange, settingsPayload(settings));
        const read = packets.flatMap((packet) => {
          const bytes = packetBytes(packet);
          expect(bytes.slice(0, 2)).toEqual([0xf0, 0x7d]);
          expect(bytes.slice(1, -1).every((byte) => byte < 128)).toBe(true);
          const back = readPacket(bytes.slice(1, -1));
          if (typeof back === 'string') throw new Error(back);
          expect(back).toEqual(packet);
          return back.payload;
        });
        expect(readSettings(read)).toEqual(settings);
      }),
    );
  });

  it('tell of any one byte that is not what was sent', () => {
    const [packet] = inPackets(PACKET.write, 5, settingsPayload(wanted));
    const bytes = packetBytes(packet).slice(1, -1);
    fc.assert(
      fc.property(
        fc.integer({ min: 2, max: bytes.length - 1 }),
        fc.integer({ min: 1, max: 127 }),
        (at, by) => {
          expect(readPacket(bytes.with(at, (bytes[at] + by) % 128))).toBe('wrong checksum');
        },
      ),
    );
  });

  it('are nothing when they come from another maker, or are no settings', () => {
    expect(readPacket([0x41, 0x10, 1, 2, 3, 4, 5, 6])).toBe('not ours');
    expect(readSettings([1, 5, 2])).toBeNull();
    expect(readSettings([])).toBeNull();
    fc.assert(
      fc.property(fc.array(seven), (bytes) => void [readPacket(bytes), readSettings(bytes)]),
    );
  });
});

describe('writing and reading back', () => {
  let memory: StandInMemory;
  let kept: DeviceSettings[];
  let time: number;
  beforeEach(() => {
    kept = [];
    time = 0;
    memory = new StandInMemory(before, (settings) => kept.push(settings));
  });

  /** Talks until it is over; `lost` says which messages to the device get lost on the way, counted from 0. */
  function talk(
    settings: DeviceSettings | null,
    lost: (message: number) => boolean = () => false,
  ): ExchangeState {
    const waiting: number[][] = [];
    let said = 0;
    const exchange = new SettingsExchange(
      settings,
      (bytes) => {
        if (!lost(said++)) waiting.push(...memory.receive(bytes.slice(1, -1)));
      },
      9,
      time,
    );
    for (let turn = 0; turn < 100 && !exchange.isOver; turn++) {
      const answers = waiting.splice(0);
      for (const answer of answers) exchange.receive(answer.slice(1, -1), time);
      if (answers.length > 0) continue;
      time += ANSWER_WITHIN;
      exchange.advance(time);
    }
    expect(exchange.isOver).toBe(true);
    return exchange.state;
  }

  it('goes packet by packet, and what is read back is compared', () => {
    expect(inPackets(PACKET.write, 0, settingsPayload(wanted)).length).toBeGreaterThan(1);
    expect(talk(wanted)).toEqual({ step: 'read', wrote: true, settings: wanted, differences: [] });
    expect(kept).toEqual([wanted]);
    expect(talk(null)).toMatchObject({ step: 'read', wrote: false, settings: wanted });
  });

  it('says again what gets lost, and gives up when nothing comes', () => {
    expect(talk(wanted, (message) => message === 1)).toMatchObject({
      step: 'read',
      differences: [],
    });
    expect(talk(wanted, () => true)).toMatchObject({ step: 'failed', wrote: false });
  });

  it.each<[Misbehaviour, string, boolean]>([
    ['does not answer', 'does not answer', false],
    ['wrong checksum', 'wrong checksum', true],
    ['stops half-way', 'stopped answering after', true],
  ])('fails in words when a device %s, and the old settings stay', (misbehaviour, words) => {
    memory.misbehaviour = misbehaviour;
    const state = talk(wanted);
    expect(state).toMatchObject({ step: 'failed' });
    expect('words' in state && state.words).toContain(words);
    expect(memory.settings).toEqual(before);
    memory.misbehaviour = 'none';
    expect(talk(wanted)).toMatchObject({ step: 'read', differences: [] });
  });

  it('tells of an old channel that was left on', () => {
    memory.misbehaviour = 'leaves the old channel on';
    const state = talk(wanted);
    if (state.step !== 'read') throw new Error(state.step);
    expect(state.differences.map(({ setting }) => setting)).toEqual(['sendsOn']);
    expect(settingInWords('sendsOn', state.settings, 4)).toBe('3 and 2');
  });

  it('is all or nothing, in whatever order packets come, and never throws', () => {
    const packets = inPackets(PACKET.write, 1, settingsPayload(wanted)).map((packet) =>
      packetBytes(packet).slice(1, -1),
    );
    fc.assert(
      fc.property(
        fc.array(fc.oneof(fc.constantFrom(...packets), fc.array(seven)), { maxLength: 12 }),
        (messages) => {
          const device = new StandInMemory(before);
          for (const message of messages) device.receive(message);
          expect([before, wanted]).toContainEqual(device.settings);
        },
      ),
    );
  });
});

describe('what the rig knows of a device', () => {
  const device = keyboard('lower', {
    settings: { known: before, wanted: { sendsOn: [3], curve: 'softer' } },
  });

  it('is what it was read to hold, and what is still wanted', () => {
    expect(wantedSettings(device)).toMatchObject({ sendsOn: [3], curve: 'softer', octave: 0 });
    const half = { ...before, sendsOn: [3] };
    expect(asItHolds(device, half)).toEqual({
      channel: 3,
      settings: { known: half, wanted: { curve: 'softer' } },
    });
  });

  it('bends strokes by curve and by how easily a pad speaks, and keeps their order', () => {
    expect(velocitySent(64, 'even')).toBe(64);
    expect(velocitySent(64, 'softer')).toBeGreaterThan(64);
    expect(velocitySent(64, 'even', 1)).toBeLessThan(64);
    for (let stroke = 2; stroke <= 127; stroke++)
      expect(velocitySent(stroke, 'harder', 2)).toBeGreaterThanOrEqual(
        velocitySent(stroke - 1, 'harder', 2),
      );
    expect(velocitySent(127, 'harder', 1)).toBe(127);
  });
});

describe('how easily a pad has to speak', () => {
  const strokes = (stroke: number, sensitivity: number) =>
    Array.from({ length: PAD_STROKES }, () => velocitySent(stroke, 'even', sensitivity));

  it('is what brings medium strokes nearest to 70, whatever it was set to and however a player strikes', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 20, max: 120 }),
        fc.integer({ min: 1, max: 8 }),
        (stroke, now) => {
          const found = fittedSensitivity(strokes(stroke, now), now) ?? 0;
          const miss = (sensitivity: number) =>
            Math.abs(velocitySent(stroke, 'even', sensitivity) - 70);
          const best = Math.min(...[1, 2, 3, 4, 5, 6, 7, 8].map(miss));
          // What was sent is whole numbers, so that the stroke is known to within one.
          expect(miss(found)).toBeLessThanOrEqual(best + 4);
        },
      ),
    );
  });

  it('is not led astray by one slip, and waits for enough strokes', () => {
    const five = strokes(50, 4);
    expect(fittedSensitivity([127, ...five.slice(1)], 4)).toBe(fittedSensitivity(five, 4));
    expect(fittedSensitivity(five.slice(1), 4)).toBeNull();
  });
});
