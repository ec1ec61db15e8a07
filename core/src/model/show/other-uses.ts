import type { ControlMessage } from '../patch/control-message.js';
import { sameTarget, type ControlTarget } from '../patch/control-target.js';
import { targetInWords } from '../patch/target-words.js';
import type { Patch } from '../patch/patch.js';
import type { Place } from '../rig/place.js';
import { sameMessage, type ShowAction, type ShowControl } from './show-control.js';

/** What a control does to the show, as it is told. */
const ACTIONS: Record<ShowAction, string> = {
  nextCue: 'goes to the next cue',
  previousCue: 'goes to the cue before',
  nextSong: 'goes to the next song',
  previousSong: 'goes to the song before',
  goTo: 'goes to a place in the show',
  chooseSong: 'chooses the song by its number',
  tapTempo: 'taps the tempo',
  countIn: 'counts in',
  stopClock: 'stops the clock',
  click: 'switches the click',
  transposeUp: 'transposes up',
  transposeDown: 'transposes down',
  trim: 'trims a layer',
  allNotesOff: 'ends all notes',
};

/** What a control that is about to be tied does already. */
export interface OtherUse {
  words: string;
  /** True when it does so for the show: tied here it would do that no more while this patch is played. */
  ofShow: boolean;
}

/** What else a control at a place does, if it were tied to a target of a patch; null for nothing. */
export function otherUseOf(
  { place, message }: { place: Place; message: ControlMessage },
  target: ControlTarget,
  { controls, patch }: { controls: readonly ShowControl[]; patch: Patch },
): OtherUse | null {
  const same = (other: Pick<ShowControl, 'place' | 'message'>) =>
    other.place === place && sameMessage(other.message, message);
  const ofShow = controls.find(same);
  if (ofShow) return { words: ACTIONS[ofShow.action], ofShow: true };
  const others = patch.controls.filter(
    (control) => same(control) && !sameTarget(control.target, target),
  );
  if (others.length === 0) return null;
  const names = others.map((control) => targetInWords(control.target, patch));
  return { words: `moves ${names.join(' and ')}`, ofShow: false };
}
