import { computed, inject, Injectable, signal } from '@angular/core';
import { PATTERN_CATEGORIES, type Pattern, type PatternCategory } from '@pentachord/core/model';
import { Store } from '@ngrx/store';
import type { AppState } from '../../state/reducers';
import { selectPatchSong, selectPatterns } from '../../state/selectors';

/** Finds patterns as one types: those in the metre of the song first, favourites before others, then shelf by shelf. */
@Injectable()
export class PatternSearch {
  private readonly store = inject<Store<AppState>>(Store);
  private readonly patterns = this.store.selectSignal(selectPatterns);
  private readonly song = this.store.selectSignal(selectPatchSong);
  readonly text = signal('');
  readonly category = signal<PatternCategory | 'all'>('all');
  readonly favouritesOnly = signal(false);
  /** All of them in the order in which they stand. */
  private readonly shelf = computed((): readonly Pattern[] => {
    const metre = this.song()?.metre;
    const rank = (pattern: Pattern) =>
      (metre && pattern.metre.beats === metre.beats && pattern.metre.unit === metre.unit ? 0 : 2) +
      (pattern.favourite ? 0 : 1);
    return [...this.patterns().values()].sort(
      (a, b) =>
        rank(a) - rank(b) ||
        PATTERN_CATEGORIES.indexOf(a.category) - PATTERN_CATEGORIES.indexOf(b.category) ||
        a.name.localeCompare(b.name),
    );
  });
  readonly found = computed((): readonly Pattern[] => {
    const words = this.text().toLowerCase().split(/\s+/).filter(Boolean);
    const category = this.category();
    return this.shelf().filter((pattern) => {
      if (this.favouritesOnly() && !pattern.favourite) return false;
      if (category !== 'all' && pattern.category !== category) return false;
      const { name, tags, metre } = pattern;
      const all = [name, pattern.category, ...tags, `${metre.beats}/${metre.unit}`]
        .join(' ')
        .toLowerCase();
      return words.every((word) => all.includes(word));
    });
  });
}
