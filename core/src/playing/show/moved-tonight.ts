import { newNight, type Night } from '../../model/show/night.js';
import type { Song } from '../../model/show/song.js';
import { movedSong, playedSong, songAsMoved, trimmed } from '../../setlist/night.js';
import type { BeatsPerMinute } from '../../units/times.js';
import { NO_TRIMS, type TrimsByLayer } from '../stage/layer-levels.js';
import type { NowPlaying } from './show-plan.js';

type Whereabouts = Pick<NowPlaying, 'entryId' | 'cueId' | 'showtime'>;

/** What hands move for the night alone: trims, transposition, tempo. Outside of Showtime nothing is moved. */
export class MovedTonight {
  private present: Night = newNight('none');
  /** Trims of the place that is played, dB by layer; the same map as long as nothing of it changes. */
  private trims: { of: unknown[]; by: TrimsByLayer } = { of: [], by: NO_TRIMS };

  /** Told when something is moved. */
  onMove: (night: Night) => void = () => undefined;

  /** What holds for this night alone. */
  get night(): Night {
    return this.present;
  }

  /** Takes a night over, as after a reload. */
  take(night: Night): void {
    this.present = night;
  }

  /** Trims of a patch at a place, dB by layer. */
  trimsAt({ entryId, showtime }: Whereabouts, patchId: string | undefined): TrimsByLayer {
    const { trims } = this.present;
    const of = [trims, entryId, patchId, showtime];
    if (of.every((part, i) => part === this.trims.of[i])) return this.trims.by;
    const own = trims.filter((trim) => trim.entryId === entryId && trim.patchId === patchId);
    const by =
      showtime && own.length > 0 ? new Map(own.map((trim) => [trim.layerId, trim.by])) : NO_TRIMS;
    this.trims = { of, by };
    return by;
  }

  /** Trims a layer by so many dB; false where nothing is moved. */
  trim(
    { entryId, cueId, showtime }: Whereabouts,
    patchId: string,
    layerId: string,
    by: number,
  ): boolean {
    if (!showtime || entryId === null) return false;
    this.change(trimmed(this.present, { entryId, cueId, patchId, layerId, by }));
    return true;
  }

  /** Sounds semitones higher or lower; false outside of Showtime and at the ends. */
  transpose({ entryId, showtime }: Whereabouts, by: number): boolean {
    if (!showtime || entryId === null) return false;
    const before = this.transposedAt(entryId);
    this.change(movedSong(this.present, entryId, { transposed: before + by }));
    return this.transposedAt(entryId) !== before;
  }

  /** Takes another tempo for the night; false where nothing is moved. */
  setTempo({ entryId, showtime }: Whereabouts, tempo: BeatsPerMinute): boolean {
    if (!showtime || entryId === null) return false;
    this.change(movedSong(this.present, entryId, { tempo }));
    return true;
  }

  /** A song as hands have moved it in its place of the night. */
  songAt({ showtime }: Pick<Whereabouts, 'showtime'>, song: Song, entryId: string | null): Song {
    return showtime ? songAsMoved(song, playedSong(this.present, entryId)) : song;
  }

  private transposedAt(entryId: string): number {
    return playedSong(this.present, entryId)?.transposed ?? 0;
  }

  private change(night: Night): void {
    this.present = night;
    this.onMove(night);
  }
}
