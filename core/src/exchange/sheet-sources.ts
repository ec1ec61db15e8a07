import type { Pattern } from '../model/library/pattern.js';
import type { Sound } from '../model/library/sound.js';
import type { Patch } from '../model/patch/patch.js';
import type { Device, Rig } from '../model/rig/rig.js';
import type { Cue } from '../model/show/cue.js';
import type { Show } from '../model/show/show.js';
import type { Song } from '../model/show/song.js';

/** What a control does; several that do the same have `or` between them. */
export interface SheetControl {
  control: string;
  does: string;
}

/** What a sheet is made of: everything that the show plays, as it is saved. */
export interface SheetSources {
  show: Show;
  rig: Rig;
  devices: readonly Device[];
  songs: ReadonlyMap<string, Song>;
  patches: ReadonlyMap<string, Patch>;
  cues: readonly Cue[];
  sounds: ReadonlyMap<string, Sound>;
  patterns: ReadonlyMap<string, Pattern>;
}
