import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatDialog } from '@angular/material/dialog';
import { MatMenuModule } from '@angular/material/menu';
import { MatTooltipModule } from '@angular/material/tooltip';
import { coverage, mendOf, movingSplit, type Mend, type Remark } from '@pentachord/core/coverage';
import { MOST_LAYERS } from '@pentachord/core/model';
import { musicalKeyName, songShift } from '@pentachord/core/pitch';
import type { PlayedNote } from '@pentachord/core/routing';
import { Store } from '@ngrx/store';
import { eachFrame } from '../live/frames';
import { Live } from '../live/live';
import { ScreenHands } from '../live/screen-hands';
import { edits } from '../state/document';
import { history } from '../state/history';
import type { AppState } from '../state/reducers';
import {
  selectCompiled,
  selectCue,
  selectKeyboard,
  selectKeyboards,
  selectLibrary,
  selectMiddleC,
  selectPatch,
  selectPatchesOfSong,
  selectPatchSong,
  selectRemarks,
  selectResponses,
  selectSession,
  selectSoloedSet,
  selectUndo,
} from '../state/selectors';
import { session } from '../state/session';
import { SoundMenu } from '../ui/sound-menu';
import { PlayableKeyboard } from '../ui/keyboard';
import type { BalanceData, BalanceResult } from './balance-dialog';
import { CoverageStrip } from './coverage-strip';
import { DYNAMICS } from './dynamics';
import { Field, type FieldChange, type FieldMark } from './field';
import { Ledger, type LedgerChange, type LedgerDeed } from './ledger';
import { PlumbPanel } from './plumb-panel';
import { TracePanel } from './trace-panel';

/** Remarks shown in the heading; the rest are counted. */
const MOST_REMARKS = 4;

