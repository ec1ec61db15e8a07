import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { layerMark, type LayerMark } from '../../ui/layer-colours';
import type { Box } from '../../ui/field/field-geometry';
import type { DrawnGround } from './grounds';

/** A layer as it lies on the field, in pixels. */
export interface Territory {
  id: string;
  /** Place of the layer in its patch. */
  index: number;
  mark: LayerMark;
  box: Box;
  selected: boolean;
  /** Drawn with its own colour and hatching over all others. */
  plain: boolean;
  silenced: boolean;
  /** Where its fades cross −9, −6 and −3 dB. */
  keyLines: readonly number[];
  velocityLines: readonly number[];
}

/** A sheet of the map: the colour and hatching of grounds, then borders and contour lines of territories. */
@Component({
  selector: '[pcTerritories]',
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './territories.html',
  styleUrl: './territories.scss',
})
export class Territories {
  readonly grounds = input<readonly DrawnGround[]>([]);
  readonly territories = input.required<readonly Territory[]>();

  /** What bears the hatching of a layer, as one shape each: browsers prepare a pattern for every shape that is filled with it. */
  protected readonly hatched = computed(() => {
    const paths = new Map<number, string>();
    for (const { box, hatched } of this.grounds())
      for (const index of hatched) paths.set(index, (paths.get(index) ?? '') + outlineOf(box));
    return [...paths]
      .sort(([one], [other]) => one - other)
      .map(([index, path]) => ({ index, path, day: layerMark(index).day }));
  });
}

function outlineOf({ x, y, width, height }: Box): string {
  return `M${x} ${y}h${width}v${height}h${-width}z`;
}
