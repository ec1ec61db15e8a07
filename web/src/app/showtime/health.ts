import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import type { Device } from '@pentachord/core/model';
import { Store } from '@ngrx/store';
import { dequal } from 'dequal';
import type { AudioState } from '../live/audio/audio-engine';
import { eachFrame } from '../live/frames';
import { Live } from '../live/live';
import { BREAKS_HINT, BreaksTold } from '../live/audio/breaks-told';
import { isStandIn } from '../live/ports/cable';
import { midiInWords, type MidiAccessState } from '../live/ports/midi-access';
import { DeskCopy } from '../state/keeping/desk-copy';
import { ServerWatch } from '../state/keeping/server-watch';
import type { AppState } from '../state/reducers';
import { selectBudget, selectCost } from '../state/machine/selectors';
import { selectConflict } from '../state/saving/selectors';
import { selectDevices } from '../state/selectors';
import { Tip } from '../ui/tips/tip';

const SHARE_OF = 'of what this machine can bear, all ten fingers down';

/** One lamp: what it is of, whether all is well, and what else there is to know. */
interface Lamp {
  name: string;
  well: boolean;
  hint: string;
}

/** Whether devices, sound and server are well. Nothing here stops the show. */
@Component({
  selector: 'pc-health',
  imports: [Tip],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (lamp of lamps(); track $index) {
      <span class="lamp" tabindex="0" [class.well]="lamp.well" [pcTip]="lamp.hint">
        <i aria-hidden="true">{{ lamp.well ? '●' : '✕' }}</i>{{ lamp.name }}
      </span>
    }
    <span class="mono voices" data-testid="voices">{{ voices() }} voices</span>
  `,
  styles: `
    :host {
      display: flex;
      flex-wrap: wrap;
      gap: 4px 16px;
      /* However many there are, and however they are called: two lines, and what is more is scrolled. */
      max-height: 56px;
      overflow-y: auto;
    }
    .lamp {
      max-width: 200px;
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
      color: var(--alarm-on-night);
      font-weight: 600;
    }
    i {
      margin-right: 6px;
      font-style: normal;
      font-size: 13px;
    }
    .well {
      color: var(--soft);
      font-weight: 400;
    }
    .voices {
      min-width: 9ch;
      color: var(--soft);
    }
    .well i {
      color: var(--well);
    }
  `,
})
export class Health {
  /** Why what is played cannot be kept, in words; empty while it is. */
  readonly unwritten = input('');
  private readonly live = inject(Live);
  private readonly watch = inject(ServerWatch);
  private readonly copy = inject(DeskCopy);
  private readonly store = inject<Store<AppState>>(Store);
  private readonly devices = this.store.selectSignal(selectDevices);
  private readonly cost = this.store.selectSignal(selectCost);
  private readonly budget = this.store.selectSignal(selectBudget);
  private readonly conflict = this.store.selectSignal(selectConflict);
  private readonly audio = signal<AudioState>('waiting for a click');
  private readonly failed = signal(false);
  private readonly breaks = new BreaksTold();
  private readonly broken = signal('');
  private readonly midi = signal<MidiAccessState>('not asked');
  protected readonly voices = signal(0);
  /** Ports that are plugged in; the same as long as they stay. */
  private readonly ports = signal<ReadonlySet<string>>(new Set(), { equal: dequal });

  protected readonly lamps = computed((): Lamp[] => [
    ...this.deviceLamps(),
    this.soundLamp(),
    ...this.midiLamps(),
    ...(this.watch.isOther()
      ? [
          {
            name: 'Another database',
            well: false,
            hint: 'Another one answers at this address now. Playing goes on; what you change is kept in this browser for the first.',
          },
        ]
      : []),
    ...(this.watch.isAway()
      ? [
          {
            name: 'Server away',
            well: false,
            hint: 'The show plays on without it. What you change is kept in this browser and sent when it is back.',
          },
        ]
      : []),
    ...(this.conflict()
      ? [
          {
            name: 'Changed elsewhere too',
            well: false,
            hint: 'Both versions are kept; choose one on the desk when there is time.',
          },
        ]
      : []),
    ...this.keepingLamps(),
    ...(this.unwritten()
      ? [{ name: 'Not written down', well: false, hint: this.unwritten() }]
      : []),
  ]);

  constructor() {
    eachFrame(() => {
      const { audio } = this.live;
      this.audio.set(audio.audioState);
      this.failed.set(audio.hasJustFailed);
      this.broken.set(this.breaks.words(audio.brokenOff));
      this.midi.set(this.live.midi.state);
      this.voices.set(audio.voices);
      const ports = new Set(this.devices().map(({ port }) => port));
      this.ports.set(new Set([...ports].filter((port) => this.live.isThere(port))));
    });
  }

  /** One a port: pedals hang on what they are plugged into. */
  private deviceLamps(): Lamp[] {
    const there = this.ports();
    return this.devices()
      .filter(({ kind }) => kind !== 'pedal')
      .map((device) => lampOf(device, there));
  }

  private soundLamp(): Lamp {
    if (this.live.window.elsewhere())
      return {
        name: 'Silent here',
        well: false,
        hint: 'Another window plays. “Play here” takes over.',
      };
    const words: Record<AudioState, string> = {
      on: '',
      'waiting for a click': 'Sound off: press any key',
      'cannot start': 'Sound cannot start',
      'device gone': 'Sound device gone',
    };
    const problem = words[this.audio()];
    if (this.audio() === 'device gone')
      return {
        name: problem,
        well: false,
        hint: 'Plug it in again, or choose another output of this machine: sound goes on by itself.',
      };
    if (problem) return { name: problem, well: false, hint: this.live.audio.problem };
    if (this.failed()) return { name: 'Sound back', well: true, hint: 'Strike again.' };
    const broken = this.broken();
    if (broken) return { name: broken, well: false, hint: BREAKS_HINT };
    const share = (this.cost()?.total ?? 0) / (this.budget() || 1);
    const percent = Math.round(share * 100);
    return {
      name: percent > 0 ? `Sound ${percent} %` : 'Sound on',
      well: share <= 1,
      hint: SHARE_OF,
    };
  }

  private midiLamps(): Lamp[] {
    const words = midiInWords(this.midi());
    if (!words) return [];
    return [{ name: words.short, well: false, hint: words.long }];
  }

  private keepingLamps(): Lamp[] {
    const problem = this.copy.problem();
    if (problem === '') return [];
    return [
      {
        name: problem === 'storage full' ? 'Browser store full' : 'Nothing kept',
        well: false,
        hint:
          problem === 'storage full'
            ? 'The place in the show is not kept over a reload until there is room: delete what other pages keep. Playing goes on.'
            : 'This window keeps nothing, as private windows do: do not reload it while the server is away. Playing goes on.',
      },
    ];
  }
}

function lampOf({ name, port }: Device, there: ReadonlySet<string>): Lamp {
  return there.has(port)
    ? { name, well: true, hint: isStandIn(port) ? 'a stand-in' : port }
    : { name: `${name} not there`, well: false, hint: `Nothing is plugged in as “${port}”.` };
}
