import { CC } from '../../midi/messages.js';
import type { Obeyable } from '../../model/patch/layer.js';
import type { ControllerPosition } from '../../model/show/cue.js';
import type { CompiledLayer } from '../../routing/compile.js';

/** Whether a layer follows a wheel or pedal. */
export function obeys(layer: CompiledLayer, what: Obeyable): boolean {
  return layer.source.obeys.includes(what);
}

/** Whether a layer passes a controller on to its module; controllers that no layer can refuse go through. */
export function obeysController(layer: CompiledLayer, controller: number): boolean {
  if (controller === CC.modulation) return obeys(layer, 'modulation');
  if (controller === CC.expression) return obeys(layer, 'expression');
  return controller !== CC.volume && controller !== CC.pan;
}

/** Where a cue puts a controller; undefined where it says nothing of it. */
export function positionOf(
  positions: readonly ControllerPosition[],
  controller: number,
): number | undefined {
  return positions.find((p) => p.controller === controller)?.value;
}
