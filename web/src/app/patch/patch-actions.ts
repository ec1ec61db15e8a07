import { computed, inject, Injectable, Injector } from '@angular/core';
import type { ShelfItem } from '@pentachord/core/library';
import { MOST_LAYERS, type PatchSound } from '@pentachord/core/model';
import { splitAt } from '@pentachord/core/range';
import { Store } from '@ngrx/store';
import { PatchEditing } from '../state/editing/patch-editing';
import { PatchesOfSong } from '../state/editing/patches-of-song';
import type { Beside, Taking } from '../state/editing/taking';
import type { AppState } from '../state/reducers';
import { selectResponses } from '../state/machine/selectors';
import { selectCompiled } from '../state/selectors';
import { LayerSelection } from '../state/session/layer-selection';
import { session } from '../state/session/session';
import { Dialogs } from '../ui/dialogs/dialogs';
import type { PickerData } from '../ui/shelf/sound-picker';
import type { BalanceData, BalanceResult } from './heading/balance-dialog';
import { LayerClipboard } from './ledger/layer-clipboard';

/** What can be done with the layers of the patch on the desk, and with the patch. */
@Injectable({ providedIn: 'root' })
export class PatchActions {
  private readonly store = inject<Store<AppState>>(Store);
  private readonly dialogs = inject(Dialogs);
  private readonly editing = inject(PatchEditing);
  private readonly selection = inject(LayerSelection);
  private readonly clipboard = inject(LayerClipboard);
  private readonly injector = inject(Injector);
  private readonly songPatches = inject(PatchesOfSong);
  private readonly patch = this.editing.patch;
  private readonly compiled = this.store.selectSignal(selectCompiled);
  private readonly responses = this.store.selectSignal(selectResponses);

  /** Why no layer can be added; an empty text when one can. */
  readonly full = computed(() =>
    (this.patch()?.layers.length ?? 0) >= MOST_LAYERS ? 'the patch is full' : '',
  );
  /** Why the open patch cannot be removed; an empty text when it can. */
  readonly bound = computed(() => {
    const patch = this.patch();
    return patch ? this.songPatches.whyStays(patch.id) : 'no patch is open';
  });

  duplicate(layerId: string): void {
    this.selection.set(this.editing.duplicate(this.selection.with(layerId)));
  }

  remove(layerId: string): void {
    this.editing.removeLayers(this.selection.with(layerId));
    this.selection.only(null);
  }

  /** Moves a layer by some places in the ledger. */
  moveBy(layerId: string, by: number): void {
    this.editing.moveLayer(layerId, this.placeOf(layerId) + by);
  }

  /** Why a layer cannot be moved by some places; an empty text when it can. */
  whyNotMoved(layerId: string, by: number): string {
    const to = this.placeOf(layerId) + by;
    if (to < 0) return 'it is the first';
    return to >= (this.patch()?.layers.length ?? 0) ? 'it is the last' : '';
  }

  /** True when another layer plays the sound of this one. */
  shares(layerId: string): boolean {
    const layers = this.patch()?.layers ?? [];
    const soundId = layers.find(({ id }) => id === layerId)?.soundId;
    return layers.some((layer) => layer.id !== layerId && layer.soundId === soundId);
  }

  /** Layers whose sound this one could play as well. */
  sharable(layerId: string | null): { id: string; name: string }[] {
    const layers = this.patch()?.layers ?? [];
    const soundId = layers.find(({ id }) => id === layerId)?.soundId;
    return layers.filter((layer) => layer.soundId !== soundId);
  }

  makeOwn(layerId: string): void {
    const layer = this.patch()?.layers.find(({ id }) => id === layerId);
    if (layer) this.editing.makeOwn(layer);
  }

  shareWith(layerId: string | null, otherId: string): void {
    const layers = this.patch()?.layers ?? [];
    const layer = layers.find(({ id }) => id === layerId);
    const other = layers.find(({ id }) => id === otherId);
    if (layer && other) this.editing.shareWith(layer, other);
  }

  mute(layerId: string): void {
    const layer = this.patch()?.layers.find(({ id }) => id === layerId);
    if (layer) this.editing.changeLayer(layerId, { muted: !layer.muted });
  }

  solo(layerId: string): void {
    this.store.dispatch(session.soloToggled({ layerId }));
  }

  copy(layerId: string): void {
    this.clipboard.copy(this.selection.with(layerId));
  }

  paste(): void {
    this.clipboard.paste('');
  }

  /** Keeps a layer under a name that the player gives. */
  async keepLayer(layerId: string): Promise<void> {
    const layer = this.patch()?.layers.find(({ id }) => id === layerId);
    const name = layer && (await this.askName(layer.name));
    if (name) (await this.taking()).keepLayer(layerId, name);
  }

