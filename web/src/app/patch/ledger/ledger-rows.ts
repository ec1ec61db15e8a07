import { compareNames, type Layer, type Sound } from '@pentachord/core/model';

/** Columns by which the ledger can be sorted. */
export type SortKey =
  | 'letter'
  | 'name'
  | 'sound'
  | 'from'
  | 'keys'
  | 'velocities'
  | 'touch'
  | 'transpose'
  | 'level'
  | 'pan';

/** What a ledger line says beside the layer itself. */
export interface LedgerRow {
  layer: Layer;
  index: number;
  sound: Sound | null;
  sharing: string;
  from: string;
  touch: string;
  transposition: string;
  cost: string;
}

const byText = (text: (row: LedgerRow) => string) => (a: LedgerRow, b: LedgerRow) =>
  compareNames(text(a), text(b)) || a.index - b.index;
const byNumber = (number: (row: LedgerRow) => number) => (a: LedgerRow, b: LedgerRow) =>
  number(a) - number(b) || a.index - b.index;

/** How rows are sorted by each column; those that are alike stay in the order of the patch. */
export const ORDERS: Record<SortKey, (a: LedgerRow, b: LedgerRow) => number> = {
  letter: byNumber((row) => row.index),
  name: byText((row) => row.layer.name),
  sound: byText((row) => row.sound?.name ?? ''),
  from: byText((row) => row.from),
  keys: byNumber((row) => row.layer.keys.low * 128 + row.layer.keys.high),
  velocities: byNumber((row) => row.layer.velocities.low * 128 + row.layer.velocities.high),
  touch: byText((row) => row.touch),
  transpose: byNumber((row) => row.layer.transpose),
  level: byNumber((row) => row.layer.level),
  pan: byNumber((row) => row.layer.pan),
};
