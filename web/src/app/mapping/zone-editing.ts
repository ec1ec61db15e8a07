import { computed, inject, Injectable, signal } from '@angular/core';
import { isSampled, type SampledSound, type SampleZone } from '@pentachord/core/model';
import { Store } from '@ngrx/store';
import { Editing } from '../state/editing/editing';
import { libraryEdits, type ZoneSettings } from '../state/editing/library-edits';
import type { AppState } from '../state/reducers';
import { selectSounds } from '../state/selectors';
import type { ZoneParameter } from './zone-parameters';

/** The sound whose zones are looked at, which of them are chosen, and what hands change of them. */
@Injectable()
export class ZoneEditing {
  private readonly store = inject<Store<AppState>>(Store);
  private readonly editing = inject(Editing);
  private readonly sounds = this.store.selectSignal(selectSounds);
  readonly soundId = signal('');
  private readonly wished = signal<ReadonlySet<string>>(new Set());

  /** Null when there is no such sound. */
  readonly sound = computed((): SampledSound | null => {
    const sound = this.sounds().get(this.soundId());
    return sound && isSampled(sound) ? sound : null;
  });
  readonly zones = computed((): readonly SampleZone[] => this.sound()?.origin.zones ?? []);
  /** Those that are chosen and still there. */
  readonly selected = computed((): ReadonlySet<string> => {
    const there = new Set(this.zones().map(({ id }) => id));
    return new Set([...this.wished()].filter((id) => there.has(id)));
  });
  readonly chosen = computed(() => this.zones().filter(({ id }) => this.selected().has(id)));
  /** The one chosen last, whose numbers are shown. */
  readonly primary = computed(() => {
    const last = [...this.selected()].at(-1);
    return this.zones().find(({ id }) => id === last) ?? null;
  });

  select(ids: ReadonlySet<string>): void {
    this.wished.set(ids);
  }

  change(changes: Readonly<Record<string, ZoneSettings>>, words: string, gesture?: string): void {
    const soundId = this.soundId();
    if (Object.keys(changes).length > 0)
      this.editing.do(libraryEdits.zonesChanged({ soundId, changes, words, gesture }));
  }

  /** Lays all zones anew. */
  lay(zones: readonly SampleZone[], words: string, dynamics?: number): void {
    this.editing.do(libraryEdits.zonesLaid({ soundId: this.soundId(), zones, words, dynamics }));
  }

  /** Sets the same of all that are chosen. */
  setAll(settings: ZoneSettings, words: string, gesture?: string): void {
    const changes = Object.fromEntries(this.chosen().map(({ id }) => [id, settings]));
    this.change(changes, words, gesture);
  }

  /** Sets a number of one zone; of the others that are chosen it moves by as much, or is set to the same. */
  setNumber(parameter: ZoneParameter, zone: SampleZone, value: number, gesture: string): void {
    const { of, min, max, isRelative } = parameter;
    const by = value - zone[of];
    const others = this.selected().has(zone.id) ? this.chosen() : [zone];
    const changes = Object.fromEntries(
      others.map((one) => {
        const wished = isRelative ? one[of] + by : value;
        return [one.id, { [of]: Math.min(max, Math.max(min, wished)) }];
      }),
    );
    this.change(changes, `${parameter.label.toLowerCase()} changed`, gesture);
  }

  /** Takes the chosen zones away. */
  removeChosen(): void {
    const selected = this.selected();
    if (selected.size === 0) return;
    this.lay(
      this.zones().filter(({ id }) => !selected.has(id)),
      selected.size === 1 ? 'zone removed' : 'zones removed',
    );
  }
}
