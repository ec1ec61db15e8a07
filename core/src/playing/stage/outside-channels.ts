import type { CompiledLayer } from '../../routing/compile.js';
import { SILENCE_DB } from '../../units/decibels.js';
import type { Seconds } from '../../units/times.js';
import { isSameChannel, type OutsideTarget } from './outside-target.js';
import type { OutsideVoices } from './outside-voices.js';

/** A layer that an outside module plays, and how loud it is to be, dB. */
export interface OutsidePart {
  layer: CompiledLayer;
  target: OutsideTarget;
  level: number;
  /** False when it is only told again: then it stays where a hand has moved it. */
  isAsked: boolean;
}

/**
 * Layers that share a channel of a module share its volume: that goes by the loudest of them that is heard, and the others
 * strike more gently by as much as they are softer.
 */
export class OutsideChannels {
  private parts: OutsidePart[] = [];

  constructor(private readonly voices: OutsideVoices) {}

  /** Takes the parts of a patch; volumes glide over some seconds. */
  set(parts: readonly OutsidePart[], seconds: Seconds): void {
    const before = this.parts;
    this.parts = parts.map((part) => {
      if (part.isAsked) return part;
      const known = before.find(({ layer }) => layer.id === part.layer.id);
      return { ...part, level: known?.level ?? part.level };
    });
    for (const part of this.parts)
      if (this.loudestOn(part.target) === part) this.prepare(part, seconds);
  }

  /** Moves the level of one layer, dB. */
  move(layer: CompiledLayer, level: number, seconds: Seconds): void {
    const part = this.partOf(layer);
    if (!part) return;
    part.level = level;
    const loudest = this.loudestOn(part.target);
    if (loudest) this.prepare(loudest, seconds);
  }

  /** How much softer than its channel a layer is to strike, dB, at most 0. */
  trimOf(layer: CompiledLayer): number {
    const part = this.partOf(layer);
    const loudest = part && this.loudestOn(part.target);
    return loudest ? Math.min(0, part.level - Math.max(SILENCE_DB, loudest.level)) : 0;
  }

  private partOf(layer: CompiledLayer): OutsidePart | null {
    for (const part of this.parts) if (part.layer === layer) return part;
    return null;
  }

  /** Of the layers that share a channel the loudest, which has its program and its place in the middle of things. */
  private loudestOn(target: OutsideTarget): OutsidePart | null {
    let loudest: OutsidePart | null = null;
    for (const part of this.parts)
      if (isSameChannel(part.target, target) && part.level > (loudest?.level ?? -Infinity))
        loudest = part;
    return loudest;
  }

  private prepare({ target, level, layer }: OutsidePart, seconds: Seconds): void {
    this.voices.prepare(target, Math.max(SILENCE_DB, level), layer.source.pan, seconds);
  }
}