  /** Has the patch played and edited as it is written, or with the balance of the current cue. */
  chooseBalance(balance: 'written' | 'cue'): void {
    this.store.dispatch(session.balanceChosen({ balance }));
  }

  /** The other of the two. */
  turnBalance(): void {
    this.chooseBalance(this.editing.cue() ? 'written' : 'cue');
  }

  /** Keeps a sound of the patch under a name that the player gives. */
  async keepSound(name: string, sound: PatchSound): Promise<void> {
    const given = await this.askName(name);
    if (given) (await this.taking()).keep(given, { kind: 'sound', sound });
  }

  /** Keeps the whole patch, as it is written, under a name that the player gives. */
  async keepPatch(): Promise<void> {
    const patch = this.editing.written();
    const name = patch && (await this.askName(patch.name));
    if (patch && name) (await this.taking()).keep(name, { kind: 'patch', patch });
  }

  newPatch(): void {
    this.songPatches.addEmpty();
  }

  copyPatch(): void {
    this.songPatches.copyOpen();
  }

  removePatch(): void {
    const patch = this.patch();
    if (patch) this.songPatches.remove(patch.id);
  }

  /** Takes a sound or a kept layer as a new layer over everything. */
  async take(item: ShelfItem): Promise<void> {
    (await this.taking()).take(item);
  }

  /** Has the player choose a sound for a new layer. */
  async add(): Promise<void> {
    if (this.full()) return;
    const taking = await this.taking();
    const item = await this.pickSound({ title: 'Add a layer', offered: 'layers', current: null });
    if (item) taking.take(item);
  }

  /** Has the player choose a sound for a second layer that plays from a key on, beside the first. */
  async addBeside(key: number): Promise<void> {
    const first = this.patch()?.layers.at(0);
    const halves = first && splitAt(first.keys, key);
    if (!halves) return;
    const [neighbourKeys, keys] = halves;
    const taking = await this.taking();
    const beside: Beside = { layerId: first.id, keys, neighbourKeys };
    const item = await this.pickSound({
      title: `Add a layer beside ${first.name}`,
      offered: 'sounds',
      current: null,
    });
    if (item) taking.take(item, beside);
  }

  /** Has the player choose another sound for a layer. */
  async swap(layerId: string): Promise<void> {
    const patch = this.patch();
    const layer = patch?.layers.find(({ id }) => id === layerId);
    const current = patch?.sounds.find(({ id }) => id === layer?.soundId)?.librarySoundId ?? null;
    const title = `Swap the sound of ${layer?.name ?? 'the layer'}`;
    const taking = await this.taking();
    const item = await this.pickSound({ title, offered: 'sounds', current });
    if (item) taking.swap(layerId, item);
  }

  /** Shows what balancing would do, and does it if the player wants it. */
  async balance(): Promise<void> {
    const { BalanceDialog } = await import('./heading/balance-dialog');
    const compiled = this.compiled();
    if (!compiled) return;
    const data: BalanceData = { patch: compiled, responses: this.responses() };
    const levels = await this.dialogs.open<BalanceData, BalanceResult>(BalanceDialog, {
      data,
      maxWidth: 760,
    });
    if (!levels) return;
    const changes = Object.fromEntries([...levels].map(([id, level]) => [id, { level }]));
    this.editing.changeLayers(changes, 'layers balanced');
  }

  /** Shows the choosers of the patch, to be made and changed. */
  async choosers(): Promise<void> {
    const { ChoosersDialog } = await import('./choosers/choosers-dialog');
    await this.dialogs.open(ChoosersDialog, { maxWidth: 900 });
  }

  /** Fetched before something is first taken or kept, so that what is chosen then is there at once. */
  private async taking(): Promise<Taking> {
    const { Taking } = await import('../state/editing/taking');
    return this.injector.get(Taking);
  }

  private async askName(wish: string): Promise<string | undefined> {
    const name = (await this.taking()).freeName(wish);
    return this.dialogs.askName({ title: 'Keep in my sounds', name, take: 'Keep' });
  }

  private async pickSound(data: PickerData): Promise<ShelfItem | undefined> {
    const { SoundPicker } = await import('../ui/shelf/sound-picker');
    return this.dialogs.open<PickerData, ShelfItem>(SoundPicker, {
      data,
      width: '1040px',
      maxWidth: '96vw',
    });
  }

  private placeOf(layerId: string): number {
    return this.patch()?.layers.findIndex(({ id }) => id === layerId) ?? -1;
  }
}
