import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { RouterLink } from '@angular/router';
import { groundOf } from '@pentachord/core/coverage';
import { layerLetter } from '@pentachord/core/model';
import { mannerInWords, shiftsOf } from '@pentachord/core/patterns';
import { noteName, withoutNumbers } from '@pentachord/core/pitch';
import { isKit, recipeOf } from '@pentachord/core/synthesis';
import { Store } from '@ngrx/store';
import { ScreenHands } from '../live/hands/screen-hands';
import { Live } from '../live/live';
import type { AppState } from '../state/reducers';
import { selectCompiled, selectMiddleC, selectPatchSong, selectSounds } from '../state/selectors';
import { AT_REST, bandLooks, nextInWords } from '../ui/band/band-looks';
import { flagsOn, markOf } from '../ui/band/flags-on';
import { KeyFlags, type KeyFlag } from '../ui/band/key-flags';
import { PlayableKeyboard, type KeyTint } from '../ui/keyboard/keyboard';
import { layerMark } from '../ui/layer-colours';
import { AccompanistRows } from './accompanist-rows';
import { BandEditing } from './band-editing';
import { runOf, waveOf, type BandState } from './band-state';
import { NoteChart } from './note-chart';
import { PatternSearch } from './pattern-search';
import { PlacedPanel } from './placed-panel';

/** The band of a patch: its accompanists, what is on their keys, and the pattern that is looked at. */
@Component({
  selector: 'pc-band-view',
  imports: [
    AccompanistRows,
    KeyFlags,
    MatButtonModule,
    NoteChart,
    PlacedPanel,
    PlayableKeyboard,
    RouterLink,
  ],
  providers: [BandEditing, PatternSearch],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './band-view.html',
  styleUrl: './band-view.scss',
})
export class BandView {
  private readonly store = inject<Store<AppState>>(Store);
  private readonly live = inject(Live);
  protected readonly hands = inject(ScreenHands);
  protected readonly editing = inject(BandEditing);
  protected readonly middleC = this.store.selectSignal(selectMiddleC);
  protected readonly song = this.store.selectSignal(selectPatchSong);
  private readonly compiled = this.store.selectSignal(selectCompiled);
  private readonly sounds = this.store.selectSignal(selectSounds);
  private readonly looked = bandLooks(this.compiled);

