import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { channelOf, messageInWords } from '@pentachord/core/midi';
import { noteName } from '@pentachord/core/pitch';
import { Store } from '@ngrx/store';
import { eachFrame } from '../live/frames';
import { Live } from '../live/live';
import { midiInWords } from '../live/ports/midi-access';
import type { AppState } from '../state/reducers';
import { selectLabels, selectMiddleC } from '../state/selectors';
import { Tip } from '../ui/tips/tip';

/** Milliseconds for which the lamp stays lit after a message. */
const GLOW = 180;
const NOTHING = 'nothing played yet';

/** The last MIDI message: key and velocity, device, channel. */
@Component({
  selector: 'pc-midi-activity',
  imports: [Tip],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <span class="lamp" [class.lit]="lit()" aria-hidden="true"></span>
    <span class="mono parts" data-testid="last-message" [pcTip]="parts().join('')">
      @for (part of parts(); track $index) {
        <span>{{ part }}</span>
      }
    </span>
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
    /* What finds no room goes whole into a line that is not seen, the last part first. */
    .parts {
      display: flex;
      flex-wrap: wrap;
      min-width: 0;
      height: 18px;
      line-height: 18px;
      overflow: hidden;
      white-space: pre;
    }
    .parts span {
      max-width: 100%;
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
  protected readonly parts = signal<readonly string[]>([NOTHING]);
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
        this.parts.set([what, ` · ${last.device}`, ` · ${on}`]);
      }
    }
    // Before anything was played the question for MIDI is what matters: it may stand open, or have been refused.
    const { state } = this.live.midi;
    if (this.seen <= 0) this.tellAccess(midiInWords(state)?.short ?? NOTHING);
    this.lit.set(time < this.litUntil);
  }

  private tellAccess(words: string): void {
    if (this.parts()[0] !== words) this.parts.set([words]);
  }
}
