import { computed, inject, Injectable } from '@angular/core';
import { threeStrengths } from '@pentachord/core/loudness';
import { freeName, newCue, type Cue } from '@pentachord/core/model';
import { patchInPlay, type CompiledPatch } from '@pentachord/core/routing';
import { clockTime } from '@pentachord/core/units';
import { Store } from '@ngrx/store';
import { Live } from '../../live/live';
import { Mixtures } from '../machine/mixtures';
import { selectResponses } from '../machine/selectors';
import type { AppState } from '../reducers';
import { selectPlayedKeys, selectRig, selectWrittenPatch, selectWrittenSong } from '../selectors';
import { StatusLine } from '../session/status-line';
import { CueEditing } from './cue-editing';
import { Editing } from './editing';
import { showEdits } from './show-edits';

const NOBODY: ReadonlySet<string> = new Set();

/** Three strengths of the patch of the current song, as cues. */
@Injectable({ providedIn: 'root' })
export class Strengths {
  private readonly store = inject<Store<AppState>>(Store);
  private readonly door = inject(Editing);
  private readonly cueEditing = inject(CueEditing);
  private readonly live = inject(Live);
  private readonly status = inject(StatusLine);
  private readonly mixtures = inject(Mixtures);
  private readonly rig = this.store.selectSignal(selectRig);
  private readonly responses = this.store.selectSignal(selectResponses);
  private readonly played = this.store.selectSignal(selectPlayedKeys);
  private readonly patch = this.store.selectSignal(selectWrittenPatch);
  private readonly song = this.store.selectSignal(selectWrittenSong);

  /** Why no three strengths can be made; an empty text when they can. */
  readonly whyNone = computed(() => {
    const patch = this.patch();
    if (!patch || patch.songId !== this.song()?.id) return 'the song has no patch yet';
    if (patch.layers.length === 0) return 'the patch has no layers yet';
    return '';
  });

  /** Has a worker listen to the open patch beforehand, so that making strengths of it waits for nothing. */
  prepare(): void {
    const compiled = this.compiled();
    if (compiled && this.live.sounds.preferredReady) void this.mixtures.of(compiled);
  }

  /** Makes a low, a middle and a full cue of the open patch, by measured loudness: in place of the cues there are, or behind them. */
  async make(where: 'instead' | 'behind'): Promise<void> {
    const song = this.song();
    const patch = this.patch();
    const compiled = this.compiled();
    if (!song || !patch || !compiled || this.whyNone()) return;
    const mixtures = this.live.sounds.preferredReady ? await this.mixtures.of(compiled) : [];
    // Whoever has gone on meanwhile means something else now.
    if (this.patch() !== patch) return;
    const strengths = threeStrengths(compiled, this.responses(), this.played(), mixtures);
    if (!strengths) {
      this.status.say(
        'The sounds of this patch are still being made and measured. Nothing was changed; try again in a moment.',
      );
      return;
    }
    const before = this.cueEditing.cues();
    const kept = where === 'behind' ? before : [];
    const from = kept.at(-1)?.atSeconds ?? 0;
    const apart = (Math.max(from, song.lengthSeconds) - from) / (kept.length > 0 ? 4 : 3);
    const first = kept.length > 0 ? from + apart : 0;
    const names = kept.map(({ name }) => name);
    const cues = strengths.map(({ name, balance }, nth): Cue => {
      const id = crypto.randomUUID();
      return {
        ...newCue(id, song.id, kept.length + nth, freeName(name, names), patch.id),
        atSeconds: Math.round(first + nth * apart),
        balance,
      };
    });
    const replaced = where === 'instead' ? before.map(({ id }) => id) : [];
    const words = 'three strengths made';
    this.door.do(showEdits.cuesAdded({ cues, places: {}, replaced, words }));
    const [low, middle] = strengths.map(({ below }) => below.toFixed(1));
    const at = cues.map(({ atSeconds }) => clockTime(atSeconds)).join(', ');
    this.status.say(
      `Low is ${low} dB below full, middle ${middle}, by measured loudness. They stand at ${at}.`,
    );
    this.cueEditing.goTo(cues[0]);
  }

  private compiled(): CompiledPatch | null {
    const song = this.song();
    const patch = this.patch();
    return song && patch
      ? patchInPlay(patch, { rig: this.rig(), song, cue: null, soloed: NOBODY }).compiled
      : null;
  }
}
