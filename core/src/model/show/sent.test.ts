import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { CONTROL_CHANGE, NOTE_ON, PROGRAM_CHANGE, SONG_SELECT } from '../../midi/messages.js';
import { keyboard } from '../../testing/fixtures.js';
import { devices as stage } from '../../testing/small-show.js';
import { deviceAtPlace, type ControlBox, type Device } from '../rig/rig.js';
import { sentAt, sentBy, touchedBy } from './sent.js';
import type { ShowMessage } from './show-message.js';

const box: ControlBox = {
  ...(stage[1] as ControlBox),
  ...{ padNotes: [36, 39, 42], knobControllers: [20, 74] },
};
const pedal = stage[2];
const upper = keyboard('upper', { port: 'upper port', channel: 1 });
const rig: Device[] = [upper, box, pedal];

describe('what a control sends', () => {
  it('is its own number, or what the pad, knob or pedal of the device sends', () => {
    const told = (message: ShowMessage, device: Device) => {
      const sent = sentBy(message, device);
      return sent && [sent.kind, sent.number];
    };
    expect(told({ kind: 'pad', pad: 1 }, box)).toEqual([NOTE_ON, 39]);
    expect(told({ kind: 'knob', knob: 1 }, box)).toEqual([CONTROL_CHANGE, 74]);
    expect(told({ kind: 'pedal' }, pedal)).toEqual([CONTROL_CHANGE, 80]);
    expect(told({ kind: 'note', note: 5 }, upper)).toEqual([NOTE_ON, 5]);
    expect(told({ kind: 'program', program: 9 }, upper)).toEqual([PROGRAM_CHANGE, 9]);
    expect(told({ kind: 'programs' }, upper)).toEqual([PROGRAM_CHANGE, -1]);
    expect(told({ kind: 'songSelect' }, upper)).toEqual([SONG_SELECT, -1]);
  });

  it('is nothing where the device has no such part', () => {
    expect(sentBy({ kind: 'pad', pad: 3 }, box)).toBeNull();
    expect(sentBy({ kind: 'knob', knob: 2 }, box)).toBeNull();
    expect(sentBy({ kind: 'pad', pad: 0 }, upper)).toBeNull();
    expect(sentBy({ kind: 'pedal' }, upper)).toBeNull();
    expect(sentAt({ place: 'keys9', message: { kind: 'note', note: 1 } }, rig)).toBeNull();
  });

  it('follows what the device sends: the same pad of another box, or of one that was set otherwise', () => {
    const other = { ...box, padNotes: [60, 61, 62] };
    const pad = { place: 'pads1', message: { kind: 'pad', pad: 2 } } as const;
    expect(sentAt(pad, rig)?.sent.number).toBe(42);
    expect(sentAt(pad, [upper, other])?.sent.number).toBe(62);
  });
});

describe('what was touched', () => {
  it('is the part of the box, or the pedal that is plugged in there, else the message as it came', () => {
    const touched = (device: Device, message: ShowMessage) => touchedBy(device, message, rig);
    expect(touched(box, { kind: 'note', note: 42 })).toEqual({
      ...{ place: 'pads1', message: { kind: 'pad', pad: 2 } },
    });
    expect(touched(box, { kind: 'controller', controller: 74 })).toEqual({
      ...{ place: 'pads1', message: { kind: 'knob', knob: 1 } },
    });
    expect(touched(upper, { kind: 'controller', controller: 80 })).toEqual({
      ...{ place: 'pedal3', message: { kind: 'pedal' } },
    });
    for (const message of [
      { kind: 'note', note: 36 },
      { kind: 'controller', controller: 20 },
      { kind: 'program', program: 3 },
    ] as const)
      expect(touched(upper, message)).toEqual({ place: 'keys1', message });
  });

  it('sends again, at the rig where it was touched, what it sent', () => {
    const number = fc.integer({ min: 0, max: 127 });
    fc.assert(
      fc.property(
        fc.constantFrom(...rig.filter(({ kind }) => kind !== 'pedal')),
        fc.oneof(
          number.map((note): ShowMessage => ({ kind: 'note', note })),
          fc
            .integer({ min: 0, max: 119 })
            .map((controller): ShowMessage => ({ kind: 'controller', controller })),
        ),
        (device, message) => {
          const touched = touchedBy(device, message, rig);
          expect(sentAt(touched, rig)?.sent).toEqual(sentBy(message, device));
          expect(deviceAtPlace(rig, touched.place)).toBeDefined();
        },
      ),
    );
  });
});