/** The Patch view: the field, the keyboard under it, Trace beside it, the ledger below. */
@Component({
  selector: 'pc-patch-view',
  imports: [
    CoverageStrip,
    Field,
    Ledger,
    MatMenuModule,
    MatTooltipModule,
    PlayableKeyboard,
    PlumbPanel,
    SoundMenu,
    TracePanel,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './patch-view.html',
  styleUrl: './patch-view.scss',
  host: { '(document:keydown)': 'shortcut($event)' },
})
export class PatchView {
  private readonly store = inject<Store<AppState>>(Store);
  private readonly live = inject(Live);
  private readonly hands = inject(ScreenHands);
  private readonly dialog = inject(MatDialog);

  protected readonly dynamics = DYNAMICS;
  protected readonly patch = this.store.selectSignal(selectPatch);
  protected readonly song = this.store.selectSignal(selectPatchSong);
  protected readonly cue = this.store.selectSignal(selectCue);
  protected readonly patches = this.store.selectSignal(selectPatchesOfSong);
  protected readonly compiled = this.store.selectSignal(selectCompiled);
  protected readonly keyboards = this.store.selectSignal(selectKeyboards);
  protected readonly keyboard = this.store.selectSignal(selectKeyboard);
  protected readonly library = this.store.selectSignal(selectLibrary);
  protected readonly middleC = this.store.selectSignal(selectMiddleC);
  protected readonly soloed = this.store.selectSignal(selectSoloedSet);
  protected readonly responses = this.store.selectSignal(selectResponses);
  protected readonly undo = this.store.selectSignal(selectUndo);
  private readonly place = this.store.selectSignal(selectSession);
  private readonly allRemarks = this.store.selectSignal(selectRemarks);

  protected readonly selected = computed(() => this.place().layerId);
  protected readonly beside = signal<'trace' | 'plumb'>('trace');
  /** The key under the hand on the field. */
  protected readonly hovered = signal<number | null>(null);
  protected readonly shownRemarks = computed(() => {
    const patch = this.patch();
    const shown = this.allRemarks().slice(0, MOST_REMARKS);
    return shown.map((remark) => ({ ...remark, mend: patch && mendOf(remark, patch) }));
  });
  protected readonly moreRemarks = computed(() => this.allRemarks().slice(MOST_REMARKS));
  protected readonly full = computed(() => (this.patch()?.layers.length ?? 0) >= MOST_LAYERS);
  protected readonly coverage = computed(() => {
    const compiled = this.compiled();
    const keyboard = this.keyboard();
    return compiled && keyboard ? coverage(compiled, keyboard) : null;
  });
  protected readonly present = computed(() => {
    const compiled = this.compiled();
    const keyboard = this.keyboard();
    const device = compiled && keyboard ? compiled.rig.ids.indexOf(keyboard.id) : -1;
    const here = compiled?.layers.filter(
      (l) => l.hearsDevice[device] === 1 && (l.channel === 0 || l.channel === keyboard?.channel),
    );
    return new Set(here?.map((l) => l.id));
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
    return song ? songShift(song.fingered, song.sounding) : 0;
  });
  protected readonly fingers = computed(() => {
    const song = this.song();
    if (!song) return '';
    const [finger, hear] = [musicalKeyName(song.fingered), musicalKeyName(song.sounding)];
    return finger === hear
      ? `You finger and they hear ${hear}`
      : `You finger ${finger}, they hear ${hear}`;
  });

  /** The last note played, for Trace; a copy, since the player reuses its own. */
  protected readonly lastNote = signal<PlayedNote | null>(null);
  private notesSeen = 0;

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
    const key = this.hovered() ?? mark?.key ?? null;
    return { key, velocity: mark && mark.key === key ? mark.velocity : null };
  });

  constructor() {
    eachFrame(() => {
      const { player } = this.live;
      if (player.noteCount === this.notesSeen) return;
      this.notesSeen = player.noteCount;
      this.lastNote.set({ ...player.lastNote });
    });
  }

  protected strike({ key, velocity }: { key: number; velocity: number }): void {
    const keyboard = this.keyboard();
    if (keyboard) this.hands.strike(keyboard, key, velocity);
  }

  protected release(key: number): void {
    const keyboard = this.keyboard();
    if (keyboard) this.hands.release(keyboard, key);
  }

  protected openPatch(patchId: string): void {
    this.store.dispatch(session.patchOpened({ patchId }));
  }

  protected chooseKeyboard(keyboardId: string): void {
    this.store.dispatch(session.keyboardChosen({ keyboardId }));
  }

  protected select(layerId: string | null): void {
    if (layerId !== this.selected()) this.store.dispatch(session.layerSelected({ layerId }));
  }

  protected show(remark: Remark): void {
    this.chooseKeyboard(remark.keyboardId);
    if (remark.layerIds.length > 0) this.select(remark.layerIds[0]);
  }

  protected change({ layerId, changes, gesture }: FieldChange | LedgerChange): void {
    const patchId = this.patch()?.id;
    if (patchId) this.store.dispatch(edits.layerChanged({ patchId, layerId, changes, gesture }));
  }

  protected mendIt({ words, changes }: Mend): void {
    const patchId = this.patch()?.id;
    if (patchId) this.store.dispatch(edits.layersChanged({ patchId, changes, words }));
  }

  /** Moves the split beside the selected layer by some keys, both sides together. */
  private moveSplit(layerId: string, by: number): void {
    const patch = this.patch();
    const changes = patch && movingSplit(patch, layerId, by);
    if (changes)
      this.store.dispatch(
        edits.layersChanged({
          patchId: patch.id,
          changes,
          words: 'split moved',
          gesture: `split ${layerId}`,
        }),
      );
  }

  protected async balance(): Promise<void> {
    const { BalanceDialog } = await import('./balance-dialog');
    const compiled = this.compiled();
    const patchId = this.patch()?.id;
    if (!compiled || !patchId) return;
    const data: BalanceData = { patch: compiled, responses: this.responses() };
    const dialog = this.dialog.open<unknown, BalanceData, BalanceResult>(BalanceDialog, {
      data,
      maxWidth: 760,
    });
    dialog.afterClosed().subscribe((levels) => {
      if (!levels) return;
      const changes = Object.fromEntries([...levels].map(([id, level]) => [id, { level }]));
      this.store.dispatch(edits.layersChanged({ patchId, changes, words: 'layers balanced' }));
    });
  }

  protected rename(box: HTMLInputElement): void {
    const patch = this.patch();
    const name = box.value.trim().slice(0, 80);
    if (!patch || name === '' || name === patch.name) box.value = patch?.name ?? '';
    else this.store.dispatch(edits.patchRenamed({ patchId: patch.id, name }));
  }

  protected add(librarySoundId: string): void {
    const patchId = this.patch()?.id;
    if (!patchId) return;
    const layerId = crypto.randomUUID();
    this.store.dispatch(
      edits.layerAdded({
        patchId,
        layerId,
        patchSoundId: crypto.randomUUID(),
        librarySoundId,
        keyboardId: this.keyboard()?.id ?? null,
      }),
    );
    this.select(layerId);
  }

  protected swap({ layerId, librarySoundId }: { layerId: string; librarySoundId: string }): void {
    const patchId = this.patch()?.id;
    if (!patchId) return;
    const patchSoundId = crypto.randomUUID();
    this.store.dispatch(edits.soundSwapped({ patchId, layerId, patchSoundId, librarySoundId }));
  }

  protected do({ layerId, deed }: LedgerDeed): void {
    const patch = this.patch();
    if (!patch) return;
    const patchId = patch.id;
    const at = patch.layers.findIndex((l) => l.id === layerId);
    switch (deed) {
      case 'duplicate': {
        const copyId = crypto.randomUUID();
        this.store.dispatch(edits.layerDuplicated({ patchId, layerId, copyId }));
        this.select(copyId);
        break;
      }
      case 'remove':
        this.store.dispatch(edits.layerRemoved({ patchId, layerId }));
        this.select(null);
        break;
      case 'up':
        this.store.dispatch(edits.layerMoved({ patchId, layerId, to: at - 1 }));
        break;
      case 'down':
        this.store.dispatch(edits.layerMoved({ patchId, layerId, to: at + 1 }));
        break;
      case 'solo':
        this.store.dispatch(session.soloToggled({ layerId }));
    }
  }

  protected back(): void {
    this.store.dispatch(history.undo());
  }

  protected forth(): void {
    this.store.dispatch(history.redo());
  }

  protected shortcut(event: KeyboardEvent): void {
    const target = event.target as HTMLElement;
    if (this.hands.typing() || event.ctrlKey || event.metaKey || event.altKey) return;
    if (target.closest('input, textarea, select, .mat-mdc-menu-panel')) return;
    if (event.code === 'KeyT') this.beside.set('trace');
    if (event.code === 'KeyP') this.beside.set('plumb');
    const layer = this.patch()?.layers.find((l) => l.id === this.selected());
    if (!layer) return;
    const layerId = layer.id;
    switch (event.code) {
      case 'BracketLeft':
        this.moveSplit(layerId, -1);
        break;
      case 'BracketRight':
        this.moveSplit(layerId, 1);
        break;
      case 'KeyD':
        this.do({ layerId, deed: 'duplicate' });
        break;
      case 'KeyM':
        this.change({ layerId, changes: { muted: !layer.muted } });
        break;
      case 'KeyS':
        this.do({ layerId, deed: 'solo' });
        break;
      case 'Delete':
        this.do({ layerId, deed: 'remove' });
        break;
      default:
        return;
    }
    event.preventDefault();
  }
}
