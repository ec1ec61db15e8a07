import { describe, expect, it } from 'vitest';
import { devices } from '../../testing/small-show.js';
import type { ControlBox, Device } from '../rig/rig.js';
import { usualControls } from './usual-controls.js';

const box = (padNotes: number[]): ControlBox => ({
  ...{
    kind: 'controlBox',
    id: 'box',
    rigId: 'r',
    position: 0,
    name: 'Box',
    port: 'p',
    at: null,
    alsoAt: [],
  },
  ...{
    place: 'pads1',
    heardAs: null,
    settings: { known: null, wanted: {} },
    channel: 10,
    padNotes,
    knobControllers: [],
  },
});
const told = (rig: Device[]) =>
  usualControls(rig).map(({ action, message }) => [
    action,
    message.kind === 'pad' ? message.pad : message.kind,
  ]);

describe('what pads and pedals do in a new show', () => {
  it('is to go on, back and to stop everything', () => {
    expect(told([box([36, 37, 38, 39, 40])])).toEqual([
      ['nextCue', 3],
      ['previousCue', 2],
      ['allNotesOff', 4],
    ]);
    // A box of four has no pad to spare.
    expect(told([box([36, 37, 38, 39])])).toEqual([
      ['nextCue', 3],
      ['previousCue', 2],
    ]);
  });

  it('is the pedal’s that is no sustain pedal, and nothing where there is none', () => {
    expect(told(devices)).toEqual([['nextCue', 'pedal']]);
    const sustain = devices.map((d): Device => (d.kind === 'pedal' ? { ...d, controller: 64 } : d));
    expect(told(sustain)).toEqual([]);
  });
});
