import { computed, inject, Injectable, signal } from '@angular/core';
import { isChosen, picksOf } from '@pentachord/core/model';
import type { PlayedNote } from '@pentachord/core/routing';
import { Store } from '@ngrx/store';
import { dequal } from 'dequal';
import { eachFrame } from '../live/frames';
import { Live } from '../live/live';
import type { AppState } from '../state/reducers';
import { selectPatch } from '../state/selectors';
import type { FieldMark } from './field/field';
import { PatchDesk } from './patch-desk';
import { ShownPatch } from './shown-patch';

/** What hands do with the patch on the desk: what was struck last, what is down, what choosers have picked. */
@Injectable()
export class PlayedPatch {
  private readonly live = inject(Live);
  private readonly desk = inject(PatchDesk);
  private readonly shown = inject(ShownPatch);
  private readonly patch = inject<Store<AppState>>(Store).selectSignal(selectPatch);
  /** What choosers have picked while playing, by chooser: another patch has others. */
  private readonly picked = signal<ReadonlyMap<string, number>>(new Map(), { equal: dequal });
  private notesSeen = 0;

  /** The last note played, for Trace; a copy, since the player reuses its own. */
  readonly lastNote = signal<PlayedNote | null>(null);
  /** The patch as it was played then, with what controls have switched; Trace reads this one. */
  readonly traced = computed(() => {
    this.lastNote();
    const compiled = this.shown.compiled();
    const { current } = this.live.runner;
    return current?.id === compiled?.id ? current : compiled;
  });
  /** Layers that no chooser has picked. */
  readonly ghosts = computed(() => {
    const picked = this.picked();
    const { layers = [], choosers = [] } = this.patch() ?? {};
    const others = layers.filter(
      ({ id }) => !isChosen(id, choosers, (one) => picked.get(one.id) ?? one.chosen),
    );
    return new Set(others.map(({ id }) => id));
  });
  /** Velocity of a key of the keyboard shown that is down, 0 when it is up. */
  readonly velocityOf = computed(() => {
    const keyboard = this.shown.keyboard();
    const device = keyboard ? (this.shown.compiled()?.rig.ids.indexOf(keyboard.id) ?? -1) : -1;
    const shift = (keyboard?.octaveShift ?? 0) * 12;
    return (key: number) => (device < 0 ? 0 : this.live.player.velocityOf(device, key - shift));
  });
  /** Where the last note lies on the field. */
  readonly mark = computed(() => {
    const keyboard = this.shown.keyboard();
    const rig = this.shown.compiled()?.rig;
    return (): FieldMark | null => {
      const note = this.lastNote();
      if (!note || !rig || rig.ids[note.device] !== keyboard?.id) return null;
      const velocity = rig.touch[note.device * 128 + note.velocity];
      return velocity > 0 ? { key: note.key + rig.keyShift[note.device], velocity } : null;
    };
  });
  /** The key read by the plumb line: the one under the hand, else the last one played. */
  readonly plumbed = computed(() => {
    const mark = this.mark()();
    const key = this.desk.hoveredKey() ?? mark?.key ?? null;
    return { key, velocity: mark && mark.key === key ? mark.velocity : null };
  });

  constructor() {
    eachFrame(() => {
      const { player } = this.live;
      const choosers = this.patch()?.choosers ?? [];
      this.picked.set(picksOf(choosers, (id) => player.pickedBy(id)));
      if (player.noteCount === this.notesSeen) return;
      this.notesSeen = player.noteCount;
      this.lastNote.set({ ...player.lastNote });
    });
  }
}
