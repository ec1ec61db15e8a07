import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import type { LayerMark } from '../../ui/layer-colours';
import type { Box } from './field-geometry';

/** A layer as it lies on the field, in pixels. */
export interface Territory {
  id: string;
  mark: LayerMark;
  hatch: { width: number; height: number; line: string; transform: string | null };
  box: Box;
  selected: boolean;
  silenced: boolean;
  /** Where its fades cross −9, −6 and −3 dB. */
  keyLines: readonly number[];
  velocityLines: readonly number[];
}

/** A sheet of territories: wash, hatching, border and contour lines of each. */
@Component({
  selector: '[pcTerritories]',
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './territories.html',
  styleUrl: './territories.scss',
})
export class Territories {
  readonly territories = input.required<readonly Territory[]>();
}
