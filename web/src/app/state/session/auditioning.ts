import { inject, Injectable, signal } from '@angular/core';
import type { Patch, PatchSound } from '@pentachord/core/model';
import { Live } from '../../live/live';

/** Octaves by which a sound can be tried higher or lower. */
const MOST_OCTAVES = 3;

/** Trying out a sound or a patch: while one is chosen here, every keyboard plays it and nothing else. */
@Injectable({ providedIn: 'root' })
export class Auditioning {
  private readonly live = inject(Live);
  private sound: PatchSound | null = null;
  /** Octave shift while trying out. */
  readonly octaves = signal(0);

  /** Has the keyboards play a sound; null gives them back to the patch. */
  listenTo(sound: PatchSound | null): void {
    this.sound = sound;
    this.play();
  }

  /** Has every keyboard play a whole patch; null gives them back. */
  listenToPatch(patch: Patch | null): void {
    this.sound = null;
    this.live.runner.audition(patch && { patch });
  }

  /** Shifts by octaves, as far as it makes sense. */
  shift(by: number): void {
    this.octaves.update((octaves) => Math.min(MOST_OCTAVES, Math.max(-MOST_OCTAVES, octaves + by)));
    this.play();
  }

  private play(): void {
    const { sound } = this;
    this.live.runner.audition(sound && { sound, transpose: this.octaves() * 12 });
  }
}
