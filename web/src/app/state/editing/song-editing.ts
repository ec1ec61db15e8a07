import { computed, inject, Injectable } from '@angular/core';
import { forKeyboards } from '@pentachord/core/library';
import { threeStrengths } from '@pentachord/core/loudness';
import {
  freeName,
  isKeyboard,
  newCue,
  newPatch,
  renewedPatch,
  UNNAMED_PATCH,
  type Cue,
  type Patch,
  type Song,
  type Trim,
} from '@pentachord/core/model';
import { patchInPlay, type CompiledPatch } from '@pentachord/core/routing';
import {
  levelWithTrim,
  cueDifferences,
  heardOf,
  movedTo,
  placeBehind,
  placedAt,
  taken,
  whyPatchStays,
  type CueContent,
  type CuePlaces,
  type Heard,
} from '@pentachord/core/setlist';
import { Store } from '@ngrx/store';
import { Live } from '../../live/live';
import { Mixtures } from '../machine/mixtures';
import type { AppState } from '../reducers';
import { selectResponses } from '../machine/selectors';
import {
  selectCue,
  selectCuesBySong,
  selectDevices,
  selectPatchesBySong,
  selectPlayedKeys,
  selectRig,
  selectSession,
  selectSong,
  selectThings,
  selectWrittenPatch,
  selectWrittenSong,
} from '../selectors';
import { session } from '../session/session';
import { StatusLine } from '../session/status-line';
import { Editing } from './editing';
import { edits } from './edits';
import { showEdits, type CueSettings, type SongSettings } from './show-edits';

const NOBODY: ReadonlySet<string> = new Set();

/** Edits of the current song: what it is, its patches and its cues. */
@Injectable({ providedIn: 'root' })
export class SongEditing {
  private readonly store = inject<Store<AppState>>(Store);
  private readonly door = inject(Editing);
  private readonly live = inject(Live);
  private readonly status = inject(StatusLine);
  private readonly mixtures = inject(Mixtures);
  private readonly things = this.store.selectSignal(selectThings);
  private readonly session = this.store.selectSignal(selectSession);
  private readonly devices = this.store.selectSignal(selectDevices);
  private readonly rig = this.store.selectSignal(selectRig);
  private readonly responses = this.store.selectSignal(selectResponses);
  private readonly played = this.store.selectSignal(selectPlayedKeys);
  private readonly cuesBySong = this.store.selectSignal(selectCuesBySong);
  private readonly patchesBySong = this.store.selectSignal(selectPatchesBySong);
  private readonly songTonight = this.store.selectSignal(selectSong);
  private readonly patch = this.store.selectSignal(selectWrittenPatch);
  /** The current song as it is written. */
  readonly song = this.store.selectSignal(selectWrittenSong);
  /** The current cue. */
  readonly cue = this.store.selectSignal(selectCue);
  readonly cues = computed(
    (): readonly Cue[] => this.cuesBySong().get(this.song()?.id ?? '') ?? [],
  );
  readonly patches = computed(
    (): readonly Patch[] => this.patchesBySong().get(this.song()?.id ?? '') ?? [],
  );

  change(changes: SongSettings, gesture?: string): void {
    const songId = this.song()?.id;
    if (songId) this.door.do(showEdits.songChanged({ songId, changes, gesture }));
  }

  /** Makes a patch of the song from a starting point, one of the repertoire or one that was kept, and opens it. */
  startFrom(name: string, patch: Patch): void {
    const song = this.song();
    if (!song) return;
    const keyboards = this.devices().filter(isKeyboard);
    const laid = isStartingPoint(patch)
      ? forKeyboards(
          patch,
          keyboards.map(({ place }) => place),
        )
      : patch;
    const names = this.patches().map((own) => own.name);
    const place = {
      ...this.nextPlace(song),
      name: freeName(name, names),
    };
    const known = new Set(keyboards.map(({ place }) => place));
    this.open(renewedPatch(laid, place, known, () => crypto.randomUUID()));
    this.status.say(`“${place.name}” is now a patch of ${song.name}.`);
  }

  /** Adds a patch without layers, and opens it. */
  newPatch(): void {
    const song = this.song();
    if (!song) return;
    const place = this.nextPlace(song);
    const names = this.patches().map(({ name }) => name);
    this.open(newPatch(place.id, song.id, place.position, freeName(UNNAMED_PATCH, names)));
  }

  openPatch(patchId: string): void {
    this.store.dispatch(session.patchOpened({ patchId }));
  }

