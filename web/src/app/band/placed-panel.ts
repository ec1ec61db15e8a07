import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import {
  MatAutocompleteModule,
  type MatAutocompleteSelectedEvent,
} from '@angular/material/autocomplete';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import { DIRECTIONS, type PatternShape } from '@pentachord/core/model';
import {
  BEGINS_WORDS,
  FOLLOWS_WORDS,
  LEAVING_WORDS,
  STARTING_WORDS,
  STEPS,
  TAKES_OVER_WORDS,
} from '@pentachord/core/patterns';
import type { NoteNaming } from '@pentachord/core/pitch';
import { NumberField } from '../ui/numbers/number-field';
import { BandEditing } from '../state/editing/band-editing';
import { PatternSearch } from '../ui/band/pattern-search';

const DIRECTION_WORDS: Record<PatternShape['direction'], string> = {
  forward: 'forward',
  backward: 'backward',
  thereAndBack: 'there and back',
};

/** The chosen accompanist: how its keys start, what is on them, and how the chosen pattern is played. */
@Component({
  selector: 'pc-placed-panel',
  imports: [
    MatAutocompleteModule,
    MatButtonModule,
    MatCheckboxModule,
    MatFormFieldModule,
    MatInputModule,
    MatSelectModule,
    NumberField,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './placed-panel.html',
  styleUrl: './placed-panel.scss',
})
export class PlacedPanel {
  protected readonly editing = inject(BandEditing);
  private readonly search = inject(PatternSearch);
  readonly middleC = input.required<NoteNaming>();
  protected readonly layers = computed(() => this.editing.patch()?.layers ?? []);
  protected readonly manners = [
    { of: 'starting', name: 'Its keys', words: STARTING_WORDS },
    { of: 'begins', name: 'Begins', words: BEGINS_WORDS },
    { of: 'takesOver', name: 'The next comes', words: TAKES_OVER_WORDS },
    { of: 'follows', name: 'What hands play', words: FOLLOWS_WORDS },
    { of: 'leaving', name: 'At another song', words: LEAVING_WORDS },
  ] as const;
  protected readonly steps = STEPS;
  protected readonly directions = DIRECTIONS.map((of) => ({ of, words: DIRECTION_WORDS[of] }));
  protected readonly rates = [0.5, 1, 2] as const;
  /** Patterns that are offered at one time. */
  protected readonly found = computed(() => this.search.found().slice(0, 60));

  protected choices(words: Readonly<Record<string, string>>) {
    return Object.entries(words).map(([of, said]) => ({ of, said }));
  }

  protected setManner(of: (typeof this.manners)[number]['of'], value: string): void {
    // The choices are those of this very setting.
    this.editing.change({ [of]: value }, 'accompanist changed');
  }

  protected type(text: string): void {
    this.search.text.set(text);
  }

  /** The pattern goes onto the next key; the field is ready for the one after it. */
  protected take({ option }: MatAutocompleteSelectedEvent, box: HTMLInputElement): void {
    const pattern = this.editing.patterns().get(String(option.value));
    if (pattern) this.editing.place(pattern);
    box.value = '';
    this.search.text.set('');
    option.deselect();
  }

  protected setStep(of: 'thin' | 'quantise', step: number): void {
    const before = this.editing.placed()?.shape.quantise;
    if (of === 'thin') this.editing.shape({ thin: step || null }, 'pattern thinned');
    else
      this.editing.shape(
        { quantise: step === 0 ? null : { step, strength: before?.strength ?? 1 } },
        'pattern quantised',
      );
  }
}
