import {
  afterRenderEffect,
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { Router, RouterLink } from '@angular/router';
import { MatTab, MatTabContent, MatTabGroup } from '@angular/material/tabs';
import { movingSplit, type Remark } from '@pentachord/core/coverage';
import { shiftOfSong, type Chooser } from '@pentachord/core/model';
import { musicalKeyName } from '@pentachord/core/pitch';
import { Store } from '@ngrx/store';
import { ScreenHands } from '../live/hands/screen-hands';
import { Live } from '../live/live';
import { PatchEditing } from '../state/editing/patch-editing';
import type { AppState } from '../state/reducers';
import { selectUndo } from '../state/editing/selectors';
import { selectResponses } from '../state/machine/selectors';
import {
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
import { Undoing } from '../state/session/undoing';
import { CueDifferenceBar } from '../ui/cues/cue-difference';
import { BoardFlags } from '../ui/band/board-flags';
import { PlayableKeyboard } from '../ui/keyboard/keyboard';
import { PlumbPanel } from './beside/plumb-panel';
import { ChoiceBar } from '../ui/choices/choice-bar';
import { TracePanel } from '../ui/trace/trace-panel';
import { standsOver, takesTyping } from '../ui/typing';
import { LayerDrawer } from './drawer/layer-drawer';
import { CoverageStrip } from './field/coverage-strip';
import { DYNAMICS } from '../ui/field/dynamics';
import { Field } from './field/field';
import type { FieldChange, SplitMove } from './field/field-drag';
import { FirstSounds } from './field/first-sounds';
import { AddedNotice } from './heading/added-notice';
import { PatchHeading } from './heading/patch-heading';
import { RemarksLine } from './heading/remarks-line';
import { LayerClipboard } from './ledger/layer-clipboard';
import { Ledger, type LedgerChange, type LedgerOpening, type LedgerPick } from './ledger/ledger';
import { PatchCommands } from './patch-commands';
import { PatchActions } from './patch-actions';
import { PatchDesk } from './patch-desk';
import { PlayedPatch } from './played-patch';
import { ShownPatch } from './shown-patch';
import { useShortcuts } from './shortcuts';

/** The Patch view: the field, the keyboard under it, Trace beside it, the ledger below. */
@Component({
  selector: 'pc-patch-view',
  imports: [
    AddedNotice,
    ChoiceBar,
    CoverageStrip,
    CueDifferenceBar,
    Field,
    FirstSounds,
    RouterLink,
    BoardFlags,
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
    RemarksLine,
    TracePanel,
  ],
  providers: [PatchDesk, PatchCommands, ShownPatch, PlayedPatch],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './patch-view.html',
  styleUrl: './patch-view.scss',
  host: { '(document:copy)': 'copied($event)', '(document:paste)': 'pasted($event)' },
})
export class PatchView {
  private readonly store = inject<Store<AppState>>(Store);
  private readonly live = inject(Live);
  private readonly router = inject(Router);
  private readonly hands = inject(ScreenHands);
  private readonly clipboard = inject(LayerClipboard);
  protected readonly editing = inject(PatchEditing);
  protected readonly desk = inject(PatchDesk);
  protected readonly shown = inject(ShownPatch);
  protected readonly played = inject(PlayedPatch);
  protected readonly actions = inject(PatchActions);
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
  protected readonly keyboards = this.store.selectSignal(selectKeyboards);
  protected readonly labels = this.store.selectSignal(selectLabels);
  protected readonly library = this.store.selectSignal(selectLibrary);
  protected readonly middleC = this.store.selectSignal(selectMiddleC);
  protected readonly soloed = this.store.selectSignal(selectSoloedSet);
  protected readonly responses = this.store.selectSignal(selectResponses);

  protected readonly selected = this.selection.primary;
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

  /** True while the drawer lies over the ledger: it is open, and there is a layer for it. */
  protected readonly drawerOpen = computed(
    () => this.desk.drawer() !== null && this.selected() !== null,
  );
  protected readonly undo = this.store.selectSignal(selectUndo);
  protected readonly undoing = inject(Undoing);

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
  }

  /** What keys start is looked at and changed in the band’s own view. */
  protected openBand(): void {
    void this.router.navigateByUrl('/patch/band');
  }

  protected strike({ key, velocity }: { key: number; velocity: number }): void {
    const keyboard = this.shown.keyboard();
    if (keyboard) this.hands.strike(keyboard, key, velocity);
  }

  protected release(key: number): void {
    const keyboard = this.shown.keyboard();
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
    if (this.isElsewhere(event) || this.actions.full()) return;
    if (this.clipboard.paste(event.clipboardData?.getData('text/plain') ?? ''))
      event.preventDefault();
  }

  private isElsewhere({ target }: Event): boolean {
    return takesTyping(target) || standsOver(target);
  }
}
