import { fingerBass, keelBass, uprightBass } from './house/basses.js';
import { docksideKit, ropeAndTin } from './house/percussion.js';
import { reedPiano, tinePiano } from './house/electric-pianos.js';
import { lanternLead, quayBrass } from './house/leads.js';
import { glassBells, musicBox, woodenBars } from './house/mallets.js';
import { chapelOrgan, drawbarOrgan } from './house/organs.js';
import { fogChoir, slowTideStrings, warmPad } from './house/pads.js';
import { feltPiano, parlourPiano } from './house/pianos.js';
import { nylonGuitar, wireHarp } from './house/plucked.js';
import type { SoundRecipe } from './recipe.js';

/** The house sounds, in the order in which they are offered. */
export const HOUSE_SOUNDS: readonly SoundRecipe[] = [
  feltPiano,
  parlourPiano,
  tinePiano,
  reedPiano,
  drawbarOrgan,
  chapelOrgan,
  glassBells,
  woodenBars,
  musicBox,
  slowTideStrings,
  warmPad,
  fogChoir,
  uprightBass,
  fingerBass,
  keelBass,
  lanternLead,
  quayBrass,
  nylonGuitar,
  wireHarp,
  docksideKit,
  ropeAndTin,
];

/** The recipe of a house sound, or undefined for an id that is none. */
export function recipeOf(id: string): SoundRecipe | undefined {
  return HOUSE_SOUNDS.find((recipe) => recipe.id === id);
}
