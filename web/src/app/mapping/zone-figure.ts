import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import type { ZoneShape } from './zone-shape';

/** One zone on the chart. It is drawn anew when its shape is another one, whatever the others do. */
@Component({
  selector: 'g[pcZoneFigure]',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let box = shape().box;
    @let colour = shape().colour;
    <svg:rect
      class="ground"
      [attr.x]="box.x"
      [attr.y]="box.y"
      [attr.width]="box.width"
      [attr.height]="box.height"
      [attr.fill]="colour"
      [attr.stroke]="colour"
    />
    @if (shape().about.isHatched) {
      <svg:rect
        class="hatch"
        [attr.x]="box.x"
        [attr.y]="box.y"
        [attr.width]="box.width"
        [attr.height]="box.height"
        [attr.fill]="'url(#zone-hatch-' + shape().about.rank + ')'"
      />
    }
    @if (shape().contours; as lines) {
      <svg:path class="contour" [attr.stroke]="colour" [attr.d]="lines" />
    }
    <svg:path
      class="root"
      [class.outside]="!shape().isRootInside"
      [attr.fill]="colour"
      [attr.stroke]="colour"
      [attr.d]="'M' + (shape().root - 5) + ' ' + (box.y + box.height - 2) + 'h10l-5 -9z'"
    />
    @if (shape().label; as label) {
      <svg:text class="name" [attr.x]="box.x + 6" [attr.y]="shape().top + 15">{{ label }}</svg:text>
      <svg:text class="loudness" [attr.x]="box.x + 6" [attr.y]="shape().top + 30">
        {{ shape().loudness }}
      </svg:text>
    }
  `,
  styleUrl: './zone-figure.scss',
})
export class ZoneFigure {
  readonly shape = input.required<ZoneShape>();
}
