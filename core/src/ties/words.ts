import { isPress, isSwitch } from '../model/patch/control-target.js';
import { targetInWords, type TargetWords } from '../model/patch/target-words.js';
import { isStruck } from '../model/patch/control-message.js';
import type { Acts, Reads, Tie, TravelCurve } from '../model/patch/tie.js';
import { ACTION_NAMES } from '../model/show/show-control.js';
import type { Job, Owner } from './in-force.js';

/** Whose a tie can be, as it is shown. */
export const OWNER_NAMES: Readonly<Record<Owner, string>> = {
  patch: 'this patch',
  song: 'this song',
  show: 'the show',
  rig: 'the rig, always',
};

export const CURVE_NAMES: Readonly<Record<TravelCurve, string>> = {
  even: 'evenly',
  late: 'most of it at the end',
  early: 'most of it at the beginning',
  gentle: 'gently at both ends',
};

export const READS_NAMES: Readonly<Record<Reads, string>> = {
  position: 'with ends, 0–127',
  fine: 'with ends, 14 bits',
  twos: 'endless, 1 and 127',
  offset: 'endless, 65 and 63',
  sign: 'endless, 1 and 65',
};

/** What a press does, as it is shown for a tie. */
export function actsInWords(
  acts: Acts,
  { message, target }: Pick<Tie, 'message' | 'target'>,
): string {
  switch (acts) {
    case 'usual':
      if (isPress(target)) return 'once for each press';
      if (!isStruck(message)) return isSwitch(target) ? 'on from the middle' : 'follows';
      return isSwitch(target) ? 'each strike turns it over' : 'as hard as it is struck';
    case 'turnsOver':
      return 'each press turns it over';
    case 'holds':
      return 'while it is held';
    case 'steps':
      return 'a step for each press';
  }
}

/** What a job does, in words: `level of Felt piano`, `Next cue`, `Bells: picks the next`. */
export function jobInWords({ task, target }: Job, words: TargetWords): string {
  switch (task.kind) {
    case 'tie':
      return targetInWords(target ?? task.tie.target, words);
    case 'chooser': {
      const { chooser, control } = task;
      if (control.picks === 'next') return `${chooser.name}: picks the next`;
      return control.picks === 'position'
        ? `${chooser.name}: picks by its sector`
        : `${chooser.name}: picks ${chooser.choices.at(control.picks)?.name ?? 'nothing'}`;
    }
    case 'show': {
      const { control } = task;
      const name = ACTION_NAMES[control.action].toLowerCase();
      if (control.action === 'goTo')
        return `${name} ${words.called?.(control.songId, control.cueId) ?? 'a cue'}`;
      return control.action === 'trim'
        ? `${name} ${String.fromCharCode(65 + control.layer)}`
        : name;
    }
  }
}
