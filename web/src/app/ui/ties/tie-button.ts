import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import {
  controlInWords,
  isControlMessage,
  isStruck,
  isSwitch,
  otherUseOf,
  usualManner,
  usualTravel,
  type ControlMessage,
  type ControlTarget,
  type Place,
  type ShowMessage,
} from '@pentachord/core/model';
import { Store } from '@ngrx/store';
import { Live } from '../../live/live';
import { TieEditing } from '../../state/editing/tie-editing';
import type { AppState } from '../../state/reducers';
import { selectDevices, selectShow } from '../../state/selectors';
import { Tip } from '../tips/tip';

/** Milliseconds without a message after which a control is touched anew. */
const PAUSE = 400;

/** Ties a control to a setting by touching it: press, then move a knob, wheel or pedal, or for a switch strike a pad. */
@Component({
  selector: 'pc-tie-button',
  imports: [MatButtonModule, Tip],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <button
      type="button"
      matButton="outlined"
      class="tie"
      [class.waiting]="waiting()"
      [class.tied]="control()"
      [attr.aria-label]="label()"
      [pcTip]="label()"
      (click)="press()"
      (keydown.escape)="cancel($event)"
      (blur)="left()"
    >
      <span>{{ waiting() ? 'move a control…' : control() ? words() : 'tie' }}</span>
    </button>
    @if (told()) {
      <span class="told" role="status">{{ told() }}</span>
    }
  `,
  styles: `
    :host {
      display: block;
      text-align: right;
    }
    .tie {
      --mat-button-outlined-container-height: 24px;
      --mat-button-outlined-container-shape: 12px;
      --mat-button-outlined-horizontal-padding: 8px;
      --mat-button-outlined-label-text-size: 12px;
      --mat-button-outlined-label-text-weight: 400;
      --mat-button-outlined-label-text-color: var(--ink-soft);
      border-style: dashed;
      min-width: 0;
      max-width: 100%;

      span {
        display: block;
        max-width: 100%;
        overflow: hidden;
        text-overflow: ellipsis;
        white-space: nowrap;
      }
    }
    .told {
      display: block;
      font-size: 12px;
    }
    .tied {
      --mat-button-outlined-label-text-color: var(--ink);
      border-style: solid;
    }
    .waiting {
      --mat-button-outlined-label-text-color: var(--ink);
      --mat-button-outlined-outline-color: var(--lamp);
      border-style: solid;
      background: var(--lamp);
    }
  `,
})
export class TieButton {
  readonly target = input.required<ControlTarget>();
  /** What the target is called: “level of Warm pad”. */
  readonly what = input.required<string>();

  private readonly live = inject(Live);
  private readonly editing = inject(TieEditing);
  private readonly devices = inject<Store<AppState>>(Store).selectSignal(selectDevices);
  private readonly touch = this.live.touchWait<true>();
  protected readonly waiting = computed(() => this.touch.waiting() !== null);
  protected readonly control = computed(() => this.editing.ofTarget(this.target()));
  protected readonly words = computed(() => {
    const control = this.control();
    return control ? controlInWords(control, this.devices()) : '';
  });
  protected readonly label = computed(() =>
    this.control()
      ? `${this.what()} is moved by ${this.words()}; press to tie another control`
      : `Tie a control to ${this.what()}`,
  );
  /** What the control that was touched does already. */
  protected readonly told = signal('');
  private readonly show = inject<Store<AppState>>(Store).selectSignal(selectShow);
  private touched = { control: '', at: 0 };

  protected press(): void {
    if (this.waiting()) {
      this.stop();
      return;
    }
    this.touch.begin(true, () =>
      this.live.host.listenToControls((place, message) => this.learn(place, message)),
    );
  }

  protected cancel(event: Event): void {
    if (!this.waiting()) return;
    event.stopPropagation();
    this.stop();
  }

  /** The hand may have gone to another window, where the stand-ins are; then it still waits. */
  protected left(): void {
    if (document.hasFocus()) this.stop();
  }

  protected stop(): void {
    this.touch.stop();
    this.told.set('');
    this.touched = { control: '', at: 0 };
  }

  private learn(place: Place, message: ShowMessage): boolean {
    const target = this.target();
    // Messages that bear a number are for the show.
    if (!isControlMessage(message)) return false;
    // A key can only switch; for everything that moves it goes on playing.
    if (isStruck(message) && !isSwitch(target)) return false;
    if (!this.mayTie(place, message)) return true;
    const before = this.control();
    const { from, to } = before ?? usualTravel(target);
    const id = before?.id ?? crypto.randomUUID();
    this.editing.tie({ id, place, message, target, from, to, ...usualManner(message) });
    this.stop();
    return true;
  }

  /** Tells what a control does already. One that moves something of this patch is tied when it is touched once more. */
  private mayTie(place: Place, message: ControlMessage): boolean {
    const patch = this.editing.patch();
    if (!patch) return false;
    const controls = this.show()?.controls ?? [];
    const other = otherUseOf({ place, message }, this.target(), { controls, patch });
    if (!other) return true;
    const name = controlInWords({ place, message }, this.devices());
    const again = this.touched.control === name && performance.now() - this.touched.at > PAUSE;
    this.touched = { control: name, at: performance.now() };
    if (again) return true;
    const then = other.ofShow
      ? 'Move it again to have it do this instead while this patch is played.'
      : 'Move it again to tie both.';
    this.told.set(`${name} ${other.words}. ${then}`);
    return false;
  }
}
