import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatDialog } from '@angular/material/dialog';
import { MatIconModule } from '@angular/material/icon';
import { MatInputModule } from '@angular/material/input';
import { MatMenuModule } from '@angular/material/menu';
import type { Cue, Patch } from '@pentachord/core/model';
import { clockTime, formatDb, SILENCE_DB } from '@pentachord/core/units';
import { CueEditing } from '../state/editing/cue-editing';
import { layerMark } from '../ui/layer-colours';
import { LayerBadge } from '../ui/layer-badge';
import { NameField } from '../ui/names/name-field';
import { FieldThumb } from './field-thumb';

/** A cue as its card shows it. */
export interface CueCard {
  cue: Cue;
  /** The patch with the cue’s balance; null when it is gone. */
  patch: Patch | null;
  /** Seconds over which it arrives. */
  fade: number;
  /** True when it is left out tonight. */
  leftOut: boolean;
}

/** The cues of a song side by side: what is under the hands in each, and how loud each layer. */
@Component({
  selector: 'pc-cue-cards',
  imports: [
    FieldThumb,
    LayerBadge,
    MatButtonModule,
    MatIconModule,
    MatInputModule,
    MatMenuModule,
    NameField,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './cue-cards.html',
  styleUrl: './cue-cards.scss',
})
export class CueCards {
  readonly cards = input.required<readonly CueCard[]>();
  readonly current = input<string | null>(null);
  protected readonly editing = inject(CueEditing);
  private readonly dialog = inject(MatDialog);

  /** Programs that the cue chooses on instruments that no layer plays. */
  protected async openPrograms({ id }: Cue): Promise<void> {
    const { ProgramsOutDialog } = await import('./programs-out-dialog');
    this.dialog.open(ProgramsOutDialog, { data: id, width: '860px', maxWidth: '92vw' });
  }

  protected time(cue: Cue): string {
    return clockTime(cue.atSeconds);
  }

  protected colour(index: number): string {
    return layerMark(index).day;
  }

  /** How long the bar of a level is, percent: −40 dB and below is nothing. */
  protected bar(level: number): number {
    return Math.min(100, Math.max(0, ((level + 40) / 52) * 100));
  }

  protected level(level: number): string {
    return level <= SILENCE_DB ? '−∞' : formatDb(level).replace(' dB', '');
  }

  protected rename(cue: Cue, name: string): void {
    this.editing.changeCue(cue.id, { name }, 'cue renamed');
  }
}
