import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  inject,
  signal,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { controlInWords, shiftOfSong } from '@pentachord/core/model';
import { musicalKeyName } from '@pentachord/core/pitch';
import type { ShowPress } from '@pentachord/core/playing';
import { layersHearing, patchInPlay, semitonesInWords } from '@pentachord/core/routing';
import {
  fadeSecondsOf,
  plannedSteps,
  songAsMoved,
  stepBeside,
  stepIndex,
  stepOfNumber,
} from '@pentachord/core/setlist';
import { Store } from '@ngrx/store';
import { Live } from '../live/live';
import { ServerWatch } from '../state/keeping/server-watch';
import { holdShow } from '../state/keeping/show-is-played';
import type { AppState } from '../state/reducers';
import {
  selectCue,
  selectDevices,
  selectEntry,
  selectKeyboards,
  selectMiddleC,
  selectPatterns,
  selectSounds,
  selectRig,
  selectSession,
  selectShow,
  selectSong,
  selectSongs,
  selectSteps,
  selectThings,
  selectTimeline,
  selectWrittenPatch,
} from '../state/selectors';
import { NightDesk } from '../state/session/night-desk';
import { session } from '../state/session/session';
import { Dialogs } from '../ui/dialogs/dialogs';
import { registerIcons } from '../ui/icons';
import { BandNow } from './band-now';
import { GettingReady } from './getting-ready';
import { HandsPanel } from './hands-panel';
import { Health } from './health';
import type { JumpData } from './jump-list';
import { LayerTrims } from './layer-trims';
import { NightClock } from './night-clock';
import { ChoiceBar } from '../ui/choices/choice-bar';
import { PlayingElsewhere } from '../ui/playing-elsewhere';
import { SilenceBanner } from '../ui/silence-banner';
import { takesTyping } from '../ui/typing';
import { PassageLine } from './passage-line';
import { LOOKS, rememberedLook, rememberLook } from '../state/machine/looks';
import { TempoBox } from './tempo-box';
import { UnlockedBar } from './unlocked-bar';
import { writtenDown } from './written-down';
import { Tip } from '../ui/tips/tip';

/** Showtime has no solo. */
const NOBODY: ReadonlySet<string> = new Set();
/** What keys of the computer press; by their place, letters by what they say. */
const KEYS: Readonly<Record<string, ShowPress>> = {
  Space: 'nextCue',
  ArrowRight: 'nextCue',
  PageDown: 'nextCue',
  ArrowLeft: 'previousCue',
  PageUp: 'previousCue',
  ArrowDown: 'nextSong',
  ArrowUp: 'previousSong',
  t: 'tapTempo',
  c: 'countIn',
  m: 'click',
  Backspace: 'allNotesOff',
};
/** Digits of a number that are kept while it is typed, and seconds after which they are forgotten. */
const MOST_DIGITS = 3;
const FORGOTTEN_AFTER = 6;
/** Seconds after which a lifted lock falls again, unless something is being typed. */
const LOCKS_AFTER = 60;

