import { inject, Injectable, signal } from '@angular/core';
import {
  ACTION_NAMES,
  canTie,
  controlInWords,
  MOST_SHOW_CONTROLS,
  sameMessage,
  type Place,
  type ShowAction,
  type ShowControl,
  type ShowMessage,
} from '@pentachord/core/model';
import { Store } from '@ngrx/store';
import { Live } from '../../live/live';
import { ControlUses } from '../control-uses';
import { ShowEditing } from '../../state/editing/show-editing';
import type { AppState } from '../../state/reducers';
import { selectDevices } from '../../state/selectors';

/** What a control is to be tied to. */
export type Wanted = ShowControl extends infer C
  ? C extends ShowControl
    ? Omit<C, 'place' | 'message'>
    : never
  : never;

/** Waits for a control to be touched, and ties it to something of the show. */
@Injectable()
export class Learning {
  private readonly live = inject(Live);
  private readonly editing = inject(ShowEditing);
  private readonly devices = inject<Store<AppState>>(Store).selectSignal(selectDevices);
  private readonly touch = this.live.touchWait<string>();
  /** The row that waits; null for none. */
  readonly waiting = this.touch.waiting;
  /** What happened last, in words. */
  readonly told = signal('');

  private readonly uses = inject(ControlUses);
  /** A control that was touched and does something already; null while nothing is asked. */
  readonly asked = signal<{ control: ShowControl; words: string } | null>(null);

  /** Waits for a control in a row; pressed again it waits no more. */
  wait(row: string, wanted: Wanted): void {
    const waits = this.touch.begin(row, () =>
      this.live.host.listenToControls((place, message) => this.learn(wanted, place, message)),
    );
    this.asked.set(null);
    if (waits) this.told.set('');
  }

  stop(): void {
    this.touch.stop();
  }

  /** Takes a control off. */
  remove(control: ShowControl): void {
    const show = this.editing.show();
    if (!show) return;
    this.editing.change(show.id, { controls: show.controls.filter((one) => one !== control) });
  }

  private learn(wanted: Wanted, place: Place, touched: ShowMessage): boolean {
    const show = this.editing.show();
    if (!show) return false;
    // Whoever chooses songs by program changes means all of them.
    const message: ShowMessage =
      wanted.action === 'chooseSong' && touched.kind === 'program' ? { kind: 'programs' } : touched;
    if (!canTie(wanted.action, message)) {
      this.told.set(whyNot(wanted.action));
      return true;
    }
    const control: ShowControl = { ...wanted, place, message };
    const does = this.uses.of(place, message);
    if (does.length > 0) {
      this.stop();
      const name = controlInWords(control, this.devices());
      this.asked.set({ control, words: `${name} does already: ${does.join(', ')}.` });
      return true;
    }
    this.take(control);
    return true;
  }

  /** The control that was touched is taken, whatever it does already. */
  takeAsked(): void {
    const asked = this.asked();
    this.asked.set(null);
    if (asked) this.take(asked.control);
  }

  /** It stays as it is. */
  leaveAsked(): void {
    this.asked.set(null);
  }

  private take(control: ShowControl): void {
    const show = this.editing.show();
    if (!show) return;
    const { place, message } = control;
    const before = show.controls.find(
      (one) => one.place === place && sameMessage(one.message, message),
    );
    const others = show.controls.filter((one) => one !== before);
    if (others.length >= MOST_SHOW_CONTROLS) {
      this.told.set(`A show has ${MOST_SHOW_CONTROLS} controls at most. Untie one first.`);
      return;
    }
    this.editing.change(show.id, { controls: [...others, control] });
    const name = controlInWords(control, this.devices());
    this.told.set(
      before && before.action !== control.action
        ? `${name} was “${ACTION_NAMES[before.action]}” and is “${ACTION_NAMES[control.action]}” now. Undo brings it back.`
        : `${name} is “${ACTION_NAMES[control.action]}” now.`,
    );
    this.stop();
  }
}

function whyNot(action: ShowAction): string {
  if (action === 'trim') return 'A trim is moved: turn a knob, a fader or a wheel.';
  if (action === 'chooseSong') return 'It takes a program change or a song select message.';
  return 'That message only bears a number. Press a pad, a key, a pedal or a button.';
}
