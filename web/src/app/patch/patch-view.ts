import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatMenuModule } from '@angular/material/menu';
import {
  coverage,
  groundOf,
  mendOf,
  movingSplit,
  type Mend,
  type Remark,
} from '@pentachord/core/coverage';
import type { ShelfItem } from '@pentachord/core/library';
import { MOST_LAYERS } from '@pentachord/core/model';
import { musicalKeyName, songShift } from '@pentachord/core/pitch';
import { soundingByKey, type PlayedNote } from '@pentachord/core/routing';
import { Store } from '@ngrx/store';
import { eachFrame } from '../live/frames';
import { Live } from '../live/live';
import { ScreenHands } from '../live/hands/screen-hands';
import { edits } from '../state/editing/edits';
import { history } from '../state/editing/history';
import { PatchEditing } from '../state/editing/patch-editing';
import type { AppState } from '../state/reducers';
import {
  selectBudget,
  selectCompiled,
  selectCost,
  selectCue,
  selectCuesBySong,
  selectDevices,
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
import { session } from '../state/session/session';
import { Taking } from '../state/editing/taking';
import { Dialogs } from '../ui/dialogs/dialogs';
import { PlayableKeyboard } from '../ui/keyboard/keyboard';
import type { PickerData } from '../ui/shelf/sound-picker';
import type { ShortcutGroup } from '../ui/dialogs/shortcuts-dialog';
import { Arranging } from './arranging';
import type { BalanceData, BalanceResult } from './heading/balance-dialog';
import { Calm } from './calm';
import { CoverageStrip } from './field/coverage-strip';
import { DYNAMICS } from './field/dynamics';
import { Field, type FieldChange, type FieldMark, type SplitMove } from './field/field';
import { LayerClipboard } from './ledger/layer-clipboard';
import { LayerDrawer, type DrawerTab } from './drawer/layer-drawer';
import { Ledger, type LedgerChange, type LedgerDeed, type LedgerPick } from './ledger/ledger';
import { useShortcuts, type PatchShortcut } from './shortcuts';
import { PlumbPanel } from './beside/plumb-panel';
import { TracePanel } from './beside/trace-panel';

/** Remarks shown in the heading; the rest are counted. */
const MOST_REMARKS = 2;
/** Remarks listed under “more”, the weightiest first. */
const MOST_LISTED = 30;
/** Remarks that have a tag on the field at one time. */
const MOST_TAGS = 8;

/** The Patch view: the field, the keyboard under it, Trace beside it, the ledger below. */
@Component({
  selector: 'pc-patch-view',
  imports: [
    CoverageStrip,
    Field,
    LayerDrawer,
    Ledger,
    MatMenuModule,
    PlayableKeyboard,
    PlumbPanel,
    TracePanel,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './patch-view.html',
  styleUrl: './patch-view.scss',
  host: { '(document:copy)': 'copied($event)', '(document:paste)': 'pasted($event)' },
})
export class PatchView {
  private readonly store = inject<Store<AppState>>(Store);
  private readonly live = inject(Live);
  private readonly hands = inject(ScreenHands);
  private readonly dialogs = inject(Dialogs);
  private readonly editing = inject(PatchEditing);
  protected readonly taking = inject(Taking);
  private readonly clipboard = inject(LayerClipboard);
  protected readonly arranging = inject(Arranging);

  /** While an edge is dragged, only the field itself moves with every frame. */
  protected readonly calm = new Calm();

  protected readonly dynamics = DYNAMICS;
  protected readonly patch = this.store.selectSignal(selectPatch);
  /** The patch as the ledger shows it. */
  protected readonly listed = this.calm.following(this.patch);
  protected readonly song = this.store.selectSignal(selectPatchSong);
  protected readonly cue = this.store.selectSignal(selectCue);
  protected readonly patches = this.store.selectSignal(selectPatchesOfSong);
  protected readonly compiled = this.calm.following(this.store.selectSignal(selectCompiled));
  protected readonly keyboards = this.store.selectSignal(selectKeyboards);
  protected readonly keyboard = this.store.selectSignal(selectKeyboard);
  protected readonly library = this.store.selectSignal(selectLibrary);
  protected readonly middleC = this.store.selectSignal(selectMiddleC);
  protected readonly soloed = this.store.selectSignal(selectSoloedSet);
  protected readonly responses = this.store.selectSignal(selectResponses);
  protected readonly undo = this.store.selectSignal(selectUndo);
  private readonly cuesBySong = this.store.selectSignal(selectCuesBySong);
  private readonly place = this.store.selectSignal(selectSession);
  private readonly allRemarks = this.calm.following(this.store.selectSignal(selectRemarks));

  private readonly devices = this.store.selectSignal(selectDevices);
  private readonly cost = this.calm.following(this.store.selectSignal(selectCost));
  private readonly budget = this.store.selectSignal(selectBudget);

  protected readonly selected = computed(() => this.place().layerId);
  protected readonly selection = computed(() => new Set(this.place().layerIds));
  /** Share of the budget by layer. */
  protected readonly costs = computed(
    () => new Map([...(this.cost()?.layers ?? [])].map(([id, cost]) => [id, cost / this.budget()])),
  );
  /** The part of the selected layer that the drawer shows; null while it is closed. */
  protected readonly drawer = signal<DrawerTab | null>(null);
  /** Where the drawer opens next time. */
  private lastTab: DrawerTab = 'touch';
  protected readonly beside = signal<'trace' | 'plumb'>('trace');
  /** The key under the hand on the field. */
  protected readonly hovered = signal<number | null>(null);
  protected readonly shownRemarks = computed(() =>
    this.allRemarks()
      .slice(0, MOST_REMARKS)
      .map((remark) => this.withMend(remark)),
  );
  protected readonly moreRemarks = computed(() =>
    this.allRemarks()
      .slice(MOST_REMARKS, MOST_LISTED)
      .map((remark) => this.withMend(remark)),
  );
  protected readonly moreCount = computed(() => this.allRemarks().length - MOST_REMARKS);
  /** Remarks that have a place on the field shown. Silent ground is drawn there anyway. */
  protected readonly placedRemarks = computed(() =>
    this.allRemarks()
      .filter(
        ({ keyboardId, where, kind }) =>
          where && keyboardId === this.keyboard()?.id && !kind.startsWith('silent'),
      )
      .slice(0, MOST_TAGS),
  );
  /** The remark under the hand. */
  protected readonly pointed = signal<string | null>(null);
  /** The layer whose transposition is under the hand or the caret. */
  protected readonly transposing = signal<string | null>(null);
  /** What each key of the keyboard shown would sound on that layer; null while there is none. */
  protected readonly soundingKeys = computed(() => {
    const keyboard = this.keyboard();
    const layer = this.compiled()?.layers.find(({ id }) => id === this.transposing());
    return layer && keyboard ? soundingByKey(layer, groundOf(keyboard).keys) : null;
  });
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
    const key = this.hovered() ?? mark?.key ?? null;
    return { key, velocity: mark && mark.key === key ? mark.velocity : null };
  });

  constructor() {
    useShortcuts(this.shortcuts);
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
    if (layerId !== this.selected() || this.selection().size > 1)
      this.store.dispatch(session.layerSelected({ layerId }));
    if (layerId === null) this.drawer.set(null);
  }

  protected pick({ layerId, how }: LedgerPick): void {
    const before = this.place().layerIds;
    if (how === 'only') this.select(layerId);
    else if (how === 'also') {
      const layerIds = before.includes(layerId)
        ? before.filter((id) => id !== layerId)
        : [...before, layerId];
      this.store.dispatch(session.layersSelected({ layerIds }));
    } else this.selectThrough(layerId);
  }

  /** Everything between the layer selected last and this one. */
  private selectThrough(layerId: string): void {
    const ids = this.patch()?.layers.map(({ id }) => id) ?? [];
    const from = Math.max(0, ids.indexOf(this.selected() ?? ''));
    const to = ids.indexOf(layerId);
    const between = ids.slice(Math.min(from, to), Math.max(from, to) + 1);
    const layerIds = [...between.filter((id) => id !== layerId), layerId];
    this.store.dispatch(session.layersSelected({ layerIds }));
  }

  /** Selects the layer above or below, as the ledger has them. */
  private step(by: number): void {
    const ids = this.patch()?.layers.map(({ id }) => id) ?? [];
    if (ids.length === 0) return;
    const at = ids.indexOf(this.selected() ?? '');
    this.select(ids[Math.min(ids.length - 1, Math.max(0, at + by))]);
  }

  /** Opens the drawer on the selected layer, or closes it. */
  protected openDrawer(tab: DrawerTab | null): void {
    if (tab !== null) this.lastTab = tab;
    this.drawer.set(tab);
  }

  private withMend(remark: Remark): Remark & { mend: Mend | null } {
    const patch = this.listed();
    return { ...remark, mend: patch && mendOf(remark, patch, this.devices()) };
  }

  protected show(remark: Remark): void {
    if (remark.keyboardId) this.chooseKeyboard(remark.keyboardId);
    if (remark.layerIds.length > 0) this.select(remark.layerIds[0]);
  }

  protected change({ layerId, changes, gesture }: FieldChange | LedgerChange): void {
    this.editing.changeLayer(layerId, changes, gesture);
  }

  protected mendIt({ words, changes }: Mend): void {
    this.editing.changeLayers(changes, words);
  }

  /** Moves the split beside the selected layer by some keys, both sides together. */
  private moveSplit(layerId: string, by: number): void {
    const patch = this.patch();
    const changes = patch && movingSplit(patch, layerId, by);
    if (changes) this.editing.changeLayers(changes, 'split moved', `split ${layerId}`);
  }

  /** The same with the hand on an edge; an edge without a neighbour moves alone. */
  protected moveSplitBy({ layerId, axis, side, by, gesture }: SplitMove): void {
    const patch = this.patch();
    const changes = patch && movingSplit(patch, layerId, by, { axis, side });
    if (changes) this.editing.changeLayers(changes, 'split moved', gesture);
  }

  protected async balance(): Promise<void> {
    const { BalanceDialog } = await import('./heading/balance-dialog');
    const compiled = this.compiled();
    const patchId = this.patch()?.id;
    if (!compiled || !patchId) return;
    const data: BalanceData = { patch: compiled, responses: this.responses() };
    const levels = await this.dialogs.open<BalanceData, BalanceResult>(BalanceDialog, {
      data,
      maxWidth: 760,
    });
    if (!levels) return;
    const changes = Object.fromEntries([...levels].map(([id, level]) => [id, { level }]));
    this.store.dispatch(edits.layersChanged({ patchId, changes, words: 'layers balanced' }));
  }

  protected rename(box: HTMLInputElement): void {
    const patch = this.patch();
    const name = box.value.trim().slice(0, 80);
    if (!patch || name === '' || name === patch.name) box.value = patch?.name ?? '';
    else this.store.dispatch(edits.patchRenamed({ patchId: patch.id, name }));
  }

  protected async add(): Promise<void> {
    if (this.full()) return;
    const item = await this.pickSound({ title: 'Add a layer', offered: 'layers', current: null });
    if (item) this.taking.take(item);
  }

  protected async swap(layerId: string): Promise<void> {
    const patch = this.patch();
    const layer = patch?.layers.find(({ id }) => id === layerId);
    const current = patch?.sounds.find(({ id }) => id === layer?.soundId)?.librarySoundId ?? null;
    const title = `Swap the sound of ${layer?.name ?? 'the layer'}`;
    const item = await this.pickSound({ title, offered: 'sounds', current });
    if (item) this.taking.swap(layerId, item);
  }

  private async pickSound(data: PickerData): Promise<ShelfItem | undefined> {
    const { SoundPicker } = await import('../ui/shelf/sound-picker');
    return this.dialogs.open<PickerData, ShelfItem>(SoundPicker, {
      data,
      width: '1040px',
      maxWidth: '96vw',
    });
  }

  protected do({ layerId, deed }: LedgerDeed): void {
    const patch = this.patch();
    if (!patch) return;
    const patchId = patch.id;
    const at = patch.layers.findIndex((l) => l.id === layerId);
    const together = this.selection().has(layerId) ? [...this.selection()] : [layerId];
    switch (deed) {
      case 'duplicate': {
        const copyIds = Object.fromEntries(together.map((id) => [id, crypto.randomUUID()]));
        this.store.dispatch(edits.layersDuplicated({ patchId, copyIds }));
        this.store.dispatch(session.layersSelected({ layerIds: Object.values(copyIds) }));
        break;
      }
      case 'remove':
        this.store.dispatch(edits.layersRemoved({ patchId, layerIds: together }));
        this.select(null);
        break;
      case 'up':
        this.move({ layerId, to: at - 1 });
        break;
      case 'down':
        this.move({ layerId, to: at + 1 });
        break;
      case 'solo':
        this.store.dispatch(session.soloToggled({ layerId }));
        break;
      case 'copy':
        this.clipboard.copy(together);
        break;
      case 'keep': {
        const layer = patch.layers[at];
        const sound = patch.sounds.find(({ id }) => id === layer?.soundId);
        if (layer && sound) this.taking.keep(layer.name, { kind: 'layer', sound, layer });
        break;
      }
      case 'open':
      case 'touch':
        this.select(layerId);
        this.openDrawer(deed === 'touch' ? 'touch' : this.lastTab);
    }
  }

  protected move({ layerId, to }: { layerId: string; to: number }): void {
    const patchId = this.patch()?.id;
    if (patchId) this.store.dispatch(edits.layerMoved({ patchId, layerId, to }));
  }

  /** Why the open patch cannot be removed; an empty text when it can. */
  protected readonly bound = computed(() => {
    const id = this.patch()?.id;
    const song = this.song();
    const cues = (song && this.cuesBySong().get(song.id)) ?? [];
    const users = cues.filter(({ patchId }) => patchId === id).map(({ name }) => name);
    if (users.length > 0) return `cues play it: ${users.join(', ')}`;
    return this.patches().length < 2 ? 'the song has no other' : '';
  });

  protected keepPatch(): void {
    const patch = this.patch();
    if (patch) this.taking.keep(patch.name, { kind: 'patch', patch });
  }

  protected copied(event: ClipboardEvent): void {
    if (isTyping(event) || this.selection().size === 0) return;
    const text = this.clipboard.textOf([...this.selection()]);
    if (!text) return;
    event.preventDefault();
    event.clipboardData?.setData('text/plain', text);
  }

  protected pasted(event: ClipboardEvent): void {
    if (isTyping(event) || this.full()) return;
    if (this.clipboard.paste(event.clipboardData?.getData('text/plain') ?? ''))
      event.preventDefault();
  }

  protected paste(): void {
    this.clipboard.paste('');
  }

  protected back(): void {
    this.store.dispatch(history.undo());
  }

  protected forth(): void {
    this.store.dispatch(history.redo());
  }

  /** Everything the keyboard can do here, for the keys themselves and for the list under “?”. */
  private readonly shortcuts: readonly (PatchShortcut & { group: string })[] = [
    ...this.arranging.commands.map((command) => ({
      ...command,
      group: 'Ranges of the selected layers',
      run: (key: string) => {
        if (this.arranging.possible(command)) command.run(key);
      },
    })),
    this.onLayer('BracketLeft', '[', 'move the split down', (id) => this.moveSplit(id, -1)),
    this.onLayer('BracketRight', ']', 'move the split up', (id) => this.moveSplit(id, 1)),
    this.onLayer('KeyE', 'E', 'open it: touch, sound, balance, treatments', (layerId) =>
      this.do({ layerId, deed: 'open' }),
    ),
    this.onLayer('KeyW', 'W', 'swap its sound', (id) => void this.swap(id)),
    this.onLayer('KeyD', 'D', 'duplicate', (layerId) => this.do({ layerId, deed: 'duplicate' })),
    this.onLayer('KeyM', 'M', 'mute', (id) => {
      const layer = this.patch()?.layers.find((l) => l.id === id);
      if (layer) this.editing.changeLayer(id, { muted: !layer.muted });
    }),
    this.onLayer('KeyS', 'S', 'solo', (layerId) => this.do({ layerId, deed: 'solo' })),
    this.onLayer('KeyK', 'K', 'keep in my sounds', (layerId) => this.do({ layerId, deed: 'keep' })),
    this.onLayer('Delete,Backspace', 'Del', 'remove', (layerId) =>
      this.do({ layerId, deed: 'remove' }),
    ),
    this.onLayer('Alt+ArrowUp', 'Alt ↑', 'move up in the ledger', (layerId) =>
      this.do({ layerId, deed: 'up' }),
    ),
    this.onLayer('Alt+ArrowDown', 'Alt ↓', 'move down in the ledger', (layerId) =>
      this.do({ layerId, deed: 'down' }),
    ),
    this.anywhere('ArrowUp', '↑', 'select the layer above', () => this.step(-1)),
    this.anywhere('ArrowDown', '↓', 'select the layer below', () => this.step(1)),
    this.anywhere('$mod+KeyA', 'Ctrl A', 'select all layers', () => {
      const layerIds = this.patch()?.layers.map(({ id }) => id) ?? [];
      this.store.dispatch(session.layersSelected({ layerIds }));
    }),
    this.anywhere('KeyA', 'A', 'add a layer', () => void this.add()),
    this.anywhere('KeyB', 'B', 'balance', () => void this.balance()),
    this.anywhere('KeyT', 'T', 'trace', () => this.beside.set('trace')),
    this.anywhere('KeyP', 'P', 'plumb line', () => this.beside.set('plumb')),
    this.anywhere('Escape', 'Esc', 'close the drawer', () => this.openDrawer(null)),
    this.anywhere('Shift+?,?', '?', 'this list', () => void this.showShortcuts()),
  ];

  private onLayer(keys: string, shown: string, words: string, run: (layerId: string) => void) {
    return {
      keys,
      shown,
      words,
      group: 'The selected layers',
      run: () => {
        const layerId = this.selected();
        if (layerId && this.patch()?.layers.some(({ id }) => id === layerId)) run(layerId);
      },
    };
  }

  private anywhere(keys: string, shown: string, words: string, run: () => void) {
    return { keys, shown, words, group: 'The patch', run };
  }

  protected async showShortcuts(): Promise<void> {
    const { ShortcutsDialog } = await import('../ui/dialogs/shortcuts-dialog');
    const names = [...new Set(this.shortcuts.map(({ group }) => group))];
    const groups: ShortcutGroup[] = names.map((name) => ({
      name,
      shortcuts: this.shortcuts.filter(({ group }) => group === name),
    }));
    groups.push({ name: 'Everywhere', shortcuts: EVERYWHERE });
    await this.dialogs.open(ShortcutsDialog, { data: groups, maxWidth: 860 });
  }
}

/** Shortcuts that belong to the browser, the shell or single fields. */
const EVERYWHERE = [
  { shown: 'Ctrl Z', words: 'undo' },
  { shown: 'Ctrl Y', words: 'redo' },
  { shown: 'Ctrl C', words: 'copy the selected layers' },
  { shown: 'Ctrl V', words: 'paste layers, here or in another patch' },
  { shown: '↑ ↓', words: 'in a number or on an edge: one step; with Shift ten, or an octave' },
  { shown: 'Ctrl click', words: 'select one more layer; Shift: all up to it' },
  { shown: 'Shift drag', words: 'on an edge: the neighbour’s edge comes along' },
];

function isTyping(event: Event): boolean {
  const target = event.target as HTMLElement | null;
  return !!target?.closest?.('input, textarea, select, mat-dialog-container');
}
