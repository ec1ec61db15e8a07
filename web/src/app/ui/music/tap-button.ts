import { ChangeDetectionStrategy, Component, input, output, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { TapTempo } from '@pentachord/core/clock';
import { FASTEST_TEMPO, SLOWEST_TEMPO } from '@pentachord/core/model';
import { Tip } from '../tips/tip';

/** Seconds after the last tap until which is shown what was heard. */
const SHOWN = 2;

/** A tempo that is tapped: with the mouse, a finger, or any key while it has the focus. */
@Component({
  selector: 'pc-tap-button',
  imports: [MatButtonModule, Tip],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <button
      type="button"
      matButton="outlined"
      pcTip="Tap the beat: it averages, and forgets a pause"
      [attr.aria-label]="'Tap the tempo' + of()"
      (pointerdown)="tap($event)"
      (keydown.space)="tap($event)"
      (keydown.enter)="tap($event)"
    >
      <span class="heard" aria-live="polite">{{ heard() }}</span>
    </button>
  `,
  styles: `
    .heard {
      display: inline-block;
      min-width: 5ch;
      font-variant-numeric: tabular-nums;
    }
  `,
})
export class TapButton {
  /** What it is the tempo of, for those who cannot see: ` of Saltglass`. */
  readonly of = input('');
  /** Beats per minute, whole. All taps in a row are one gesture. */
  readonly tapped = output<{ tempo: number; gesture: string }>();
  protected readonly heard = signal('tap');
  private readonly taps = new TapTempo();
  private gesture = '';
  private timer: ReturnType<typeof setTimeout> | undefined;

  protected tap(event: Event): void {
    if (event instanceof KeyboardEvent && event.repeat) return;
    if (event instanceof KeyboardEvent) event.preventDefault();
    event.stopPropagation();
    const tempo = this.taps.tap(event.timeStamp / 1000);
    if (this.taps.count === 1) this.gesture = crypto.randomUUID();
    const whole = tempo === null ? null : Math.round(tempo);
    this.heard.set(whole === null ? 'again …' : `♩ ${whole}`);
    clearTimeout(this.timer);
    this.timer = setTimeout(() => this.heard.set('tap'), SHOWN * 1000);
    if (whole !== null && whole >= SLOWEST_TEMPO && whole <= FASTEST_TEMPO)
      this.tapped.emit({ tempo: whole, gesture: this.gesture });
  }
}
