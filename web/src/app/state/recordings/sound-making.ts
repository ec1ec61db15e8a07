import { inject, Injectable } from '@angular/core';
import {
  asInstrument,
  conventionOf,
  oneAfterTheOther,
  proposedDynamics,
  rootOf,
  type NamedMiddleC,
} from '@pentachord/core/mapping';
import {
  cutText,
  freeName,
  LONGEST_NAME,
  MOST_ZONES,
  shortName,
  type Recording,
  type SampledSound,
  type SoundCategory,
} from '@pentachord/core/model';
import { Store } from '@ngrx/store';
import { Editing } from '../editing/editing';
import { libraryEdits } from '../editing/library-edits';
import type { AppState } from '../reducers';
import { selectKeyboard, selectMiddleC, selectSounds } from '../selectors';

const WHOLE_PIANO = { low: 21, high: 108 };
/** The key on which recordings begin that have no pitch: where drums begin. */
const FIRST_DRUM = 36;

/** Words of names that tell a shelf. */
const SHELVES: readonly [RegExp, SoundCategory][] = [
  [/bell|glass|bar|mallet|chime|vibe/i, 'mallets and bells'],
  [/bass/i, 'basses'],
  [/string|pad|choir/i, 'strings and pads'],
  [/organ|pipe/i, 'organs'],
  [/harp|guitar|pluck/i, 'plucked'],
  [/drum|kit|kick|snare|hat|perc/i, 'drums and percussion'],
  [/lead|brass|horn/i, 'leads and brass'],
];

/** Makes sounds of recordings. */
@Injectable({ providedIn: 'root' })
export class SoundMaking {
  private readonly store = inject<Store<AppState>>(Store);
  private readonly editing = inject(Editing);
  private readonly sounds = this.store.selectSignal(selectSounds);
  private readonly keyboard = this.store.selectSignal(selectKeyboard);
  private readonly naming = this.store.selectSignal(selectMiddleC);

  /** The keys of the keyboard that is played, or of a piano. */
  keys(): { low: number; high: number } {
    const keyboard = this.keyboard();
    return keyboard ? { low: keyboard.lowestKey, high: keyboard.highestKey } : WHOLE_PIANO;
  }

  /** The convention of middle C that the names of recordings follow; where they do not tell, the player’s own. */
  middleC(recordings: readonly Recording[]): NamedMiddleC {
    const naming = this.naming();
    return (
      conventionOf(recordings)?.middleC ?? (typeof naming === 'number' ? naming : naming.middleC)
    );
  }

  /**
   * Makes a sound: an instrument where most recordings have a pitch, else one a key. Gives back its id.
   */
  make(recordings: readonly Recording[]): string {
    const id = crypto.randomUUID();
    const middleC = this.middleC(recordings);
    const laying = { recordings, middleC, newId: () => crypto.randomUUID() };
    const pitched = recordings.filter((one) => rootOf(one, middleC).key !== null).length;
    const isInstrument = pitched * 2 > recordings.length;
    const laid = isInstrument
      ? asInstrument(laying, this.keys(), 'byLoudness').zones
      : oneAfterTheOther(laying, FIRST_DRUM, 1);
    const zones = laid.slice(0, MOST_ZONES);
    const known = Object.fromEntries(recordings.map((one) => [one.id, one]));
    const name = this.nameFor(recordings);
    const sound: SampledSound = {
      ...{ id, name, tags: ['recordings'], favourite: false },
      category: isInstrument
        ? (SHELVES.find(([words]) => words.test(name))?.[1] ?? 'pianos')
        : 'drums and percussion',
      lowestNote: Math.min(127, ...zones.map(({ keys }) => keys.low)),
      highestNote: Math.max(0, ...zones.map(({ keys }) => keys.high)),
      origin: { kind: 'recordings', dynamics: proposedDynamics(zones, known), zones },
    };
    if (zones.length === 0) Object.assign(sound, { lowestNote: 0, highestNote: 127 });
    this.editing.do(libraryEdits.soundMade({ sound }));
    return id;
  }

  /** What the names of recordings have in common, as a name that no sound bears yet. */
  private nameFor(recordings: readonly Recording[]): string {
    const names = recordings.map(shortName);
    let common = names.at(0) ?? '';
    for (const name of names) while (!name.startsWith(common)) common = common.slice(0, -1);
    const words = common
      .replaceAll(/[_-]+/g, ' ')
      .replace(/\s+[a-g]?#?\d*$/i, '')
      .trim();
    const wish = cutText(words.length > 1 ? words : 'New sound', LONGEST_NAME);
    const capital = wish.charAt(0).toUpperCase() + wish.slice(1);
    return freeName(
      capital,
      [...this.sounds().values()].map(({ name }) => name),
    );
  }
}