/** The view for playing the show: what is under my hands now, what comes next, which key, how fast. */
@Component({
  selector: 'pc-showtime-view',
  imports: [
    ChoiceBar,
    BandNow,
    GettingReady,
    HandsPanel,
    Health,
    LayerTrims,
    MatButtonModule,
    MatIconModule,
    Tip,
    NightClock,
    PassageLine,
    PlayingElsewhere,
    SilenceBanner,
    TempoBox,
    UnlockedBar,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './showtime-view.html',
  styleUrl: './showtime-view.scss',
  host: {
    '(document:keydown)': 'key($event)',
    '(click)': 'clicked($event)',
    '[class]': "'look-' + look()",
  },
})
export class ShowtimeView {
  private readonly store = inject<Store<AppState>>(Store);
  private readonly live = inject(Live);
  protected readonly show = this.store.selectSignal(selectShow);
  private readonly dialogs = inject(Dialogs);
  protected readonly desk = inject(NightDesk);
  private readonly written = this.store.selectSignal(selectSong);
  private readonly songs = this.store.selectSignal(selectSongs);
  /** The song as it is played tonight, with what hands have moved since. */
  protected readonly song = computed(() => {
    const song = this.written();
    return song && songAsMoved(song, this.desk.songAt(this.place().entryId));
  });
  protected readonly cue = this.store.selectSignal(selectCue);
  protected readonly keyboards = this.store.selectSignal(selectKeyboards);
  protected readonly middleC = this.store.selectSignal(selectMiddleC);
  private readonly things = this.store.selectSignal(selectThings);
  private readonly patch = this.store.selectSignal(selectWrittenPatch);
  private readonly rig = this.store.selectSignal(selectRig);
  private readonly devices = this.store.selectSignal(selectDevices);
  protected readonly place = this.store.selectSignal(selectSession);
  private readonly entry = this.store.selectSignal(selectEntry);
  private readonly steps = this.store.selectSignal(selectSteps);
  protected readonly timeline = this.store.selectSignal(selectTimeline);

  protected readonly look = signal(rememberedLook());
  /** Nothing is changed by accident as long as it is locked. */
  protected readonly locked = signal(true);

  private readonly at = computed(() => stepIndex(this.steps(), this.place()));
  protected readonly count = computed(() => {
    const steps = this.steps();
    const step = steps.at(Math.max(0, this.at()));
    if (!step) return null;
    const inSong = steps.filter((s) => s.entryId === step.entryId).length;
    const songs = (steps.at(-1)?.songNumber ?? 0) + 1;
    return { song: step.songNumber + 1, songs, cue: step.cueNumber + 1, cues: inSong };
  });
  protected readonly next = computed(() => this.besideInWords(1));
  protected readonly previous = computed(() => this.besideInWords(-1));

  private readonly patterns = this.store.selectSignal(selectPatterns);
  private readonly sounds = this.store.selectSignal(selectSounds);
  protected readonly compiled = computed(() => {
    const cue = this.cue();
    const song = this.song();
    const patch = (cue && this.things().patches[cue.patchId]) ?? this.patch();
    return (
      patch &&
      patchInPlay(patch, {
        ...{ rig: this.rig(), song, cue, soloed: NOBODY },
        ...{ patterns: this.patterns(), sounds: this.sounds() },
      }).compiled
    );
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
      shift: shiftOfSong(song) === 0 ? '' : `(${semitonesInWords(shiftOfSong(song))})`,
      arrives: cue ? fadeSecondsOf(cue, show.defaultFadeSeconds) : 0,
    };
  });
  private readonly plan = computed(() =>
    plannedSteps(this.steps(), this.timeline(), this.things().cues),
  );
  protected readonly planned = computed(() => this.plan().at(Math.max(0, this.at())) ?? null);
  /** Where the player stands, by name; empty at the first place of the night. */
  protected readonly here = computed(() => {
    if (this.at() <= 0) return '';
    return [this.song()?.name, this.cue()?.name].filter(Boolean).join(', ');
  });
  protected readonly cuesOfEntry = computed(() => {
    const { cues } = this.things();
    return this.steps().flatMap(({ entryId, cueId }) =>
      entryId === this.place().entryId && cueId ? [{ id: cueId, name: cues[cueId].name }] : [],
    );
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

  /** Why what is played cannot be kept, in words; empty while it is. */
  protected readonly unwritten = writtenDown(this.show);

  constructor() {
    registerIcons();
    this.live.open();
    this.live.window.sayView('Showtime');
    inject(ServerWatch);
    this.store.dispatch(session.showtimeEntered());
    const letGo = holdShow();
    // Where the browser allows it sound is on at once, as after a reload; else with the first touch.
    void this.live.start();
    const letSleep = this.keepAwake();
    const relock = setInterval(() => {
      const idle = performance.now() - this.touchedAt > LOCKS_AFTER * 1000;
      if (idle && !takesTyping(document.activeElement)) this.locked.set(true);
      if (performance.now() - this.numberTypedAt > FORGOTTEN_AFTER * 1000) this.number.set('');
    }, 1000);
    inject(DestroyRef).onDestroy(() => {
      this.store.dispatch(session.showtimeLeft());
      letSleep();
      letGo();
      clearInterval(relock);
      if (document.fullscreenElement) void document.exitFullscreen().catch(() => undefined);
    });
    // Allowed in answer to a touch alone: a page that was opened by itself waits for one.
    if (navigator.userActivation?.isActive) void this.enterFullScreen();
    // So that the list is there when it is asked for.
    void Promise.all([import('./jump-list'), import('@angular/material/dialog')]);
  }

  /** What was typed since the list of songs was asked for; null while it is not. */
  private typedAhead: string | null = null;
  private numberTypedAt = 0;
  /** Digits of a song's number as they are typed. */
  protected readonly number = signal('');
  /** The song that bears the number typed so far; null for none. */
  protected readonly numbered = computed(() => {
    const at = stepOfNumber(this.steps(), this.songs(), Number(this.number()));
    return at < 0 ? null : (this.songs().get(this.steps()[at].songId)?.name ?? null);
  });

  /** When something was touched last, milliseconds of the page's clock. */
  private touchedAt = performance.now();

  protected press(action: ShowPress): void {
    this.live.order((orders) => orders.press(action));
  }

  protected goToFirst(): void {
    this.live.order(() => this.live.runner.goToStep(() => 0));
  }

  protected nextLook(): void {
    const next = LOOKS[(LOOKS.indexOf(this.look()) + 1) % LOOKS.length];
    this.look.set(next);
    rememberLook(next);
  }

  /** Picks a choice for as long as the patch is played. */
  protected pick(chooserId: string, choice: number): void {
    this.live.player.pick(chooserId, choice);
  }

  /** Opens the songs of the night. */
  protected async jump(): Promise<void> {
    this.typedAhead = '';
    const { JumpList } = await import('./jump-list');
    const played = new Map(
      this.timeline().flatMap(({ entry, song }) => (song ? [[entry.id, song] as const] : [])),
    );
    const at = await this.dialogs.open<JumpData, number>(JumpList, {
      width: '680px',
      maxWidth: '94vw',
      panelClass: `look-${this.look()}`,
      // What is typed at once is meant for it.
      delayFocusTrap: false,
      enterAnimationDuration: 0,
      exitAnimationDuration: 0,
      data: {
        ...{ steps: this.steps(), songs: this.songs(), played },
        takeTyped: () => {
          const typed = this.typedAhead ?? '';
          this.typedAhead = null;
          return typed;
        },
        ...{ cues: this.things().cues, entryId: this.place().entryId },
      },
    });
    if (at !== undefined) this.live.order(() => this.live.runner.goToStep(() => at));
  }

  protected key(event: KeyboardEvent): void {
    this.touchedAt = performance.now();
    if (event.repeat || event.ctrlKey || event.metaKey || event.altKey) return;
    if (takesTyping(event.target)) return;
    // What is typed while the list is on its way is meant for it.
    const isAhead = this.typedAhead !== null && event.key.length === 1;
    if (!isAhead && document.querySelector('mat-dialog-container')) return;
    const press = KEYS[event.code] ?? KEYS[event.key.toLowerCase()];
    if (isAhead) this.typedAhead += event.key;
    else if (event.key === '/') void this.jump();
    else if (this.numberKey(event.key)) this.numberTypedAt = performance.now();
    else if (press) {
      // A button that was reached by keyboard is pressed by it.
      if (event.code === 'Space' && document.querySelector('button:focus-visible')) return;
      this.press(press);
    } else return;
    event.preventDefault();
  }

  /** A digit of a song's number, what takes one back, or what goes there; false for any other key. */
  private numberKey(key: string): boolean {
    const typed = this.number();
    if (/^\d$/.test(key)) this.number.set((typed + key).slice(-MOST_DIGITS));
    else if (typed === '') return false;
    else if (key === 'Backspace') this.number.set(typed.slice(0, -1));
    else if (key === 'Escape') this.number.set('');
    else if (key === 'Enter') {
      if (this.numbered() !== null) this.number.set('');
      this.live.order((orders) => orders.chooseSong(Number(typed)));
    } else return false;
    return true;
  }

  /** A click leaves no focus behind: the keys go on through the show. */
  protected clicked(event: MouseEvent): void {
    this.touchedAt = performance.now();
    if (this.wantsFullScreen) void this.enterFullScreen();
    const focused = document.activeElement;
    if (event.detail > 0 && focused instanceof HTMLElement && !takesTyping(focused)) focused.blur();
  }

  /** Whether the whole screen has not been asked for yet: whoever leaves it stays in the window. */
  private wantsFullScreen = true;

  private async enterFullScreen(): Promise<void> {
    this.wantsFullScreen = false;
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

  /** What comes after the present step, or before it; null for nothing. */
  private besideInWords(by: 1 | -1): { name: string; patch: string; song: string } | null {
    const atEnd = this.show()?.going.atEnd ?? 'stop';
    const at = stepBeside(this.steps(), this.place(), by, atEnd);
    const step = at < 0 ? undefined : this.steps().at(at);
    if (!step) return null;
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
