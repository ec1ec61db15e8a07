import { SIX_EIGHT, THREE_FOUR, tones } from './notation.js';

const on =
  (category: 'basses' | 'chords' | 'pads' | 'plucked' | 'lines') =>
  (name: string, tempo: number, key: string, ...tags: string[]) =>
    ({ name, category, tempo, key, tags }) as const;
const bass = on('basses');
const chords = on('chords');
const pad = on('pads');
const plucked = on('plucked');
const line = on('lines');

/** Basses, chords, pads, plucked parts and lines, each in a key. */
export const TONES = [
  tones(bass('hold', 87, 'F', 'long'), 1, 'F2! _ _ _ D2 _ _ C2,'),
  tones(
    bass('push', 87, 'F', 'syncopated'),
    1 / 4,
    'F2! _ F2, . A2 _ _ C3 _ _ A2 _ _ A2, G2, F2 _ E2 _ . F2! _ _ _ C3 _ _ D3 . E3, F3 _',
  ),
  tones(bass('walk', 96, 'F', 'swing'), 1, 'F2! A2 C3 D3 E♭3 D3 C3 A2'),
  tones(
    bass('push up', 104, 'C', 'rising'),
    1 / 2,
    'C2! C2, . C2 E2 F2 . G2 A2! . A2, G2 . E2 D2 B1',
  ),
  tones(
    bass('eighths', 120, 'Am', 'driving'),
    1 / 2,
    'A1! A1, A1 A1, A1! A1, G1 A1, F1! F1, F1 F1, G1! G1, G1 B1,',
  ),
  tones(bass('two and four', 80, 'Dm', 'sparse'), 1 / 2, '. . D2! _ . . A1 _ . . D2! _ . . F2 E2'),
  tones(
    { ...bass('round three', 74, 'G', 'waltz'), metre: THREE_FOUR },
    1,
    'G2! _ _ D2 _ _ E2! _ _ D2 C2 B1',
  ),
  tones(
    { ...bass('long oars', 132, 'Em', 'rolling'), metre: SIX_EIGHT },
    1 / 2,
    'E2! _ _ B2 _ B2, D2! _ _ A2 _ C3,',
  ),
  tones(bass('rests', 92, 'F', 'sparse'), 1 / 2, 'F2! . . . . . C3 . . . D2 . . . C2, .'),
  tones(
    chords('lantern comp', 104, 'C', 'piano'),
    1 / 2,
    '. E3+G3+C4! . E3+G3+C4, . F3+A3+C4! . G3+B3+D4,',
  ),
  tones(
    chords('half and half', 92, 'F', 'piano'),
    1 / 2,
    'A3+C4+F4! _ . A3+C4+F4, _ . B♭3+D4+F4 _ A3+C4+F4! _ . G3+C4+E4, _ . G3+C4+E4 _',
  ),
  tones(
    chords('off the beat', 124, 'Am', 'short'),
    1 / 4,
    '. . A3+C4+E4! . . . A3+C4+E4 . . . G3+B3+D4! . . . F3+A3+C4, .',
  ),
  tones(
    { ...chords('three over', 74, 'G', 'waltz'), metre: THREE_FOUR },
    1,
    '. B3+D4! B3+D4, . C4+E4! C4+E4, . A3+D4! A3+D4, . B3+D4! B3+D4,',
  ),
  tones(
    { ...chords('bell chords', 132, 'Em', 'rolling'), metre: SIX_EIGHT },
    1 / 2,
    'E4+G4+B4! . . . E4+G4+B4, . D4+F♯4+A4! . . C4+E4+G4, . .',
  ),
  tones(chords('organ steps', 98, 'D', 'held'), 2, 'F♯3+A3+D4 G3+B3+D4 A3+C♯4+E4 F♯3+A3+D4'),
  tones(pad('swell', 87, 'F', 'long'), 4, 'F3+A3+C4, B♭3+D4+F4,'),
  tones(pad('long', 87, 'F', 'long'), 4, 'F3+C4+A4 _ D3+A3+F4 C3+G3+E4,'),
  tones(pad('two bars', 87, 'Dm', 'dark'), 4, 'D3+F3+A3 C3+E3+G3'),
  tones(pad('rising mist', 80, 'C', 'long'), 2, 'C3+G3, E3+C4 F3+C4 G3+D4!'),
  tones(
    { ...pad('slow three tide', 74, 'G', 'waltz'), metre: THREE_FOUR },
    3,
    'G3+B3+D4 E3+G3+B3 C3+E3+G3 D3+F♯3+A3',
  ),
  tones(
    { ...pad('under the bells', 132, 'Em', 'long'), metre: SIX_EIGHT },
    3,
    'E3+B3+G4 D3+A3+F♯4',
  ),
  tones(plucked('climb', 87, 'F', 'even'), 1 / 2, 'F4! A4 C5 F5 E5 C5 A4 G4,'),
  tones(plucked('drops', 87, 'F', 'sparse'), 1 / 2, 'C5! . . A4 . . F4, . D5! . . C5 . . A4, .'),
  tones(
    plucked('turn', 87, 'F', 'quick'),
    1 / 4,
    'F4! G4, A4 C5 D5! C5, A4 G4 F4! D4, C4 D4 F4! G4, A4 .',
  ),
  tones(
    { ...plucked('wire three', 74, 'G', 'waltz'), metre: THREE_FOUR },
    1 / 2,
    'G4! D4 B4 D4 G4 D4 C5! E4 G4 E4 C5 E4',
  ),
  tones(
    { ...plucked('six strings', 132, 'Em', 'rolling'), metre: SIX_EIGHT },
    1 / 2,
    'E4! B4 G4 E5 B4 G4 D4! A4 F♯4 D5 A4 F♯4',
  ),
  tones(plucked('shore', 87, 'Dm', 'low'), 1 / 2, 'D4! F4 A4 . D4, F4 A4 C5 A4! . F4 . E4, . C4 .'),
  tones(line('back', 87, 'F', 'answer'), 1 / 2, 'C5! _ A4 G4 F4 _ _ . D5! _ C5 A4 G4 _ _ .'),
  tones(line('gull', 104, 'Am', 'high'), 1 / 2, 'E5! _ _ D5 C5 _ B4 A4 . . C5 D5 E5! _ _ .'),
  tones(
    { ...line('six eight reel', 132, 'Em', 'brisk'), metre: SIX_EIGHT },
    1 / 2,
    'B4! E5 D5 B4 A4 G4 E4! G4 A4 B4 A4 G4',
  ),
];
