import type { CompiledLayer } from '../routing/compile.js';
import { SILENCE_DB } from '../units/decibels.js';
import type { Seconds } from '../units/times.js';
import { keyOf, type OutsideTarget, type OutsideVoices } from './outside-voices.js';

/** A layer that an outside module plays, and how loud it is to be, dB. */
export interface OutsidePart {
  layer: CompiledLayer;
  target: OutsideTarget;
  level: number;
  /** True when a cue or another patch asks for it; false when it is only told again. */
  recalled: boolean;
}

/**
 * Layers that share a channel of a module share its volume: that goes by the loudest of them that is heard, and the others
 * strike more gently by as much as they are softer.
 */
export class OutsideChannels {
  private parts: OutsidePart[] = [];
  /** What the patch asked of each layer last, by id: where that is the same, a hand may have moved it since. */
  private asked = new Map<string, number>();
  /** Level of each channel in use, dB. */
  private readonly levels = new Map<string, number>();

  constructor(private readonly voices: OutsideVoices) {}

  /** Takes the parts of a patch; volumes glide over some seconds. */
  set(parts: readonly OutsidePart[], seconds: Seconds): void {
    const before = this.parts;
    const { asked } = this;
    this.asked = new Map(parts.map(({ layer, level }) => [layer.id, level]));
    this.parts = parts.map((part) => {
      const { id } = part.layer;
      if (part.recalled || asked.get(id) !== part.level) return part;
      return { ...part, level: before.find(({ layer }) => layer.id === id)?.level ?? part.level };
    });
    this.prepare(seconds);
  }

  /** Moves the level of one layer, dB. */
  move(layer: CompiledLayer, level: number, seconds: Seconds): void {
    const part = this.parts.find((candidate) => candidate.layer === layer);
    if (!part) return;
    part.level = level;
    this.prepare(seconds);
  }

  /** How much softer than its channel a layer is to strike, dB, at most 0. */
  trimOf(layer: CompiledLayer): number {
    const part = this.parts.find((candidate) => candidate.layer === layer);
    if (!part) return 0;
    return Math.min(0, part.level - (this.levels.get(keyOf(part.target)) ?? part.level));
  }

  private prepare(seconds: Seconds): void {
    this.levels.clear();
    for (const { target, level } of this.parts) {
      const key = keyOf(target);
      this.levels.set(key, Math.max(level, this.levels.get(key) ?? SILENCE_DB));
    }
    const prepared = new Set<string>();
    // The loudest has its program and its place in the middle of things.
    for (const { target, level, layer } of [...this.parts].sort((a, b) => b.level - a.level)) {
      const key = keyOf(target);
      if (prepared.has(key)) continue;
      prepared.add(key);
      this.voices.prepare(target, level, layer.source.pan, seconds);
    }
  }
}
