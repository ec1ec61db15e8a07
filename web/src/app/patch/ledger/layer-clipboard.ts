import { inject, Injectable } from '@angular/core';
import { carriedLayersSchema } from '@pentachord/core/model';
import * as z from 'zod';
import { Carrying } from '../../state/editing/carrying';
import { StatusLine } from '../../state/session/status-line';

/** Layers as text on the clipboard, so that they can be carried to another window too. */
const clippingSchema = z.strictObject({
  format: z.literal('pentachord layers 1'),
  carried: carriedLayersSchema,
});

/** Copying layers and pasting them, into the same patch or another. */
@Injectable({ providedIn: 'root' })
export class LayerClipboard {
  private readonly carrying = inject(Carrying);
  private readonly status = inject(StatusLine);
  /** For browsers that do not let a page read the clipboard. */
  private last = '';

  /** The text for the clipboard; null when none of the layers is there. */
  textOf(layerIds: readonly string[]): string | null {
    const carried = this.carrying.carry(layerIds);
    if (!carried) return null;
    const names = carried.layers.map(({ name }) => name);
    this.status.say(`Copied ${names.join(' and ')}.`);
    return (this.last = JSON.stringify({ format: 'pentachord layers 1', carried }));
  }

  /** Copies without a keyboard shortcut. */
  copy(layerIds: readonly string[]): void {
    const text = this.textOf(layerIds);
    // Without permission the text stays in this window, where it can still be pasted.
    if (text) void navigator.clipboard?.writeText(text).catch(() => undefined);
  }

  /** Pastes what the clipboard holds, or the last copy when it says nothing; false when that is no layer. */
  paste(text: string): boolean {
    const read = clippingSchema.safeParse(parsed(text) ?? parsed(this.last));
    if (!read.success) return false;
    const { carried } = read.data;
    this.carrying.paste(carried, carried.layers.length > 1 ? 'layers pasted' : 'layer pasted');
    return true;
  }
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text) as unknown;
  } catch {
    return null;
  }
}
