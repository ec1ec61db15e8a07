import { CC, CHANNEL_AFTERTOUCH, CONTROL_CHANGE, PITCH_BEND } from '../midi/messages.js';
import type { Layer, Obeyable } from '../model/patch/layer.js';
import { layerLetter } from '../model/patch/patch.js';

/** What controllers do where nothing is tied to them, after the MIDI standard, and what has to be obeyed for it. */
const CONTROLLERS: Readonly<Record<number, { words: string; obeyed: Obeyable }>> = {
  [CC.modulation]: { words: 'modulation', obeyed: 'modulation' },
  [CC.expression]: { words: 'expression', obeyed: 'expression' },
  [CC.sustain]: { words: 'sustain', obeyed: 'sustain' },
};

/**
 * What a control does by itself, without having been tied: `sustain of A, C`. Null for one that does nothing, and where no layer
 * obeys it.
 */
export function usualUse(
  sent: { kind: number; number: number },
  layers: readonly Layer[],
): string | null {
  const use =
    sent.kind === CONTROL_CHANGE
      ? (CONTROLLERS[sent.number] as (typeof CONTROLLERS)[number] | undefined)
      : sent.kind === PITCH_BEND
        ? { words: 'pitch bend', obeyed: 'pitchBend' as const }
        : sent.kind === CHANNEL_AFTERTOUCH
          ? { words: 'aftertouch', obeyed: 'aftertouch' as const }
          : undefined;
  if (!use) return null;
  const { obeyed } = use;
  const letters = layers.flatMap((layer, at) =>
    layer.obeys.includes(obeyed) ? [layerLetter(at)] : [],
  );
  if (letters.length === 0) return null;
  return letters.length === layers.length ? use.words : `${use.words} of ${letters.join(', ')}`;
}
