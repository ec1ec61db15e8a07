import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatSelectModule } from '@angular/material/select';
import { placeInWords, type Place } from '@pentachord/core/model';
import { deviceInWords, missingAt, placesUsed, type PlaceMissing } from '@pentachord/core/rig';
import { Store } from '@ngrx/store';
import { devicesOf, RigEditing } from '../../state/editing/rig-editing';
import type { AppState } from '../../state/reducers';
import { selectDevices, selectMiddleC, selectSounds, selectThings } from '../../state/selectors';

/** Plays the open show on another rig: what is wanting there is listed, with what may stand in for it. */
@Component({
  selector: 'pc-move-show-dialog',
  imports: [MatButtonModule, MatDialogModule, MatFormFieldModule, MatSelectModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Play {{ editing.show()?.name }} on another rig</h2>
    <mat-dialog-content>
      <mat-form-field appearance="outline" subscriptSizing="dynamic">
        <mat-label>rig</mat-label>
        <mat-select [value]="rigId()" (selectionChange)="takeRig($event.value)">
          @for (rig of others(); track rig.id) {
            <mat-option [value]="rig.id">{{ rig.name }}</mat-option>
          }
        </mat-select>
      </mat-form-field>
      @if (rigId() === null) {
        <p>There is no other rig yet. A new one is empty; a copy has the same devices.</p>
        <span class="ways">
          <button type="button" matButton="outlined" (click)="make('new')">New rig</button>
          <button type="button" matButton="outlined" (click)="make('copy')">Copy this rig</button>
        </span>
      } @else if (missing().length === 0) {
        <p>Everything that the show uses is there.</p>
      } @else {
        <p>
          What the show uses and is not there. Nothing of the songs is changed: another device may
          stand in.
        </p>
        <ul>
          @for (one of missing(); track one.place) {
            <li>
              <span>
                <b>{{ inWords(one.place) }}</b>: {{ one.words }}
                <span class="by">used by {{ usersOf(one) }}</span>
              </span>
              <mat-form-field appearance="outline" subscriptSizing="dynamic">
                <mat-select
                  [aria-label]="'What stands in for ' + inWords(one.place)"
                  [value]="chosen().get(one.place) ?? ''"
                  (selectionChange)="take(one.place, $event.value)"
                >
                  <mat-option value="">nothing: it waits</mat-option>
                  @for (device of rig(); track device.id) {
                    <mat-option [value]="device.place">{{ name(device.place) }}</mat-option>
                  }
                </mat-select>
              </mat-form-field>
            </li>
          }
        </ul>
      }
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button matButton mat-dialog-close>Cancel</button>
      <button matButton="filled" [disabled]="rigId() === null" (click)="move()">
        Play it there
      </button>
    </mat-dialog-actions>
  `,
  styles: `
    mat-dialog-content {
      display: grid;
      gap: 10px;
      min-width: min(620px, 80vw);
    }
    ul {
      margin: 0;
      padding: 0;
      list-style: none;
    }
    li {
      display: grid;
      grid-template-columns: 1fr 220px;
      align-items: center;
      gap: 12px;
      padding: 5px 0;
      border-top: 1px solid var(--hairline);
    }
    .ways {
      display: flex;
      gap: 8px;
    }
    .by {
      display: block;
      font-size: 12px;
      color: var(--ink-soft);
    }
  `,
})
export class MoveShowDialog {
  private readonly store = inject<Store<AppState>>(Store);
  protected readonly editing = inject(RigEditing);
  private readonly dialog = inject<MatDialogRef<MoveShowDialog>>(MatDialogRef);
  private readonly things = this.store.selectSignal(selectThings);
  private readonly sounds = this.store.selectSignal(selectSounds);
  private readonly devices = this.store.selectSignal(selectDevices);
  private readonly middleC = this.store.selectSignal(selectMiddleC);
  protected readonly others = computed(() =>
    this.editing.rigs().filter(({ id }) => id !== this.editing.show()?.rigId),
  );
  protected readonly rigId = signal<string | null>(null);
  protected readonly rig = computed(() =>
    devicesOf(this.things().devices, this.rigId() ?? undefined),
  );
  private readonly uses = computed(() => {
    const show = this.editing.show();
    if (!show) return [];
    const played = new Set(show.order.flatMap((e) => (e.kind === 'song' ? [e.songId] : [])));
    const patches = Object.values(this.things().patches).filter((p) => played.has(p.songId));
    const songs = Object.values(this.things().songs).filter(({ id }) => played.has(id));
    return placesUsed({ show, songs, patches, sounds: this.sounds() }, this.devices());
  });
  protected readonly missing = computed(() =>
    this.rigId() === null ? [] : missingAt(this.uses(), this.rig(), this.middleC()),
  );
  protected readonly chosen = signal<ReadonlyMap<Place, Place>>(new Map());

  constructor() {
    this.takeRig(this.others().at(0)?.id ?? null);
  }

  protected takeRig(rigId: string | null): void {
    this.rigId.set(rigId);
    this.chosen.set(
      new Map(
        this.missing().flatMap(({ place, proposal }) =>
          proposal === null ? [] : [[place, proposal] as const],
        ),
      ),
    );
  }

  protected take(place: Place, by: Place | ''): void {
    const chosen = new Map(this.chosen());
    if (by === '') chosen.delete(place);
    else chosen.set(place, by);
    this.chosen.set(chosen);
  }

  protected inWords(place: Place): string {
    return placeInWords(place);
  }

  protected name(place: Place): string {
    const device = this.rig().find((one) => one.place === place);
    return device ? deviceInWords(device) : placeInWords(place);
  }

  protected usersOf({ by }: PlaceMissing): string {
    const most = 3;
    const rest = by.length > most ? ` and ${by.length - most} more` : '';
    return `${by.slice(0, most).join(', ')}${rest}`;
  }

  /** Makes another rig, which the show is to be played on. */
  protected make(what: 'new' | 'copy'): void {
    if (what === 'new') this.editing.newRig();
    else this.editing.copyRig();
    this.takeRig(this.others().at(0)?.id ?? null);
  }

  protected move(): void {
    const rigId = this.rigId();
    if (rigId === null) return;
    this.editing.moveShow(rigId, this.chosen());
    this.dialog.close();
  }
}
