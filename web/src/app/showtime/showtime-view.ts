import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  inject,
  signal,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { RouterLink } from '@angular/router';
import { controlInWords } from '@pentachord/core/model';
import { musicalKeyName } from '@pentachord/core/pitch';
import { layersHearing, patchInPlay } from '@pentachord/core/routing';
import { fadeSecondsOf, stepIndex } from '@pentachord/core/setlist';
import { clockTime } from '@pentachord/core/units';
import { Store } from '@ngrx/store';
import { eachFrame } from '../live/frames';
import { Live } from '../live/live';
import type { AppState } from '../state/reducers';
import {
  selectCue,
  selectDevices,
  selectEntry,
  selectKeyboards,
  selectMiddleC,
  selectWrittenPatch,
  selectRig,
  selectSession,
  selectShow,
  selectSong,
  selectSteps,
  selectThings,
  selectTimeline,
} from '../state/selectors';
import { session } from '../state/session/session';
import { HandsPanel } from './hands-panel';
import { TempoBox } from './tempo-box';

/** Showtime has no solo. */
const NOBODY: ReadonlySet<string> = new Set();
const NEXT_KEYS = new Set(['Space', 'ArrowRight', 'PageDown']);
const BACK_KEYS = new Set(['ArrowLeft', 'PageUp']);

/** The view for playing the show: what is under my hands now, what comes next, which key, how fast. */
@Component({
  selector: 'pc-showtime-view',
  imports: [HandsPanel, MatButtonModule, RouterLink, TempoBox],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './showtime-view.html',
  styleUrl: './showtime-view.scss',
  host: { '(document:keydown)': 'key($event)', '(click)': 'clicked($event)' },
})
export class ShowtimeView {
  private readonly store = inject<Store<AppState>>(Store);
  private readonly live = inject(Live);
  protected readonly show = this.store.selectSignal(selectShow);
  protected readonly song = this.store.selectSignal(selectSong);
  protected readonly cue = this.store.selectSignal(selectCue);
  protected readonly keyboards = this.store.selectSignal(selectKeyboards);
  protected readonly middleC = this.store.selectSignal(selectMiddleC);
  private readonly things = this.store.selectSignal(selectThings);
  private readonly patch = this.store.selectSignal(selectWrittenPatch);
  private readonly rig = this.store.selectSignal(selectRig);
  private readonly devices = this.store.selectSignal(selectDevices);
  private readonly place = this.store.selectSignal(selectSession);
  private readonly entry = this.store.selectSignal(selectEntry);
  private readonly steps = this.store.selectSignal(selectSteps);
  private readonly timeline = this.store.selectSignal(selectTimeline);

  protected readonly voices = signal(0);
  protected readonly soundOn = signal(false);
  private readonly soundFailed = signal(false);
  protected readonly soundInWords = computed(() => {
    if (!this.soundOn()) return 'Sound off: press any key';
    // Short, so that nothing beside it moves.
    return this.soundFailed() ? 'Sound back' : 'Sound on';
  });

  private readonly at = computed(() => stepIndex(this.steps(), this.place()));
  protected readonly count = computed(() => {
    const steps = this.steps();
    const step = steps.at(Math.max(0, this.at()));
    if (!step) return null;
    const inSong = steps.filter((s) => s.entryId === step.entryId).length;
    const songs = (steps.at(-1)?.songNumber ?? 0) + 1;
    return { song: step.songNumber + 1, songs, cue: step.cueNumber + 1, cues: inSong };
  });
  protected readonly next = computed(() => this.stepInWords(this.at() + 1));
  protected readonly previous = computed(() => this.stepInWords(this.at() - 1));

