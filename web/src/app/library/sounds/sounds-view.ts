import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { Router } from '@angular/router';
import type { ShelfItem } from '@pentachord/core/library';
import { MOST_LAYERS } from '@pentachord/core/model';
import { Store } from '@ngrx/store';
import { Editing } from '../../state/editing/editing';
import { edits } from '../../state/editing/edits';
import type { AppState } from '../../state/reducers';
import { selectPatch, selectPatchSong } from '../../state/selectors';
import { Taking } from '../../state/editing/taking';
import { NameField } from '../../ui/names/name-field';
import { SoundBrowser } from '../../ui/shelf/sound-browser';

/** The Sounds view: the whole shelf, to listen, to sort, and to take from. */
@Component({
  selector: 'pc-sounds-view',
  imports: [MatButtonModule, MatFormFieldModule, MatInputModule, NameField, SoundBrowser],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './sounds-view.html',
  styleUrl: './sounds-view.scss',
})
export class SoundsView {
  private readonly store = inject<Store<AppState>>(Store);
  private readonly editing = inject(Editing);
  private readonly router = inject(Router);
  private readonly taking = inject(Taking);
  protected readonly patch = this.store.selectSignal(selectPatch);
  protected readonly song = this.store.selectSignal(selectPatchSong);
  protected readonly chosen = signal<ShelfItem | null>(null);
  protected readonly full = computed(() => (this.patch()?.layers.length ?? 0) >= MOST_LAYERS);
  protected readonly told = signal('');

  protected choose(item: ShelfItem | null): void {
    this.chosen.set(item);
    this.told.set('');
  }

  /** Into the patch on the desk, or for a kept patch into its song. */
  protected take(item: ShelfItem): void {
    if (this.full() && item.keepsake?.content.kind !== 'patch') return;
    const words = this.taking.take(item);
    if (words) this.told.set(words);
  }

  protected async openPatch(): Promise<void> {
    await this.router.navigateByUrl('/patch');
  }

  protected async openZones(item: ShelfItem): Promise<void> {
    await this.router.navigateByUrl(`/library/sounds/${item.sound?.id ?? ''}/zones`);
  }

  protected rename(item: ShelfItem, name: string): void {
    this.editing.do(edits.keepsakeChanged({ keepsakeId: item.id, changes: { name } }));
  }

  protected remove(item: ShelfItem): void {
    this.editing.do(edits.keepsakeRemoved({ keepsakeId: item.id }));
    this.choose(null);
  }
}
