import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { channelOf, messageInWords } from '@pentachord/core/midi';
import { noteName } from '@pentachord/core/pitch';
import { Store } from '@ngrx/store';
import { eachFrame } from '../live/frames';
import { Live } from '../live/live';
import { midiInWords } from '../live/ports/midi-access';
import type { AppState } from '../state/reducers';
import { selectLabels, selectMiddleC } from '../state/selectors';

/** Milliseconds for which the lamp stays lit after a message. */
const GLOW = 180;

/** The last MIDI message: key and velocity, device, channel. */
@Component({
  selector: 'pc-midi-activity',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <span class="lamp" [class.lit]="lit()" aria-hidden="true"></span>
    <span class="mono" data-testid="last-message">{{ words() }}</span>
  `,
  styles: `
    :host {
      display: flex;
      align-items: center;
      gap: 8px;
      font-size: 13px;
      color: #c9d3e2;
      white-space: nowrap;
    }
    .mono {
      overflow: hidden;
      text-overflow: ellipsis;
    }
    .lamp {
      flex: none;
      width: 9px;
      height: 9px;
      border-radius: 50%;
      background: #4b5b76;
    }
    .lit {
      background: #5fd08f;
    }
  `,
})
export class MidiActivity {
  private readonly live = inject(Live);
  private readonly store = inject<Store<AppState>>(Store);
  private readonly middleC = this.store.selectSignal(selectMiddleC);
  private readonly labels = this.store.selectSignal(selectLabels);
  private seen = -1;
  private litUntil = 0;
  protected readonly words = signal('nothing played yet');
  protected readonly lit = signal(false);

  constructor() {
    eachFrame(() => this.look());
  }

  private look(): void {
    const { last } = this.live.host;
    const time = performance.now();
    if (last.count !== this.seen) {
      this.seen = last.count;
      if (last.count > 0) {
        this.litUntil = time + GLOW;
        const name = (note: number) => noteName(note, this.middleC());
        const what = messageInWords(last.status, last.data1, last.data2, name);
        const channel = channelOf(last.status);
        const label = this.labels().at(channel - 1);
        const on = `ch ${channel}${label ? ` ${label}` : ''}`;
        // Where there is little room, what was played is what stays to be read.
        this.words.set(`${what} · ${last.device} · ${on}`);
      }
    }
    // Before anything was played the question for MIDI is what matters: it may stand open, or have been refused.
    const { state } = this.live.midi;
    if (this.seen <= 0) this.words.set(midiInWords(state)?.short ?? 'nothing played yet');
    this.lit.set(time < this.litUntil);
  }
}