  protected readonly compiled = computed(() => {
    const cue = this.cue();
    const song = this.song();
    const patch = (cue && this.things().patches[cue.patchId]) ?? this.patch();
    return patch && patchInPlay(patch, { rig: this.rig(), song, cue, soloed: NOBODY }).compiled;
  });
  /** Keyboards with something on them; all of them when there is nothing anywhere. */
  protected readonly used = computed(() => {
    const patch = this.compiled();
    const boards = this.keyboards();
    const used = boards.filter(
      (board) => patch && layersHearing(patch, board).some(({ muted }) => !muted),
    );
    return used.length > 0 ? used : boards;
  });
  protected readonly facts = computed(() => {
    const song = this.song();
    const cue = this.cue();
    const show = this.show();
    if (!song || !show) return null;
    return {
      hands: musicalKeyName(song.fingered),
      sounds: musicalKeyName(song.sounding),
      arrives: cue ? fadeSecondsOf(cue, show.defaultFadeSeconds) : 0,
    };
  });
  protected readonly planned = computed(() => {
    const entry = this.timeline().find((e) => e.entry.id === this.place().entryId);
    const slot = this.show()?.slotSeconds ?? 0;
    return entry ? `begins at ${clockTime(entry.start)} of ${clockTime(slot)}` : '';
  });
  /** What the player wants to be told: for tonight, and at this cue, else to the whole song. */
  protected readonly notes = computed(() => {
    const tonight = this.entry()?.tonight?.note ?? '';
    const own = this.cue()?.note || this.song()?.notes || '';
    return [tonight, own].filter((note) => note !== '');
  });
  /** How to go on, in words: the keys, and whatever of the rig is tied to it. */
  protected readonly ways = computed(() => {
    const controls = this.show()?.controls.filter((c) => c.action === 'nextCue') ?? [];
    return ['space', ...controls.map((control) => controlInWords(control, this.devices()))].join(
      ' · ',
    );
  });

  constructor() {
    this.live.open();
    this.store.dispatch(session.showtimeEntered());
    void this.enterFullScreen();
    const letSleep = this.keepAwake();
    inject(DestroyRef).onDestroy(() => {
      this.store.dispatch(session.showtimeLeft());
      letSleep();
      if (document.fullscreenElement) void document.exitFullscreen().catch(() => undefined);
    });
    eachFrame(() => {
      this.voices.set(this.live.audio.voices);
      this.soundOn.set(this.live.audio.audioState === 'on');
      this.soundFailed.set(this.live.audio.hasJustFailed);
    });
  }

  protected move(by: 1 | -1): void {
    this.live.move(by);
  }

  protected allNotesOff(): void {
    this.live.player.allNotesOff();
  }

  protected key(event: KeyboardEvent): void {
    if (event.repeat || event.ctrlKey || event.metaKey || event.altKey) return;
    const next = NEXT_KEYS.has(event.code);
    if (!next && !BACK_KEYS.has(event.code)) return;
    // A button that was reached by keyboard is pressed by it.
    if (event.code === 'Space' && document.querySelector('button:focus-visible')) return;
    event.preventDefault();
    this.move(next ? 1 : -1);
  }

  /** A click leaves no focus behind: the keys go on through the show. */
  protected clicked(event: MouseEvent): void {
    const focused = document.activeElement;
    if (event.detail > 0 && focused instanceof HTMLElement) focused.blur();
  }

  /** Works only in answer to a click; otherwise the view simply stays in its window. */
  protected async enterFullScreen(): Promise<void> {
    try {
      if (!document.fullscreenElement) await document.documentElement.requestFullscreen();
    } catch {
      // Playing goes on in the window.
    }
  }

  /** Keeps the screen from sleeping; returns what lets it sleep again. */
  private keepAwake(): () => void {
    let lock: WakeLockSentinel | null = null;
    let wanted = true;
    const ask = () => {
      if (!wanted || document.visibilityState !== 'visible' || !('wakeLock' in navigator)) return;
      navigator.wakeLock.request('screen').then(
        (granted) => (lock = granted),
        () => undefined,
      );
    };
    ask();
    document.addEventListener('visibilitychange', ask);
    return () => {
      wanted = false;
      document.removeEventListener('visibilitychange', ask);
      void lock?.release();
    };
  }

  private stepInWords(index: number): { name: string; patch: string; song: string } | null {
    const step = index < 0 ? undefined : this.steps().at(index);
    if (!step || index >= this.steps().length) return null;
    const { cues, patches, songs } = this.things();
    const cue = step.cueId ? cues[step.cueId] : null;
    const song = songs[step.songId]?.name ?? '';
    return {
      name: cue?.name ?? song,
      patch: cue ? (patches[cue.patchId]?.name ?? '') : '',
      song: step.entryId === this.place().entryId ? '' : song,
    };
  }
}