  protected readonly keys = computed(() => {
    const board = this.editing.board();
    return board ? groundOf(board).keys : { low: 36, high: 96 };
  });
  protected readonly velocityOf = computed(() => {
    const device = this.device();
    const shift = (this.editing.board()?.octaveShift ?? 0) * 12;
    return (key: number) => (device < 0 ? 0 : this.live.player.velocityOf(device, key - shift));
  });
  protected readonly rows = computed((): BandState[] => {
    const band = this.compiled()?.band.accompanists ?? [];
    const looked = this.looked();
    const patch = this.editing.patch();
    const compiled = this.compiled();
    const metre = this.song()?.metre ?? { beats: 4, unit: 4 };
    return band.map((one, i): BandState => {
      const mark = compiled ? markOf(compiled, i) : i;
      const now = looked.at(i) ?? AT_REST;
      const { playing } = now;
      const run = runOf(one);
      const name = (key: number) => noteName(key, withoutNumbers(this.middleC()));
      const layer = patch?.layers.find(({ id }) => one.layerIds.has(id));
      const sound = patch?.sounds.find(({ id }) => id === layer?.soundId);
      const round = playing?.round ?? (metre.beats * 4) / metre.unit;
      const bar = (metre.beats * 4) / metre.unit;
      return {
        ...{ id: one.id, letter: layerLetter(mark), name: one.source.name },
        colour: layerMark(mark).day,
        sound: this.sounds().get(sound?.librarySoundId ?? '')?.name ?? 'no layer',
        manner: mannerInWords(one.source),
        keys: run ? `${name(run[0])}–${name(run[1])}` : 'no keys',
        playing: playing?.name ?? 'rests',
        next: nextInWords(now),
        place: now.place,
        bars: Array.from({ length: Math.floor(round / bar) + 1 }, (_, at) => (at * bar) / round),
        wave: waveOf(playing),
      };
    });
  });
  private readonly device = computed(() => {
    const board = this.editing.board();
    return board ? (this.compiled()?.rig.ids.indexOf(board.id) ?? -1) : -1;
  });
  protected readonly flags = computed((): KeyFlag[] => {
    const patch = this.compiled();
    return patch ? flagsOn(patch, this.device(), this.looked()) : [];
  });
  protected readonly tints = computed((): KeyTint[] =>
    this.flags().map(({ key, colour }) => ({ key, colour })),
  );
  /** The chosen pattern as it plays: made ready, in the key that sounds. */
  private readonly ready = computed(() => {
    const chosen = this.editing.chosen();
    const placed = this.editing.placed();
    return (
      this.compiled()
        ?.band.accompanists.find(({ id }) => id === chosen?.id)
        ?.patterns.find(({ id }) => id === placed?.id) ?? null
    );
  });
  protected readonly drawn = computed(() => {
    const ready = this.ready();
    const pattern = this.editing.pattern();
    if (!ready || !pattern) return null;
    const at = this.editing.accompanists().findIndex(({ id }) => id === this.editing.chosen()?.id);
    const compiled = this.compiled();
    const mark = compiled && at >= 0 ? markOf(compiled, at) : at;
    const notes = Array.from({ length: ready.count }, (_, i) => ({
      ...{ beat: ready.beats[i], length: ready.lengths[i] },
      ...{ key: ready.keys[i], velocity: ready.velocities[i] },
    }));
    return {
      ...{ pattern, notes, length: ready.round, colour: layerMark(mark).day },
      musical: pattern.key ? (this.song()?.sounding ?? null) : null,
      isPlaying: this.looked().at(at)?.playing?.id === ready.id,
      place: this.looked().at(at)?.place ?? null,
    };
  });
  /** What the pieces of the kit are called that the chosen accompanist plays. */
  protected readonly pieces = computed((): ReadonlyMap<number, string> => {
    const patch = this.editing.patch();
    const layer = patch?.layers.find(({ id }) => this.editing.chosen()?.layerIds.includes(id));
    const used = patch?.sounds.find(({ id }) => id === layer?.soundId);
    const origin = this.sounds().get(used?.librarySoundId ?? '')?.origin;
    const recipe = origin?.kind === 'house' ? recipeOf(origin.recipe) : undefined;
    return new Map(
      recipe && isKit(recipe) ? recipe.pieces.map(({ key, name }) => [key, name]) : [],
    );
  });
  /** What adds up for the first note of the chosen pattern. */
  protected readonly sum = computed(() => {
    const pattern = this.editing.pattern();
    const placed = this.editing.placed();
    const chosen = this.editing.chosen();
    const song = this.song();
    const first = pattern?.notes.at(0);
    if (!pattern || !placed || !chosen || !song || !first) return null;
    const shifts = shiftsOf(first.key, placed, pattern, chosen, song.sounding);
    const layer = this.editing.patch()?.layers.find(({ id }) => chosen.layerIds.includes(id));
    const own = layer?.transpose ?? 0;
    const name = (key: number) => noteName(key, withoutNumbers(this.middleC()));
    const signed = (by: number) => (by < 0 ? `−${-by}` : `+${by}`);
    const sounds = first.key + shifts.pattern + shifts.key + shifts.accompanist + own;
    return [
      `${name(first.key)} as written`,
      `${signed(shifts.pattern)} pattern`,
      `${signed(shifts.key)} into the key`,
      `${signed(shifts.accompanist)} accompanist`,
      `${signed(own)} layer`,
      `${name(sounds)} sounds`,
    ];
  });

  protected chooseFlag(id: string): void {
    for (const one of this.editing.accompanists())
      if (one.patterns.some((placed) => placed.id === id)) this.editing.choose(one.id, id);
  }

  protected removeChosen(): void {
    const chosen = this.editing.chosen();
    if (chosen) this.editing.remove(chosen);
  }

  protected stopAll(): void {
    this.live.band.stopNow();
  }
}
