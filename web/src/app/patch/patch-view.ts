import {
  afterRenderEffect,
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  signal,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { RouterLink } from '@angular/router';
import { MatTab, MatTabContent, MatTabGroup } from '@angular/material/tabs';
import { coverage, groundOf, movingSplit, type Remark } from '@pentachord/core/coverage';
import { isChosen, shiftOfSong, type Chooser } from '@pentachord/core/model';
import { musicalKeyName } from '@pentachord/core/pitch';
import { layersHearing, soundingByKey, type PlayedNote } from '@pentachord/core/routing';
import { Store } from '@ngrx/store';
import { eachFrame } from '../live/frames';
import { ScreenHands } from '../live/hands/screen-hands';
import { Live } from '../live/live';
import { history } from '../state/editing/history';
import { PatchEditing } from '../state/editing/patch-editing';
import type { AppState } from '../state/reducers';
import { selectUndo } from '../state/editing/selectors';
import {
  selectBudget,
  selectCost,
  selectRemarks,
  selectResponses,
} from '../state/machine/selectors';
import {
  selectCompiled,
  selectKeyboard,
  selectKeyboards,
  selectLabels,
  selectLibrary,
  selectMiddleC,
  selectPatch,
  selectPatchSong,
  selectLevelsNow,
  selectSoloedSet,
  selectSong,
} from '../state/selectors';
import { LayerSelection } from '../state/session/layer-selection';
import { session } from '../state/session/session';
import { CueDifferenceBar } from '../ui/cues/cue-difference';
import { PlayableKeyboard } from '../ui/keyboard/keyboard';
import { PlumbPanel } from './beside/plumb-panel';
import { ChoiceBar } from '../ui/choices/choice-bar';
import { TracePanel } from '../ui/trace/trace-panel';
import { standsOver, takesTyping } from '../ui/typing';
import { LayerDrawer } from './drawer/layer-drawer';
import { CoverageStrip } from './field/coverage-strip';
import { DYNAMICS } from './field/dynamics';
import { Field, type FieldMark } from './field/field';
import type { FieldChange, SplitMove } from './field/field-drag';
import { FirstSounds } from './field/first-sounds';
import { PatchHeading } from './heading/patch-heading';
import { LayerClipboard } from './ledger/layer-clipboard';
import { Ledger, type LedgerChange, type LedgerOpening, type LedgerPick } from './ledger/ledger';
import { PatchCommands } from './patch-commands';
import { PatchDeeds } from './patch-deeds';
import { PatchDesk } from './patch-desk';
import { useShortcuts } from './shortcuts';

/** Remarks that have a tag on the field at one time. */
const MOST_TAGS = 8;

/** The Patch view: the field, the keyboard under it, Trace beside it, the ledger below. */
@Component({
  selector: 'pc-patch-view',
  imports: [
    ChoiceBar,
    CoverageStrip,
    CueDifferenceBar,
    Field,
    FirstSounds,
    RouterLink,
    LayerDrawer,
    Ledger,
    MatButtonModule,
    MatButtonToggleModule,
    MatTab,
    MatTabContent,
    MatTabGroup,
    PatchHeading,
    PlayableKeyboard,
    PlumbPanel,
    TracePanel,
  ],
  providers: [PatchDesk, PatchCommands],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './patch-view.html',
  styleUrl: './patch-view.scss',
  host: { '(document:copy)': 'copied($event)', '(document:paste)': 'pasted($event)' },
})
export class PatchView {
  private readonly store = inject<Store<AppState>>(Store);
  private readonly live = inject(Live);
  private readonly hands = inject(ScreenHands);
  private readonly clipboard = inject(LayerClipboard);
  protected readonly editing = inject(PatchEditing);
  protected readonly desk = inject(PatchDesk);
  protected readonly deeds = inject(PatchDeeds);
  protected readonly commands = inject(PatchCommands);
  protected readonly selection = inject(LayerSelection);
  protected readonly rowCommands = this.commands.of('row');

  protected readonly dynamics = DYNAMICS;
  protected readonly patch = this.store.selectSignal(selectPatch);
  /** The patch as the ledger shows it. */
  protected readonly listed = this.desk.calm.following(this.patch);
  protected readonly song = this.store.selectSignal(selectPatchSong);
  protected readonly levelsNow = this.store.selectSignal(selectLevelsNow);
  protected readonly openSong = this.store.selectSignal(selectSong);
  protected readonly compiled = this.desk.calm.following(this.store.selectSignal(selectCompiled));
  protected readonly keyboards = this.store.selectSignal(selectKeyboards);
  protected readonly labels = this.store.selectSignal(selectLabels);
  protected readonly keyboard = this.store.selectSignal(selectKeyboard);
  protected readonly library = this.store.selectSignal(selectLibrary);
  protected readonly middleC = this.store.selectSignal(selectMiddleC);
  protected readonly soloed = this.store.selectSignal(selectSoloedSet);
  protected readonly responses = this.store.selectSignal(selectResponses);
  private readonly remarks = this.desk.calm.following(this.store.selectSignal(selectRemarks));
  private readonly cost = this.desk.calm.following(this.store.selectSignal(selectCost));
  private readonly budget = this.store.selectSignal(selectBudget);

  protected readonly selected = this.selection.primary;
  /** Share of the budget by layer. */
  protected readonly costs = computed(
    () => new Map([...(this.cost()?.layers ?? [])].map(([id, cost]) => [id, cost / this.budget()])),
  );
  /** Remarks that have a place on the field shown. Silent ground is drawn there anyway. */
  protected readonly placedRemarks = computed(() =>
    this.remarks()
      .filter(
        ({ keyboardId, where, kind }) =>
          where && keyboardId === this.keyboard()?.id && !kind.startsWith('silent'),
      )
      .slice(0, MOST_TAGS),
  );
  /** What each key of the keyboard shown would sound on the layer whose transposition is under the hand; null for none. */
  protected readonly soundingKeys = computed(() => {
    const keyboard = this.keyboard();
    const layer = this.compiled()?.layers.find(({ id }) => id === this.desk.transposing());
    return layer && keyboard ? soundingByKey(layer, groundOf(keyboard).keys) : null;
  });
  protected readonly coverage = computed(() => {
    const compiled = this.compiled();
    const keyboard = this.keyboard();
    if (!compiled || !keyboard) return null;
    const found = coverage(compiled, keyboard);
    // Before there is a first sound, silence is no mistake to be marked.
    return compiled.layers.length > 0 ? found : { ...found, keys: [], silent: [] };
  });
  protected readonly present = computed(() => {
    const compiled = this.compiled();
    const keyboard = this.keyboard();
    const here = compiled && keyboard ? layersHearing(compiled, keyboard) : [];
    return new Set(here.map(({ id }) => id));
  });
  /** What choosers have picked, as one text, so that nothing changes while it stays. */
  private readonly choices = signal('');
  protected readonly ghosts = computed(() => {
    this.choices();
    const patch = this.patch();
    const { player } = this.live;
    const others = (patch?.layers ?? []).filter(
      ({ id }) =>
        !isChosen(id, patch?.choosers ?? [], (one) => player.pickedBy(one.id) ?? one.chosen),
    );
    return new Set(others.map(({ id }) => id));
  });
  protected readonly dimmed = computed(
    () =>
      new Set(
        this.coverage()
          ?.keys.filter((k) => k.layers.length === 0)
          .map((k) => k.key),
      ),
  );
  protected readonly shift = computed(() => {
    const song = this.song();
    return song ? shiftOfSong(song) : 0;
  });
  protected readonly keysInWords = computed(() => {
    const song = this.song();
    return song
      ? `Hands in ${musicalKeyName(song.fingered)}, sounds in ${musicalKeyName(song.sounding)}`
      : '';
  });

  /** The last note played, for Trace; a copy, since the player reuses its own. */
  protected readonly lastNote = signal<PlayedNote | null>(null);
  private notesSeen = 0;
  /** The patch as it was played then, with what controls have switched; Trace reads this one. */
  protected readonly traced = computed(() => {
    this.lastNote();
    const compiled = this.compiled();
    const { current } = this.live.runner;
    return current?.id === compiled?.id ? current : compiled;
  });

  protected readonly velocityOf = computed(() => {
    const keyboard = this.keyboard();
    const device = keyboard ? (this.compiled()?.rig.ids.indexOf(keyboard.id) ?? -1) : -1;
    const shift = (keyboard?.octaveShift ?? 0) * 12;
    return (key: number) => (device < 0 ? 0 : this.live.player.velocityOf(device, key - shift));
  });
  protected readonly mark = computed(() => {
    const keyboard = this.keyboard();
    const rig = this.compiled()?.rig;
    return (): FieldMark | null => {
      const note = this.lastNote();
      if (!note || !rig || rig.ids[note.device] !== keyboard?.id) return null;
      const velocity = rig.touch[note.device * 128 + note.velocity];
      return velocity > 0 ? { key: note.key + rig.keyShift[note.device], velocity } : null;
    };
  });

  /** The key read by the plumb line: the one under the hand, else the last one played. */
  protected readonly plumbed = computed(() => {
    const mark = this.mark()();
    const key = this.desk.hoveredKey() ?? mark?.key ?? null;
    return { key, velocity: mark && mark.key === key ? mark.velocity : null };
  });

  /** True while the drawer lies over the ledger: it is open, and there is a layer for it. */
  protected readonly drawerOpen = computed(
    () => this.desk.drawer() !== null && this.selected() !== null,
  );
  protected readonly undo = this.store.selectSignal(selectUndo);

  constructor() {
    useShortcuts(this.commands.all);
    // Without a layer it has nothing to show; it would come up again under the hand that goes into the next row.
    effect(() => {
      if (this.desk.drawer() !== null && this.selected() === null) this.desk.close();
    });
    // Closing the drawer brings the focus back to where it was opened from.
    let wasOpen = false;
    afterRenderEffect(() => {
      const isOpen = this.drawerOpen();
      const isNowhere = document.activeElement === document.body;
      if (wasOpen && !isOpen && isNowhere) this.desk.opener?.focus();
      wasOpen = isOpen;
    });
    eachFrame(() => {
      const choosers = this.patch()?.choosers ?? [];
      this.choices.set(
        choosers.map((one) => this.live.player.pickedBy(one.id) ?? one.chosen).join(),
      );
      const { player } = this.live;
      if (player.noteCount === this.notesSeen) return;
      this.notesSeen = player.noteCount;
      this.lastNote.set({ ...player.lastNote });
    });
  }

  protected back(): void {
    this.store.dispatch(history.undo());
  }

  protected forth(): void {
    this.store.dispatch(history.redo());
  }

  protected strike({ key, velocity }: { key: number; velocity: number }): void {
    const keyboard = this.keyboard();
    if (keyboard) this.hands.strike(keyboard, key, velocity);
  }

  protected release(key: number): void {
    const keyboard = this.keyboard();
    if (keyboard) this.hands.release(keyboard, key);
  }

  protected pickChoice({ chooser, choice }: { chooser: Chooser; choice: number }): void {
    if (chooser.chosen === choice) this.live.player.pick(chooser.id, choice);
    else this.editing.pick(chooser, choice);
  }

  protected chooseKeyboard(keyboardId: string): void {
    this.store.dispatch(session.keyboardChosen({ keyboardId }));
  }

  protected select(layerId: string | null): void {
    this.selection.only(layerId);
    if (layerId === null) this.desk.close();
  }

  protected pick({ layerId, how }: LedgerPick): void {
    if (how === 'only') this.select(layerId);
    else if (how === 'also') this.selection.toggle(layerId);
    else this.selection.through(layerId);
  }

  protected open({ layerId, tab }: LedgerOpening): void {
    this.selection.only(layerId);
    this.desk.open(tab ?? undefined);
  }

  protected show(remark: Remark): void {
    if (remark.layerIds.length > 0) this.selection.only(remark.layerIds[0]);
  }

  protected change({ layerId, changes, gesture }: FieldChange | LedgerChange): void {
    this.editing.changeLayer(layerId, changes, gesture);
  }

  /** The hand is on an edge with Shift: its neighbours come along. An edge without one moves alone. */
  protected moveSplitBy({ layerId, axis, side, by, gesture }: SplitMove): void {
    const patch = this.patch();
    const changes = patch && movingSplit(patch, layerId, by, { axis, side });
    if (changes) this.editing.changeLayers(changes, 'split moved', gesture);
  }

  protected copied(event: ClipboardEvent): void {
    const ids = this.selection.ids();
    if (this.isElsewhere(event) || ids.size === 0) return;
    const text = this.clipboard.textOf([...ids]);
    if (!text) return;
    event.preventDefault();
    event.clipboardData?.setData('text/plain', text);
  }

  protected pasted(event: ClipboardEvent): void {
    if (this.isElsewhere(event) || this.deeds.full()) return;
    if (this.clipboard.paste(event.clipboardData?.getData('text/plain') ?? ''))
      event.preventDefault();
  }

  private isElsewhere({ target }: Event): boolean {
    return takesTyping(target) || standsOver(target);
  }
}