  /** A patch becomes the nth of its song, from 0. */
  movePatch(patchId: string, to: number): void {
    const ids = this.patches().map(({ id }) => id);
    const order = ids.filter((id) => id !== patchId);
    order.splice(Math.min(Math.max(0, to), order.length), 0, patchId);
    if (order.some((id, i) => id !== ids[i]))
      this.door.do(showEdits.patchesOrdered({ patchIds: order }));
  }

  /** Why a patch cannot be removed; an empty text when it can. */
  whyPatchStays(patchId: string): string {
    return whyPatchStays(patchId, this.cues(), this.patches());
  }

  removePatch(patchId: string): void {
    if (this.whyPatchStays(patchId)) return;
    const other = this.patches().find(({ id }) => id !== patchId);
    if (patchId === this.session().patchId && other) this.openPatch(other.id);
    this.door.do(edits.patchRemoved({ patchId }));
  }

  /** Goes to a cue of the song; its patch is opened. */
  goTo(cue: Cue): void {
    const { entryId } = this.session();
    const { id: cueId, songId, patchId } = cue;
    const open = patchId in this.things().patches ? patchId : (this.patches().at(0)?.id ?? null);
    this.store.dispatch(session.cueReached({ entryId, songId, cueId, patchId: open }));
  }

  /** Makes a cue behind the current one from what is heard now. */
  takeHeard(): void {
    const song = this.song();
    const content = this.contentHeard();
    if (!song || !content) {
      this.status.say('There is no patch to take anything from: add one to the song first.');
      return;
    }
    this.addCue('cue', content);
  }

  /** Makes a copy of a cue behind it. */
  copyCue(cue: Cue): void {
    const { patchId, balance, treatments, choices, controllers, tempo } = cue;
    this.addCue(
      cue.name,
      { patchId, balance, treatments, choices, controllers, tempo },
      { fadeSeconds: cue.fadeSeconds, note: cue.note },
      cue.id,
    );
  }

  /** The current cue takes over what is heard now. */
  takeOver(): void {
    const cue = this.cue();
    const patch = this.patch();
    const song = this.songTonight();
    const content = this.contentHeard();
    if (!cue || !patch || !song || !content) {
      this.status.say('No cue is current: choose one first.');
      return;
    }
    const heard = this.live.runner.heard();
    if (heard?.patchId === cue.patchId && isAsTaken(cue, patch, heard, song.tempo)) {
      this.status.say(`Nothing has changed since ${cue.name} was taken.`);
      return;
    }
    this.door.do(showEdits.cueTaken({ cueId: cue.id, content }));
    this.status.say(`${cue.name} is now as you hear it.`);
  }

  /** What hands have changed since goes back to what the current cue says. */
  putBack(): void {
    // On the desk, where patches are heard as they are written, the cue’s own balance is what is wanted now.
    const { balance, songOpen } = this.session();
    if (balance !== 'cue' && !songOpen)
      this.store.dispatch(session.balanceChosen({ balance: 'cue' }));
    this.live.runner.recallAgain();
    const name = this.cue()?.name ?? 'The cue';
    this.status.say(`${name} is back as it was taken.`);
  }

  changeCue(cueId: string, changes: CueSettings, words: string, gesture?: string): void {
    this.door.do(showEdits.cueChanged({ cueId, changes, words, gesture }));
  }

  /** A level that was trimmed while playing holds in its cue from now on. */
  giveTrim(trim: Trim): void {
    const { cues, patches } = this.things();
    const cue = trim.cueId === null ? undefined : cues[trim.cueId];
    const patch = patches[trim.patchId] as Patch | undefined;
    const level = cue && patch ? levelWithTrim(trim, cue, patch) : null;
    if (!cue || level === null) return;
    this.door.do(showEdits.cueBalanced({ cueId: cue.id, balance: { [trim.layerId]: { level } } }));
  }

  /** A cue recalls another patch of the song; what its balance says of layers that are not there is passed over. */
  givePatch(cueId: string, patchId: string): void {
    this.changeCue(cueId, { patchId }, 'the cue’s patch changed');
  }

  /** Puts a cue at a time of its song, in seconds. */
  placeCue(cueId: string, atSeconds: number, gesture?: string): void {
    const song = this.songTonight();
    if (song) this.place(placedAt(this.cues(), cueId, atSeconds, song.lengthSeconds), gesture);
  }

  /** A cue becomes the nth of its song, from 0. */
  moveCue(cueId: string, to: number): void {
    this.place(movedTo(this.cues(), cueId, to));
  }

