import { KIT_PIECES } from '../patterns/kit-pieces.js';
import type { MidiNote } from '../pitch/note-names.js';

/** Other words by which files name a piece, by its key in General MIDI. All of one have to be there; what says most wins. */
export const NAMES: Readonly<Record<MidiNote, readonly string[] | undefined>> = {
  35: ['low kick', 'kick low', 'kick b'],
  36: ['kick', 'bass drum', 'bassdrum', 'bd', 'kik'],
  37: ['rim', 'snare rim', 'rimshot', 'side stick', 'sidestick', 'cross stick'],
  38: ['snare', 'sd', 'sn'],
  39: ['clap', 'claps', 'handclap'],
  40: ['snare b', 'snare electric'],
  41: ['floor tom', 'tom floor', 'tom 4', 'floor'],
  42: ['hat', 'hh', 'hihat', 'hi hat', 'hat closed', 'hh closed', 'chh', 'ch'],
  43: ['low tom', 'tom low', 'tom 3', 'tom lo'],
  44: ['hat pedal', 'hat foot', 'hh pedal', 'hh foot', 'phh'],
  45: ['mid tom', 'middle tom', 'tom mid', 'tom 2', 'tom'],
  46: ['hat open', 'hh open', 'ohh', 'oh'],
  49: ['crash', 'cymbal', 'crash 1'],
  50: ['high tom', 'tom high', 'tom hi', 'tom 1'],
  51: ['ride', 'ride 1'],
  52: ['china', 'chinese'],
  53: ['ride bell', 'bell ride'],
  54: ['tambourine', 'tamb', 'tambo'],
  55: ['splash'],
  56: ['cowbell', 'cow bell'],
  57: ['crash b'],
  59: ['ride b'],
  60: ['bongo', 'bongo high', 'bongo hi'],
  61: ['bongo low', 'bongo lo'],
  62: ['conga mute', 'conga muted', 'conga slap'],
  63: ['conga', 'conga open', 'conga high', 'conga hi'],
  64: ['conga low', 'conga lo', 'tumba'],
  65: ['timbale', 'timbale high'],
  66: ['timbale low'],
  67: ['agogo', 'agogo high'],
  68: ['agogo low'],
  69: ['shaker', 'cabasa', 'shake', 'egg'],
  70: ['maraca', 'maracas'],
  75: ['clave', 'claves'],
  76: ['block', 'woodblock', 'wood block', 'block high'],
  77: ['block low', 'woodblock low'],
  80: ['triangle mute', 'triangle muted', 'triangle closed'],
  81: ['triangle', 'triangle open'],
};

/** The piece that a file’s name speaks of, by its key in General MIDI; null where it names none. */
export function pieceNamed(file: string): MidiNote | null {
  const words = new Set(
    file
      .replace(/([a-z])([A-Z])/g, '$1 $2')
      .toLowerCase()
      .split(/[^a-z0-9]+/)
      // `kick01` is a kick, and its number one of a row of takes.
      .flatMap((word) => word.match(/[a-z]+|\d+/g) ?? [])
      .map((word) => (/^\d+$/.test(word) ? String(Number(word)) : word)),
  );
  let best: { key: MidiNote; count: number; length: number } | null = null;
  for (const [key, name] of KIT_PIECES)
    for (const way of [name, ...(NAMES[key] ?? [])]) {
      const asked = way.split(' ');
      if (!asked.every((word) => words.has(word))) continue;
      const [count, { length }] = [asked.length, way];
      if (!best || count > best.count || (count === best.count && length > best.length))
        best = { key, count, length };
    }
  return best?.key ?? null;
}
