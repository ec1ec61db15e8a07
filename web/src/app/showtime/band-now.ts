import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { CompiledPatch } from '@pentachord/core/routing';
import { AT_REST, bandLooks, nextInWords } from '../ui/band/band-looks';
import { markOf } from '../ui/band/flags-on';
import { layerMark } from '../ui/layer-colours';

/** What each accompanist plays now and next, with its place in its round. */
@Component({
  selector: 'pc-band-now',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (row of rows(); track row.id) {
      <p [attr.data-accompanist]="row.name" [style.border-color]="row.colour">
        <span>{{ row.name }}</span>
        <b [class.rests]="!row.playing">{{ row.playing || 'rests' }}</b>
        <span class="next">{{ row.next }}</span>
        <i [style.width.%]="row.place * 100" [style.background]="row.colour"></i>
      </p>
    }
  `,
  styles: `
    :host {
      display: grid;
      /* Five under one another; more stand beside them. */
      grid-template-rows: repeat(5, auto);
      grid-auto-flow: column;
      grid-auto-columns: minmax(0, 1fr);
      align-content: start;
      gap: 2px 12px;
      min-width: 0;
      overflow: hidden;
    }
    p {
      position: relative;
      display: grid;
      grid-template-columns: 112px 112px minmax(0, 1fr);
      gap: 10px;
      margin: 0;
      padding: 0 10px 3px;
      border-left: 6px solid;
      font-size: 18px;
      line-height: 1.25;
      white-space: nowrap;
    }
    p > * {
      overflow: hidden;
      text-overflow: ellipsis;
    }
    span,
    .rests {
      color: var(--soft);
    }
    .rests {
      font-weight: 400;
    }
    i {
      position: absolute;
      bottom: 0;
      left: 0;
      height: 3px;
    }
  `,
})
export class BandNow {
  readonly patch = input.required<CompiledPatch>();
  readonly dark = input(true);
  private readonly looked = bandLooks(() => this.patch());
  protected readonly rows = computed(() => {
    const patch = this.patch();
    const looked = this.looked();
    return patch.band.accompanists.map(({ id, source }, i) => {
      const now = looked.at(i) ?? AT_REST;
      const { day, night } = layerMark(markOf(patch, i));
      return {
        ...{ id, name: source.name, colour: this.dark() ? night : day },
        ...{ playing: now.playing?.name ?? '', next: nextInWords(now), place: now.place ?? 0 },
      };
    });
  });
}
