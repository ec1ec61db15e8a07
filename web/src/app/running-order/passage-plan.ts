import { CdkDrag, CdkDropList } from '@angular/cdk/drag-drop';
import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { fadeSecondsOf } from '@pentachord/core/setlist';
import { clockTime, timeOfDay } from '@pentachord/core/units';
import { Store } from '@ngrx/store';
import type { AppState } from '../state/reducers';
import { selectLoudnessOf } from '../state/machine/selectors';
import { selectOverrun, selectShow } from '../state/selectors';
import { loudnessLine } from '../ui/cues/loudness-line';
import { Roving, RovingItem } from '../ui/focus/roving';
import { EntrySelection } from './entry-selection';
import { Legs, type Leg } from './legs';
import { Tip } from '../ui/tips/tip';

/** Seconds between numbers on the axis, such that there are few enough. */
const STEPS = [300, 600, 900, 1800, 3600];

/** Legs that a hand can still take hold of one by one. */
const MOST_HELD = 60;
/** Share of the plan from which on a leg has room for its loudness. */
const LEAST_SHARE = 0.03;
/** What the night’s loudness is drawn on, LUFS. */
const SCALE = { top: -9, bottom: -39 };

/** The night to scale, from left to right: songs as legs, talk as dotted stretches, the end of the slot as a shore. */
@Component({
  selector: 'pc-passage-plan',
  imports: [CdkDrag, CdkDropList, Tip, Roving, RovingItem],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './passage-plan.html',
  styleUrl: './passage-plan.scss',
})
export class PassagePlan {
  private readonly store = inject<Store<AppState>>(Store);
  protected readonly legs = inject(Legs);
  protected readonly selection = inject(EntrySelection);
  protected readonly show = this.store.selectSignal(selectShow);
  private readonly overrun = this.store.selectSignal(selectOverrun);
  private readonly loudness = this.store.selectSignal(selectLoudnessOf);

  /** Gives nothing back: what a listener gives back as false takes the key, Tab included, from the browser. */
  protected key(event: KeyboardEvent, leg: Leg): void {
    this.legs.key(event, leg, 'ArrowLeft', 'ArrowRight');
  }

  /** True while legs are wide enough for a hand. */
  protected readonly canBeHeld = computed(() => this.legs.all().length <= MOST_HELD);
  /** Seconds that the plan shows. */
  protected readonly span = computed(() => {
    const ends = this.legs.all().map(({ start, seconds }) => start + seconds);
    return Math.max(60, this.show()?.slotSeconds ?? 0, ...ends) * 1.02;
  });
  protected readonly ticks = computed(() => {
    const span = this.span();
    const start = this.show()?.start ?? null;
    const step = STEPS.find((seconds) => span / seconds <= 14) ?? 7200;
    const [hours, minutes] = (start ?? '00:00').split(':').map(Number);
    // Numbers stand at round times of the day.
    const first = start === null ? 0 : (step - ((hours * 3600 + minutes * 60) % step)) % step;
    const ticks: { at: number; left: number; words: string }[] = [];
    for (let at = first; at <= span; at += step)
      ticks.push({
        at,
        left: (at / span) * 100,
        words: start === null ? clockTime(at) : timeOfDay(start, at),
      });
    return ticks;
  });
  protected readonly shore = computed(() => {
    const { slotSeconds = 0, start = null } = this.show() ?? {};
    return {
      left: (slotSeconds / this.span()) * 100,
      words: `slot ends ${start === null ? clockTime(slotSeconds) : timeOfDay(start, slotSeconds)}`,
      over: this.overrun() !== null,
    };
  });
  /** How each leg lies: encores follow what counts, so that places are told and not summed up. */
  protected readonly drawn = computed(() =>
    this.legs.all().map((leg) => ({
      leg,
      width: (leg.seconds / this.span()) * 100,
      title: [
        leg.name,
        leg.length,
        `begins ${leg.begins}`,
        leg.encore ? 'an encore' : '',
        leg.tonight ? `tonight ${leg.tonight}` : '',
      ]
        .filter(Boolean)
        .join(', '),
      loudness: this.loudnessOf(leg),
      ticks: leg.song
        ? leg.cues.map((cue) => ({
            id: cue.id,
            left: leg.seconds > 0 ? Math.min(100, (cue.atSeconds / leg.seconds) * 100) : 0,
          }))
        : [],
    })),
  );

  /** The line of loudness of a leg, on one scale for the whole night; empty where there is no room or nothing is known. */
  private loudnessOf({ song, cues, seconds }: Leg): string {
    if (!song || seconds / this.span() < LEAST_SHARE) return '';
    const loudnessOf = this.loudness();
    const fade = this.show()?.defaultFadeSeconds ?? 0;
    const points = cues.map((cue) => ({
      at: cue.atSeconds,
      loudness: loudnessOf(cue, song),
      fade: fadeSecondsOf(cue, fade),
    }));
    const isKnown = points.some(({ loudness }) => Number.isFinite(loudness));
    return isKnown ? loudnessLine(points, Math.max(1, seconds), SCALE) : '';
  }
}
