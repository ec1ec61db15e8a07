import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  Injector,
  signal,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { MatMenuModule } from '@angular/material/menu';
import { toSignal } from '@angular/core/rxjs-interop';
import { NavigationEnd, Router, RouterLink, RouterLinkActive, RouterOutlet } from '@angular/router';
import { Store } from '@ngrx/store';
import { filter, map } from 'rxjs';
import { Live } from '../live/live';
import { wroteDownDesk } from '../live/browser/writing-down';
import type { Logbook } from '../live/logbook/logbook';
import { ScreenHands } from '../live/hands/screen-hands';
import { Ribbon } from '../running-order/ribbon';
import type { AppState } from '../state/reducers';
import { selectConflict, selectSavingState, selectSetAside } from '../state/saving/selectors';
import { selectKeyboard } from '../state/selectors';
import { Dialogs } from '../ui/dialogs/dialogs';
import { registerIcons } from '../ui/icons';
import { letShowGo } from '../state/keeping/show-is-played';
import { NewVersion } from '../state/keeping/new-version';
import { DeskCopy, type KeepingProblem } from '../state/keeping/desk-copy';
import { ServerWatch } from '../state/keeping/server-watch';
import { NightDesk } from '../state/session/night-desk';
import { Undoing } from '../state/session/undoing';
import { TodaysPlaying } from '../live/hands/todays-playing';
import { ConflictPanel } from './conflict-panel';
import { MidiActivity } from './midi-activity';
import { PlayingElsewhere } from '../ui/playing-elsewhere';
import { SilenceBanner } from '../ui/silence-banner';
import { takesTyping } from '../ui/typing';
import { SoundState } from './sound-state';
import { Tip } from '../ui/tips/tip';

const OTHER_DATABASE =
  'another database answers here now. What you changed is kept in this browser for the first one; load the page anew to open the other';
const UNKEPT: Record<KeepingProblem, string> = {
  '': '',
  'no storage': 'this browser keeps no copy',
  'storage full': 'this browser’s store is full',
};

/** The views of the desk, in the order of an evening’s work. */
const VIEWS = [
  { path: '/shows', name: 'Shows' },
  { path: '/running-order', name: 'Running order' },
  { path: '/song', name: 'Song' },
  { path: '/patch', name: 'Patch' },
  { path: '/library', name: 'Library' },
  { path: '/rig', name: 'Rig' },
];

/** What stands over every desk view: sections, MIDI activity, sound, saving; under it the running order. */
@Component({
  selector: 'pc-shell',
  imports: [
    ConflictPanel,
    MatButtonModule,
    MatIconModule,
    MatMenuModule,
    Tip,
    MidiActivity,
    PlayingElsewhere,
    Ribbon,
    RouterLink,
    RouterLinkActive,
    RouterOutlet,
    SilenceBanner,
    SoundState,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './shell.html',
  styleUrl: './shell.scss',
  host: {
    '(document:keydown)': 'keyDown($event)',
    '(document:keyup)': 'hands.typeUp($event.code)',
    '(window:blur)': 'hands.letGo()',
  },
})
export class Shell {
  private readonly store = inject<Store<AppState>>(Store);
  protected readonly views = VIEWS;
  protected readonly hands = inject(ScreenHands);
  private readonly dialogs = inject(Dialogs);
  private readonly keyboard = this.store.selectSignal(selectKeyboard);
  protected readonly conflict = this.store.selectSignal(selectConflict);
  protected readonly setAside = this.store.selectSignal(selectSetAside);
  protected readonly desk = inject(NightDesk);
  private readonly undoing = inject(Undoing);
  protected readonly program = inject(NewVersion);
  private readonly server = inject(ServerWatch);
  private readonly copy = inject(DeskCopy);
  protected readonly saving = this.store.selectSignal(selectSavingState);

  private readonly path = toSignal(
    inject(Router).events.pipe(
      filter((event) => event instanceof NavigationEnd),
      map((event) => event.urlAfterRedirects),
    ),
    { initialValue: location.pathname },
  );
  /** True where the view shows the whole night itself. */
  protected readonly showsNight = computed(() => this.path().startsWith('/running-order'));

  protected readonly savingWords = computed(() => {
    if (this.server.isOther()) return OTHER_DATABASE;
    const { state, why } = this.saving();
    return why ? `${state}: ${why}` : state;
  });
  /** True while something that was changed is not where it should be, or might not be. */
  protected readonly isUnsafe = computed(
    () => this.saving().state === 'not saved' || this.server.isOther(),
  );
  /** What this browser keeps of it. */
  protected readonly unkept = computed(() => UNKEPT[this.copy.problem()]);

  constructor() {
    registerIcons();
    const live = inject(Live);
    live.open();
    live.window.sayView('The desk');
    effect(() => {
      if (live.window.plays()) letShowGo();
    });
    // Counts from now on, whatever view is open.
    inject(TodaysPlaying);
    // It was to be written down until it is chosen again, and not until a reload.
    if (wroteDownDesk()) void this.writeDown();
  }

  private readonly injector = inject(Injector);
  /** What is written down on this desk; null until it is asked for first. */
  private readonly logbook = signal<Logbook | null>(null);
  protected readonly isWriting = computed(() => this.logbook()?.writing()?.where === 'desk');

  protected async writeDown(): Promise<void> {
    const { Logbook } = await import('../live/logbook/logbook');
    const logbook = this.injector.get(Logbook);
    this.logbook.set(logbook);
    if (this.isWriting()) logbook.end();
    else await logbook.begin('desk', null, '');
  }

  protected async openSetAside(): Promise<void> {
    const { SetAsideDialog } = await import('./set-aside-dialog');
    await this.dialogs.open(SetAsideDialog, { width: '760px', maxWidth: '96vw' });
  }

  protected async openNight(): Promise<void> {
    const { NightDialog } = await import('./night-dialog');
    await this.dialogs.open(NightDialog, { width: '720px', maxWidth: '96vw' });
  }

  /** Past everything that stands over the view. */
  protected skip(main: HTMLElement): void {
    main.focus();
  }

  protected openStandIns(): void {
    window.open('stand-ins', 'pentachord-stand-ins', 'popup,width=1180,height=620');
  }

  protected keyDown(event: KeyboardEvent): void {
    if (takesTyping(event.target)) return;
    const command = event.ctrlKey || event.metaKey;
    if (command && event.code === 'KeyZ') {
      event.preventDefault();
      if (event.shiftKey) this.undoing.redo();
      else this.undoing.undo();
    } else if (command && event.code === 'KeyY') {
      event.preventDefault();
      this.undoing.redo();
    } else if (event.key === 'Escape' && this.hands.typing()) {
      this.toggleTyping();
    } else if (this.hands.typeDown(event, this.keyboard())) {
      event.preventDefault();
      event.stopPropagation();
    }
  }

  protected toggleTyping(): void {
    this.hands.letGo();
    this.hands.typing.update((on) => !on);
  }
}
