import { isSampled, sourceIdOf, type Patch, type Sound } from '@pentachord/core/model';
import type { ShowPlan } from '@pentachord/core/playing';
import type { CompiledPatch } from '@pentachord/core/routing';
import type { RecordedStanding } from './recorded-sounds';
import type { SoundLoader } from './sound-loader';

/** How far the sounds of a show are. */
export interface Fetched {
  of: number;
  made: number;
  /** Names of those that are still to come, and of those that cannot be made. */
  coming: string[];
  failed: string[];
}

/** Has the sounds of a show made, those of the patch being played first. */
export class ShowSounds {
  private fetchedFor: ShowPlan | null = null;
  /** Sounds of the show. */
  private wanted: ReadonlySet<Sound> = new Set();

  constructor(private readonly loader: SoundLoader) {}

  /** Has these made, for trying them out. */
  fetchAll(sounds: Iterable<Sound>): void {
    for (const sound of sounds) this.fetch(sound);
  }

  /** Has every sound of the show made, those of the patch being played first. */
  follow(plan: ShowPlan, present: CompiledPatch | null): void {
    const own = (present?.layers ?? []).map(({ librarySoundId }) => {
      const sound = plan.sounds.get(librarySoundId);
      return sound ? sourceIdOf(sound) : null;
    });
    this.loader.prefer(new Set(own.filter((id) => id !== null)));
    if (plan === this.fetchedFor) return;
    this.fetchedFor = plan;
    const wanted = new Set<Sound>();
    for (const patch of inOrder(plan, present?.id ?? null))
      for (const { librarySoundId } of patch.sounds) {
        const sound = plan.sounds.get(librarySoundId);
        if (!sound || wanted.has(sound)) continue;
        this.fetch(sound);
        wanted.add(sound);
      }
    this.wanted = wanted;
  }

  /** How the recordings of the show stand in this browser. */
  get recordings(): RecordedStanding {
    const ids = [...this.wanted].map((sound) => sourceIdOf(sound) ?? '');
    return this.loader.recorded.standing(ids);
  }

  /** How far the sounds of the show are, and which of them are missing, by name. */
  get fetched(): Fetched {
    const found: Fetched = { of: 0, made: 0, coming: [], failed: [] };
    for (const sound of this.wanted) {
      const id = sourceIdOf(sound);
      if (id === null) continue;
      found.of++;
      const state = this.loader.stateOf(id);
      if (state === 'made') found.made++;
      else found[state].push(sound.name);
    }
    return found;
  }

  private fetch(sound: Sound): void {
    if (isSampled(sound)) this.loader.define(sound);
    const id = sourceIdOf(sound);
    if (id !== null) this.loader.playedBy(id);
  }
}

/** The patches that a show plays: the one that is played now first, then song by song as the night goes on from there. */
function inOrder({ steps, patches, cues }: ShowPlan, presentId: string | null): Patch[] {
  const ids = steps.map(({ cueId }) => (cueId === null ? undefined : cues[cueId]?.patchId));
  const from = Math.max(0, ids.indexOf(presentId ?? ''));
  const songs = new Set(steps.map(({ songId }) => songId));
  // Patches of songs that no cue plays can be opened all the same.
  const others = Object.values(patches).filter(({ songId }) => songs.has(songId));
  const asPlayed = [presentId, ...ids.slice(from), ...ids.slice(0, from)].flatMap((id) => {
    const patch = id ? patches[id] : undefined;
    return patch ? [patch] : [];
  });
  return [...new Set([...asPlayed, ...others])];
}
