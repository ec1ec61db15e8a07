import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';

/** How a recording looks: its highest and lowest samples as a line of ink. */
@Component({
  selector: 'pc-outline',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg
      [attr.viewBox]="'0 -128 ' + stretches() + ' 256'"
      preserveAspectRatio="none"
      aria-hidden="true"
    >
      <path [attr.d]="path()" />
    </svg>
  `,
  styles: `
    :host {
      display: block;
    }
    svg {
      display: block;
      width: 100%;
      height: 100%;
    }
    path {
      fill: var(--outline, var(--ink-soft));
      stroke: var(--outline, var(--ink-soft));
      stroke-width: 0.6px;
      vector-effect: non-scaling-stroke;
    }
  `,
})
export class Outline {
  /** Lowest and highest samples by turns; null while it is not known. */
  readonly outline = input.required<Int8Array | null>();

  protected readonly stretches = computed(() => (this.outline()?.length ?? 2) / 2);
  protected readonly path = computed(() => {
    const outline = this.outline();
    if (!outline) return '';
    const points: string[] = [];
    for (let i = 1; i < outline.length; i += 2) points.push(`${(i - 1) / 2},${-outline[i]}`);
    for (let i = outline.length - 2; i >= 0; i -= 2) points.push(`${i / 2},${-outline[i]}`);
    return `M${points.join('L')}Z`;
  });
}
