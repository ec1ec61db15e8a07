import { responseOf, summedLoudness, unevenness, type Responses } from '../loudness/plumb-line.js';
import { BALANCE_VELOCITY } from '../loudness/balance.js';
import { layerLetter } from '../model/patch/patch.js';
import { heardChannel, type Keyboard } from '../model/rig/rig.js';
import { noteName, type NoteNaming } from '../pitch/note-names.js';
import type { Span } from '../range/range.js';
import type { CompiledPatch } from '../routing/compile.js';
import { judge, VERDICT } from '../routing/judge.js';
import type { Coverage } from './coverage.js';
import type { Found } from './remark.js';

/** The sides of a split differ by more than this at velocity 80: unbalanced. */
const UNBALANCED_DB = 6;

/** Keys answered by the same layers. */
interface LoudnessRun {
  keys: Span;
  layers: number[];
}

/** Dips, leaps and unbalanced splits on one keyboard, one remark for each stretch of keys with the same layers. */
export function loudnessRemarks(
  covered: Coverage,
  patch: CompiledPatch,
  keyboard: Keyboard,
  { responses, middleC }: { responses?: Responses; middleC: NoteNaming },
): Found[] {
  if (!responses) return [];
  const device = patch.rig.ids.indexOf(keyboard.id);
  const place = (key: number) => ({ device, channel: heardChannel(keyboard), key });
  const sumAt = (key: number) => summedLoudness(patch, responses, place(key));
  const found: Found[] = [];
  const runs = runsOf(covered);
  const told = new Set<string>();
  // Of what is not measured, or not yet, nothing can be said: neither of it nor of what sounds with it.
  const isKnown = (run: LoudnessRun) =>
    run.layers.every((layer) => responseOf(patch.layers[layer], responses) !== undefined);
  runs.forEach((run, index) => {
    if (!isKnown(run)) return;
    for (const remark of unevenRemarks(sumAt(middleOf(run.keys)), run, patch, keyboard, device)) {
      const matter = `${remark.kind} ${remark.layerIds.join()}`;
      if (!told.has(matter)) found.push(remark);
      told.add(matter);
    }
    const next = runs.at(index + 1);
    if (!next || !isKnown(next) || next.layers.some((layer) => run.layers.includes(layer))) return;
    const difference =
      sumAt(next.keys.low)[BALANCE_VELOCITY - 1] - sumAt(run.keys.high)[BALANCE_VELOCITY - 1];
    if (!Number.isFinite(difference) || Math.abs(difference) <= UNBALANCED_DB) return;
    const side = difference > 0 ? 'right' : 'left';
    found.push({
      kind: 'unbalancedSplit',
      id: `unbalanced ${keyboard.id} ${next.keys.low}`,
      weight: 'note',
      text: `split at ${noteName(next.keys.low, middleC)}: the ${side} is ${Math.abs(difference).toFixed(1)} dB louder`,
      keyboardId: keyboard.id,
      where: {
        keys: { low: run.keys.high, high: next.keys.low },
        velocities: { low: BALANCE_VELOCITY, high: BALANCE_VELOCITY },
      },
      layerIds: [...run.layers, ...next.layers].map((layer) => patch.layers[layer].id),
      excess: difference,
    });
  });
  return found;
}

function unevenRemarks(
  sum: Float64Array,
  run: LoudnessRun,
  patch: CompiledPatch,
  keyboard: Keyboard,
  device: number,
): Found[] {
  const key = middleOf(run.keys);
  const soundsAt = (layer: number, velocity: number) =>
    judge(patch.layers[layer], device, heardChannel(keyboard), key, velocity) === VERDICT.sounds;
  return unevenness(sum).map(({ kind, from, to, size }) => {
    const involved = run.layers.filter((layer) => soundsAt(layer, from) || soundsAt(layer, to));
    const letters = involved.map(layerLetter);
    const who =
      letters.length > 1 ? `${letters.slice(0, -1).join(', ')} and ${letters.at(-1)}` : letters[0];
    const near = Math.round((from + to) / 2);
    const verb = letters.length > 1 ? kind : kind === 'dip' ? 'dips' : 'leaps';
    return {
      kind,
      id: `${kind} ${keyboard.id} ${run.keys.low} ${from}`,
      weight: 'note',
      text: `${who} ${verb} ${size.toFixed(1)} dB near ${near}`,
      keyboardId: keyboard.id,
      where: { keys: run.keys, velocities: { low: from, high: to } },
      layerIds: involved.map((layer) => patch.layers[layer].id),
    };
  });
}

function runsOf(covered: Coverage): LoudnessRun[] {
  const runs: LoudnessRun[] = [];
  for (const { key, layers } of covered.keys) {
    const last = runs.at(-1);
    // A layer answers one stretch of keys: the same layers never come again behind others, or behind silence.
    if (last?.layers.join() === layers.join()) last.keys.high = key;
    else if (layers.length > 0) runs.push({ keys: { low: key, high: key }, layers });
  }
  return runs;
}

function middleOf({ low, high }: Span): number {
  return Math.floor((low + high) / 2);
}
