import {
  sameTarget,
  targetInWords,
  type ControlMessage,
  type ControlTarget,
} from '../patch/control.js';
import type { Patch } from '../patch/patch.js';
import type { ShowAction, ShowControl } from './show.js';

/** What a control does to the show, as it is told. */
const ACTIONS: Record<ShowAction, string> = {
  nextCue: 'goes to the next cue',
  previousCue: 'goes to the cue before',
  allNotesOff: 'ends all notes',
};

/** What a control that is about to be tied does already. */
export interface OtherUse {
  words: string;
  /** True when it belongs to the show: what belongs to the show reaches no patch, so that it cannot be tied. */
  taken: boolean;
}

/** What else a control of a device does, if it were tied to a target of a patch; null for nothing. */
export function otherUseOf(
  deviceId: string,
  message: ControlMessage,
  target: ControlTarget,
  { controls, patch }: { controls: readonly ShowControl[]; patch: Patch },
): OtherUse | null {
  const same = (other: { deviceId: string; message: ControlMessage }) =>
    other.deviceId === deviceId && numberOf(other.message) === numberOf(message);
  const ofShow = controls.find(same);
  if (ofShow) return { words: ACTIONS[ofShow.action], taken: true };
  const others = patch.controls.filter(
    (control) => same(control) && !sameTarget(control.target, target),
  );
  if (others.length === 0) return null;
  const names = others.map((control) => targetInWords(control.target, patch));
  return { words: `moves ${names.join(' and ')}`, taken: false };
}

function numberOf(message: ControlMessage): string {
  return message.kind === 'note' ? `note ${message.note}` : `controller ${message.controller}`;
}