  removeCue(cue: Cue): void {
    const cues = this.cues();
    const other = cues.at(cues.indexOf(cue) + 1) ?? cues.at(cues.indexOf(cue) - 1);
    if (cue.id === this.session().cueId && other && other !== cue) this.goTo(other);
    this.door.do(showEdits.cueRemoved({ cueId: cue.id }));
  }

  /** Why no three strengths can be made; an empty text when they can. */
  readonly whyNoStrengths = computed(() => {
    const patch = this.patch();
    if (!patch || patch.songId !== this.song()?.id) return 'the song has no patch yet';
    if (patch.layers.length === 0) return 'the patch has no layers yet';
    return '';
  });

  /** Has a worker listen to the open patch beforehand, so that making strengths of it waits for nothing. */
  prepareStrengths(): void {
    const compiled = this.compiled();
    if (compiled && this.live.sounds.preferredReady) void this.mixtures.of(compiled);
  }

  /** Makes a low, a middle and a full cue of the open patch, by measured loudness. */
  async makeStrengths(): Promise<void> {
    const song = this.song();
    const patch = this.patch();
    const compiled = this.compiled();
    if (!song || !patch || !compiled || this.whyNoStrengths()) return;
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
    const before = this.cues();
    const from = before.at(-1)?.atSeconds ?? 0;
    const apart = (Math.max(from, song.lengthSeconds) - from) / (before.length > 0 ? 4 : 3);
    const first = before.length > 0 ? from + apart : 0;
    const names = before.map(({ name }) => name);
    const cues = strengths.map(({ name, balance }, nth): Cue => {
      const id = crypto.randomUUID();
      return {
        ...newCue(id, song.id, before.length + nth, freeName(name, names), patch.id),
        atSeconds: Math.round(first + nth * apart),
        balance,
      };
    });
    this.door.do(showEdits.cuesAdded({ cues, places: {}, words: 'three strengths made' }));
    const [low, middle] = strengths.map(({ below }) => below.toFixed(1));
    this.status.say(`Low is ${low} dB below full, middle ${middle}, by measured loudness.`);
    this.goTo(cues[0]);
  }

  private compiled(): CompiledPatch | null {
    const song = this.song();
    const patch = this.patch();
    return song && patch
      ? patchInPlay(patch, { rig: this.rig(), song, cue: null, soloed: NOBODY }).compiled
      : null;
  }

  /** What is heard now, as a cue recalls it; on the desk without sound it is what is shown there. */
  private contentHeard(): CueContent | null {
    const patch = this.patch();
    const song = this.songTonight();
    if (!patch || !song || patch.songId !== song.id) return null;
    const heard = this.live.runner.heard();
    const present = heard?.patchId === patch.id ? heard : heardOf(patch, null, song.tempo);
    return taken(present, patch, song.tempo);
  }

  private addCue(
    wish: string,
    content: CueContent,
    more: Partial<Cue> = {},
    behind = this.cue()?.songId === this.song()?.id ? (this.cue()?.id ?? null) : null,
  ): void {
    const song = this.song();
    if (!song) return;
    const cues = this.cues();
    const names = cues.map(({ name }) => name);
    const place = placeBehind(cues, behind, song.lengthSeconds);
    const cue: Cue = {
      ...newCue(crypto.randomUUID(), song.id, place.position, wish, content.patchId),
      ...content,
      ...more,
      atSeconds: place.atSeconds,
      name: freeName(wish, names),
    };
    const places: CuePlaces = {};
    for (const { id, position, atSeconds } of cues)
      if (position >= place.position) places[id] = { position: position + 1, atSeconds };
    this.door.do(showEdits.cuesAdded({ cues: [cue], places, words: 'cue added' }));
    this.goTo(cue);
  }

  private place(places: CuePlaces, gesture?: string): void {
    if (Object.keys(places).length > 0) this.door.do(showEdits.cuesPlaced({ places, gesture }));
  }

  private nextPlace({ id: songId }: Song) {
    const position = Math.max(-1, ...this.patches().map((patch) => patch.position)) + 1;
    return { id: crypto.randomUUID(), songId, position };
  }

  private open(patch: Patch): void {
    this.door.do(edits.patchAdded({ patch }));
    this.openPatch(patch.id);
  }
}

function isAsTaken(cue: Cue, patch: Patch, heard: Heard, tempo: number): boolean {
  return cueDifferences(cue, patch, heard, tempo).length === 0;
}

/** Whether a patch is a starting point that ships, which speaks of the first and second keyboard. */
function isStartingPoint(patch: Patch): boolean {
  return patch.songId === 'starting-points';
}
