/** How a layer is told apart: a colour for the desk, one for the night, and a direction of hatching. */
export interface LayerMark {
  /** On white sheets; dark enough for white letters on it. */
  day: string;
  /** On night blue; light enough for dark letters on it. */
  night: string;
  /** Degrees of the hatching, pixels between its lines, its dashes, and pixels after which they repeat. */
  hatch: { angle: number; gap: number; dash: string; period: number };
}

/** Eight colours that stay apart for colour-blind eyes, by lightness as well as by hue. */
const MARKS: readonly LayerMark[] = [
  { day: '#0b6e8a', night: '#4fb3cf', hatch: { angle: 45, gap: 8, dash: '', period: 8 } },
  { day: '#b4481e', night: '#ff9468', hatch: { angle: -45, gap: 8, dash: '', period: 8 } },
  { day: '#6a4c9c', night: '#b498f2', hatch: { angle: 90, gap: 7, dash: '', period: 8 } },
  { day: '#3a7a3a', night: '#84d084', hatch: { angle: 0, gap: 7, dash: '', period: 8 } },
  { day: '#8a5a00', night: '#f0c04e', hatch: { angle: 22, gap: 9, dash: '7 4', period: 11 } },
  { day: '#a32a63', night: '#f58ab8', hatch: { angle: -22, gap: 9, dash: '7 4', period: 11 } },
  { day: '#3c4f96', night: '#c4d2ff', hatch: { angle: 68, gap: 9, dash: '3 4', period: 7 } },
  { day: '#5c5346', night: '#cbbfa8', hatch: { angle: -68, gap: 9, dash: '3 4', period: 7 } },
];

/** The mark of a layer by its place in the patch. */
export function layerMark(index: number): LayerMark {
  return MARKS[index % MARKS.length];
}
