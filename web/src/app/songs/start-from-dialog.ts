import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  inject,
  signal,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatListModule } from '@angular/material/list';
import { MatTabsModule } from '@angular/material/tabs';
import { STARTING_POINTS } from '@pentachord/core/library';
import { compareNames, type Patch } from '@pentachord/core/model';
import { Store } from '@ngrx/store';
import { Live } from '../live/live';
import type { AppState } from '../state/reducers';
import { selectKeepsakes, selectSounds, selectThings } from '../state/selectors';
import { Auditioning } from '../state/session/auditioning';
import { FieldThumb } from './field-thumb';
import type { Start } from './start';

/** Something to start from. */
interface Offer extends Start {
  id: string;
  words: string;
}

const TABS = ['By role', 'From the repertoire', 'My sounds'] as const;

/** What a song can start from: a ready patch by role, any patch of the repertoire, or one that was kept. */
@Component({
  selector: 'pc-start-from-dialog',
  imports: [
    FieldThumb,
    MatButtonModule,
    MatDialogModule,
    MatFormFieldModule,
    MatInputModule,
    MatListModule,
    MatTabsModule,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './start-from-dialog.html',
  styleUrl: './start-from-dialog.scss',
})
export class StartFromDialog {
  protected readonly dialog = inject<MatDialogRef<StartFromDialog, Start>>(MatDialogRef);
  private readonly store = inject<Store<AppState>>(Store);
  private readonly auditioning = inject(Auditioning);
  private readonly live = inject(Live);
  private readonly things = this.store.selectSignal(selectThings);
  private readonly keepsakes = this.store.selectSignal(selectKeepsakes);
  private readonly sounds = this.store.selectSignal(selectSounds);

  protected readonly tabs = TABS;
  protected readonly tab = signal(0);
  protected readonly search = signal('');
  protected readonly chosen = signal<Offer | null>(null);

  private readonly all = computed((): readonly Offer[] => {
    if (this.tab() === 0) return STARTING_POINTS;
    if (this.tab() === 2)
      return this.keepsakes().flatMap(({ id, name, content }) =>
        content.kind === 'patch'
          ? [{ id, name, patch: content.patch, words: layersOf(content.patch) }]
          : [],
      );
    const { songs, patches } = this.things();
    return Object.values(patches)
      .map((patch) => ({
        id: patch.id,
        name: patch.name,
        patch,
        words: `${songs[patch.songId]?.name ?? ''}: ${layersOf(patch)}`,
      }))
      .sort((a, b) => compareNames(a.words, b.words));
  });
  protected readonly offers = computed(() => {
    const wanted = this.search().trim().toLowerCase();
    return this.all().filter(({ name, words }) =>
      `${name} ${words}`.toLowerCase().includes(wanted),
    );
  });

  constructor() {
    // Whatever is tried out here has to be made first.
    this.live.showSounds.fetchAll(this.sounds().values());
    inject(DestroyRef).onDestroy(() => this.auditioning.listenTo(null));
  }

  protected turnTo(tab: number): void {
    this.tab.set(tab);
    this.choose(null);
  }

  /** From now on every keyboard plays it. */
  protected choose(offer: Offer | null): void {
    this.chosen.set(offer);
    this.auditioning.listenToPatch(offer?.patch ?? null);
  }

  protected take(offer: Offer | null = this.chosen()): void {
    if (offer) this.dialog.close({ name: offer.name, patch: offer.patch });
  }
}

function layersOf({ layers }: Patch): string {
  return layers.length === 0 ? 'no layers yet' : layers.map(({ name }) => name).join(', ');
}
