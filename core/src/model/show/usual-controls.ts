import { CC } from '../../midi/messages.js';
import type { Device } from '../rig/rig.js';
import type { ShowControl } from './show-control.js';

/**
 * What pads and pedals of a rig do in a new show: of the first pad box the fourth pad goes on, the third goes back and the last
 * stops everything; a switch pedal that is no sustain pedal goes on too.
 */
export function usualControls(devices: readonly Device[]): ShowControl[] {
  const controls: ShowControl[] = [];
  const box = devices.find((d) => d.kind === 'controlBox' && d.padNotes.length >= 4);
  const pedal = devices.find(
    (d) => d.kind === 'pedal' && d.action === 'switch' && d.controller !== CC.sustain,
  );
  const pads = box?.kind === 'controlBox' ? box.padNotes.length : 0;
  const pad = (action: 'nextCue' | 'previousCue' | 'allNotesOff', at: number) => {
    if (box && at < pads)
      controls.push({ action, place: box.place, message: { kind: 'pad', pad: at } });
  };
  pad('nextCue', 3);
  if (pedal) controls.push({ action: 'nextCue', place: pedal.place, message: { kind: 'pedal' } });
  pad('previousCue', 2);
  if (pads > 4) pad('allNotesOff', pads - 1);
  return controls;
}
