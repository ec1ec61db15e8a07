import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import { cutText } from '@pentachord/core/model';
import { channelTable, LAYERS_ROW, lettersOf } from '@pentachord/core/rig';
import { Store } from '@ngrx/store';
import { RigEditing } from '../../state/editing/rig-editing';
import type { AppState } from '../../state/reducers';
import { selectSounds, selectWrittenPatch } from '../../state/selectors';
import { UndoButtons } from '../../ui/undo-buttons';
import { RemarksOfRig } from '../remarks-of-rig';
import { ChannelTable } from './channel-table';

const LONGEST_LABEL = 24;

/** The channels of the rig: who sends and who listens on each, what it is called, and what does not fit together. */
@Component({
  selector: 'pc-channels-view',
  imports: [
    ChannelTable,
    MatFormFieldModule,
    MatInputModule,
    MatSelectModule,
    RemarksOfRig,
    UndoButtons,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <header>
      <h1 class="unseen">Channels</h1>
      <b>Channel {{ channel() }}</b>
      <mat-form-field appearance="outline" subscriptSizing="dynamic">
        <mat-label>is called</mat-label>
        <input
          #label
          matInput
          maxlength="24"
          [value]="labels()[channel() - 1]"
          (change)="nameChannel(label.value)"
          (keydown)="$event.stopPropagation()"
        />
      </mat-form-field>
      @if (stack().length > 0) {
        <mat-form-field appearance="outline" subscriptSizing="dynamic" class="narrow">
          <mat-label>move {{ stack() }} to</mat-label>
          <mat-select [value]="channel()" (selectionChange)="moveStack($event.value)">
            @for (other of channels; track other) {
              <mat-option [value]="other">{{ other }} {{ labels()[other - 1] }}</mat-option>
            }
          </mat-select>
        </mat-form-field>
      }
      <span class="rest"></span>
      <pc-undo-buttons />
    </header>
    <pc-channel-table
      [rows]="table()"
      [labels]="labels()"
      [chosen]="channel()"
      (choose)="channel.set($event)"
    />
    <pc-remarks-of-rig />
  `,
  styles: `
    :host {
      display: flex;
      flex-direction: column;
      gap: 12px;
      height: 100%;
      padding: 10px 16px 12px;
      overflow: auto;
    }
    header {
      display: flex;
      align-items: center;
      flex-wrap: wrap;
      gap: 8px 12px;
    }
    mat-form-field {
      width: 240px;
    }
    .narrow {
      width: 180px;
    }
    .rest {
      flex: 1;
    }
  `,
})
export class ChannelsView {
  private readonly store = inject<Store<AppState>>(Store);
  protected readonly editing = inject(RigEditing);
  private readonly patch = this.store.selectSignal(selectWrittenPatch);
  private readonly sounds = this.store.selectSignal(selectSounds);
  protected readonly channels = Array.from({ length: 16 }, (_, at) => at + 1);
  /** The channel that is named. */
  protected readonly channel = signal(1);
  protected readonly labels = computed(() => this.editing.rig()?.labels ?? []);
  protected readonly table = computed(() =>
    channelTable(this.editing.devices(), this.patch(), this.sounds()),
  );
  /** Letters of the layers that listen to the chosen channel. */
  protected readonly stack = computed(() => {
    const mark = this.table().find(({ id }) => id === LAYERS_ROW)?.marks[this.channel() - 1];
    return lettersOf(mark?.layers ?? []);
  });

  protected nameChannel(text: string): void {
    const labels = [...this.labels()];
    labels[this.channel() - 1] = cutText(text, LONGEST_LABEL);
    this.editing.changeRig({ labels }, 'channel named');
  }

  protected moveStack(to: number): void {
    this.editing.moveStack(this.channel(), to);
    this.channel.set(to);
  }
}
