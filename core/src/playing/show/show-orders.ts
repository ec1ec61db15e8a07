import type { ShowAction, ShowControl } from '../../model/show/show-control.js';
import type { Seconds } from '../../units/times.js';
import type { Player } from '../notes/player.js';
import type { ShowRunner } from './show-runner.js';
import type { Timekeeping } from './timekeeping.js';
import { TrimKnobs } from '../hands/trim-knobs.js';

/** What can be asked for by a mere press. */
export type ShowPress = Exclude<ShowAction, 'goTo' | 'chooseSong' | 'trim'>;

/** Presses that are heard however fast they follow one another. */
const UNGUARDED: ReadonlySet<ShowAction> = new Set(['tapTempo', 'allNotesOff', 'trim']);

/** What carries orders out. */
export interface OrderParts {
  player: Player;
  runner: ShowRunner;
  timekeeping: Timekeeping;
  /** The present time in seconds. */
  now(): Seconds;
}

/**
 * What is asked of the show, from wherever it comes: screen, computer keys, pads, pedals, messages. One press too many within
 * the guard's time is passed over, and the guard begins anew with every press: a pad that rattles acts once.
 */
export class ShowOrders {
  private readonly pressed = new Map<string, Seconds>();
  private readonly knobs = new TrimKnobs();
  private passedOver = 0;
  private patchId: string | null = null;

  constructor(private readonly parts: OrderParts) {}

  /** Presses that the guard has passed over. */
  get guarded(): number {
    return this.passedOver;
  }

  /** Carries a control out; `value` is how far it was moved, or the number that came with it, `time` when it was. */
  carryOut(control: ShowControl, value: number, time: Seconds): void {
    const { runner } = this.parts;
    switch (control.action) {
      case 'goTo':
        this.goTo(control.songId, control.cueId, time);
        break;
      case 'chooseSong':
        this.chooseSong(value + 1, time);
        break;
      case 'trim': {
        if (runner.current?.id !== this.patchId) this.knobs.letGo();
        this.patchId = runner.current?.id ?? null;
        const layer = runner.current?.layers.at(control.layer);
        const by = layer && this.knobs.move(control.layer, value, runner.trimOf(layer.id));
        if (layer && typeof by === 'number') runner.trim(layer.id, by);
        break;
      }
      default:
        this.press(control.action, time);
    }
  }

  /** Carries a press out; false when the guard has passed it over or there is nothing to do. */
  press(action: ShowPress, time = this.parts.now()): boolean {
    if (!UNGUARDED.has(action) && !this.isHeard(action, time)) return false;
    const { player, runner, timekeeping } = this.parts;
    switch (action) {
      case 'nextCue':
        return runner.move(1);
      case 'previousCue':
        return runner.move(-1);
      case 'nextSong':
        return runner.moveSong(1);
      case 'previousSong':
        return runner.moveSong(-1);
      case 'tapTempo': {
        const tempo = timekeeping.tap(time);
        if (tempo === null || !timekeeping.leading.isFree) return false;
        runner.setTempo(tempo);
        return true;
      }
      case 'countIn':
        timekeeping.countIn();
        return true;
      case 'stopClock':
        timekeeping.stop();
        return true;
      case 'click':
        timekeeping.switchClick();
        return true;
      case 'transposeUp':
      case 'transposeDown':
        return runner.transpose(action === 'transposeUp' ? 1 : -1);
      case 'allNotesOff':
        player.allNotesOff();
        return true;
    }
  }

  /** Goes to a cue of a song, or to its first step; false when it is not in the show. */
  goTo(songId: string, cueId: string | null, time = this.parts.now()): boolean {
    return this.isHeard(`${songId} ${cueId}`, time) && this.parts.runner.goTo(songId, cueId);
  }

  /** Goes to the song of a number; false when there is none. */
  chooseSong(number: number, time = this.parts.now()): boolean {
    return this.isHeard(`song ${number}`, time) && this.parts.runner.chooseSong(number);
  }

  private isHeard(what: string, now: Seconds): boolean {
    const before = this.pressed.get(what) ?? -Infinity;
    this.pressed.set(what, now);
    const heard = now - before >= this.parts.runner.guardSeconds;
    if (!heard) this.passedOver++;
    return heard;
  }
}
