import { computed, inject, Injectable } from '@angular/core';
import { freeName, newCue, type Cue, type Patch, type Trim } from '@pentachord/core/model';
import {
  cueDifferences,
  heardOf,
  levelWithTrim,
  movedTo,
  placeBehind,
  placedAt,
  taken,
  type CueContent,
  type CuePlaces,
  type Heard,
} from '@pentachord/core/setlist';
import { Store } from '@ngrx/store';
import { Live } from '../../live/live';
import type { AppState } from '../reducers';
import {
  selectCue,
  selectCuesBySong,
  selectPatchesBySong,
  selectSession,
  selectSong,
  selectThings,
  selectWrittenPatch,
  selectWrittenSong,
} from '../selectors';
import { session } from '../session/session';
import { StatusLine } from '../session/status-line';
import { Editing } from './editing';
import { showEdits, type CueSettings } from './show-edits';

/** Edits of the cues of the current song. */
@Injectable({ providedIn: 'root' })
export class CueEditing {
  private readonly store = inject<Store<AppState>>(Store);
  private readonly door = inject(Editing);
  private readonly live = inject(Live);
  private readonly status = inject(StatusLine);
  private readonly things = this.store.selectSignal(selectThings);
  private readonly session = this.store.selectSignal(selectSession);
  private readonly cuesBySong = this.store.selectSignal(selectCuesBySong);
  private readonly patchesBySong = this.store.selectSignal(selectPatchesBySong);
  private readonly songTonight = this.store.selectSignal(selectSong);
  private readonly patch = this.store.selectSignal(selectWrittenPatch);
  private readonly song = this.store.selectSignal(selectWrittenSong);
  /** The current cue. */
  readonly cue = this.store.selectSignal(selectCue);
  readonly cues = computed(
    (): readonly Cue[] => this.cuesBySong().get(this.song()?.id ?? '') ?? [],
  );
  /** The patches that they can recall. */
  readonly patches = computed(
    (): readonly Patch[] => this.patchesBySong().get(this.song()?.id ?? '') ?? [],
  );

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
    const { patchId, balance, treatments, choices, band, controllers, tempo } = cue;
    this.addCue(
      cue.name,
      { patchId, balance, treatments, choices, band, controllers, tempo },
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
}

function isAsTaken(cue: Cue, patch: Patch, heard: Heard, tempo: number): boolean {
  return cueDifferences(cue, patch, heard, tempo).length === 0;
}
