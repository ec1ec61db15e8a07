import { computed, inject, Injectable } from '@angular/core';
import {
  controlInWords,
  MOST_CONTROLS,
  MOST_RIG_TIES,
  sameTarget,
  targetInWords,
  type ControlTarget,
  type Tie,
} from '@pentachord/core/model';
import { jobsNow, type Owner } from '@pentachord/core/ties';
import { Store } from '@ngrx/store';
import type { AppState } from '../reducers';
import {
  selectDevices,
  selectPatch,
  selectPatchSong,
  selectShow,
  selectThings,
} from '../selectors';
import { StatusLine } from '../session/status-line';
import { Editing } from './editing';
import { edits } from './edits';
import { rigEdits } from './rig-edits';
import { showEdits } from './show-edits';

/** Owners whose ties can be made where all of them are shown; controls of the show have a view of their own. */
export type TyingOwner = Exclude<Owner, 'show'>;

/** Everything that controls do while the patch on the desk is played, and edits of the ties among it. */
@Injectable({ providedIn: 'root' })
export class TieEditing {
  private readonly store = inject<Store<AppState>>(Store);
  private readonly door = inject(Editing);
  private readonly status = inject(StatusLine);
  private readonly show = this.store.selectSignal(selectShow);
  private readonly things = this.store.selectSignal(selectThings);
  private readonly inSong = this.store.selectSignal(selectPatchSong);
  readonly devices = this.store.selectSignal(selectDevices);
  readonly patch = this.store.selectSignal(selectPatch);
  readonly rig = computed(() => this.things().rigs[this.show()?.rigId ?? ''] ?? null);
  readonly song = computed(() => this.things().songs[this.inSong()?.id ?? ''] ?? null);

  readonly jobs = computed(() =>
    jobsNow({
      devices: this.devices(),
      patch: this.patch(),
      song: this.song(),
      show: this.show(),
      rig: this.rig(),
    }),
  );

  /** The ties of an owner. */
  tiesOf(owner: TyingOwner): readonly Tie[] {
    if (owner === 'patch') return this.patch()?.controls ?? [];
    return (owner === 'song' ? this.song()?.ties : this.rig()?.ties) ?? [];
  }

  /** Whether an owner is there, and has room for one more. */
  hasRoom(owner: TyingOwner): boolean {
    const most = owner === 'rig' ? MOST_RIG_TIES : MOST_CONTROLS;
    const there = owner === 'patch' ? this.patch() : owner === 'song' ? this.song() : this.rig();
    return Boolean(there) && this.tiesOf(owner).length < most;
  }

  /** Ties a control in the patch, or changes how it is tied, and says what it moves once it is. */
  tie(control: Tie, gesture?: string): void {
    const patch = this.patch();
    if (!patch) return;
    this.put('patch', control, gesture);
    // Changing how far it moves is no tie made anew.
    if (gesture !== undefined) return;
    const name = controlInWords(control, this.devices());
    this.status.say(`Tied: ${name} moves ${targetInWords(control.target, patch)}.`);
  }

  /** The tie of the patch that moves a target; null when there is none. */
  ofTarget(target: ControlTarget): Tie | null {
    return this.patch()?.controls.find((control) => sameTarget(control.target, target)) ?? null;
  }

  /** Ties a control, or changes how it is tied. */
  put(owner: TyingOwner, tie: Tie, gesture?: string): void {
    const patchId = this.patch()?.id;
    if (owner === 'patch') {
      if (patchId) this.door.do(edits.controlTied({ patchId, control: tie, gesture }));
      return;
    }
    const before = this.tiesOf(owner);
    const at = before.findIndex(({ id }) => id === tie.id);
    this.replace(owner, at < 0 ? [...before, tie] : before.with(at, tie), 'control tied', gesture);
  }

  remove(owner: TyingOwner, tieId: string): void {
    const patchId = this.patch()?.id;
    if (owner === 'patch') {
      if (patchId) this.door.do(edits.controlUntied({ patchId, controlId: tieId }));
    } else {
      const others = this.tiesOf(owner).filter(({ id }) => id !== tieId);
      this.replace(owner, others, 'control untied');
    }
    this.status.say('The control is no longer tied. Undo brings it back.');
  }

  private replace(
    owner: Exclude<TyingOwner, 'patch'>,
    ties: Tie[],
    words: string,
    gesture?: string,
  ): void {
    const songId = this.song()?.id;
    const rigId = this.rig()?.id;
    if (owner === 'song' && songId)
      this.door.do(showEdits.songChanged({ songId, changes: { ties }, gesture }));
    if (owner === 'rig' && rigId)
      this.door.do(rigEdits.rigChanged({ rigId, changes: { ties }, words, gesture }));
  }
}
