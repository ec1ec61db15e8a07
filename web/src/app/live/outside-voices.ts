import { CC, controlChange, noteOff, noteOn, programChange } from '@pentachord/core/midi';
import { gainFromDb } from '@pentachord/core/range';
import { Glide } from '@pentachord/core/setlist';
import type { OutPort } from './ports/port';

/** A channel of an outside module that a layer plays. */
export interface OutsideTarget {
  port: OutPort;
  /** 1–16. */
  channel: number;
  /** 0–127. */
  program: number;
}

/** Milliseconds between two volume messages while a level glides. */
const GLIDE_STEP_MS = 25;

/** Plays outside modules: notes, programs and gliding volumes as MIDI bytes. */
export class OutsideVoices {
  private readonly voices = new Map<number, { target: OutsideTarget; note: number }>();
  private readonly levels = new Map<
    string,
    { target: OutsideTarget; glide: Glide; sent: number }
  >();
  private readonly used = new Map<string, OutsideTarget>();
  private timer: ReturnType<typeof setInterval> | null = null;

  /** Chooses the program, and sets pan (−1…1) and level (dB) over some seconds. */
  prepare(target: OutsideTarget, level: number, pan: number, seconds: number): void {
    const key = keyOf(target);
    if (this.used.get(key)?.program !== target.program)
      target.port.send(programChange(target.channel, target.program));
    this.used.set(key, target);
    target.port.send(controlChange(target.channel, CC.pan, Math.round(63.5 + 63.5 * pan)));
    let line = this.levels.get(key);
    if (!line) {
      line = { target, glide: new Glide(level), sent: -1 };
      this.levels.set(key, line);
    }
    line.glide.to(level, seconds, now());
    this.sendVolumes();
    this.timer ??= setInterval(() => this.sendVolumes(), GLIDE_STEP_MS);
  }

  start(voice: number, target: OutsideTarget, note: number, velocity: number): void {
    this.voices.set(voice, { target, note });
    target.port.send(noteOn(target.channel, note, velocity));
  }

  /** Ends a voice; false when it is none of these. */
  end(voice: number): boolean {
    const sounding = this.voices.get(voice);
    if (!sounding) return false;
    this.voices.delete(voice);
    sounding.target.port.send(noteOff(sounding.target.channel, sounding.note));
    return true;
  }

  /** Sends a controller to a module. */
  control(target: OutsideTarget, controller: number, value: number): void {
    target.port.send(controlChange(target.channel, controller, value));
  }

  /** All sound off, controllers reset, all notes off, on every channel that was used. */
  silence(): void {
    this.voices.clear();
    for (const { port, channel } of this.used.values())
      for (const controller of [CC.allSoundOff, CC.resetAllControllers, CC.allNotesOff])
        port.send(controlChange(channel, controller, 0));
  }

  private sendVolumes(): void {
    let moving = false;
    const time = now();
    for (const line of this.levels.values()) {
      const level = line.glide.at(time);
      const volume = volumeOf(level);
      if (volume !== line.sent) {
        line.sent = volume;
        line.target.port.send(controlChange(line.target.channel, CC.volume, volume));
      }
      if (level !== line.glide.goal) moving = true;
    }
    if (!moving && this.timer !== null) {
      clearInterval(this.timer);
      this.timer = null;
    }
  }
}

/** Channel volume for a level: 40 dB · log10(volume / 127), as the General MIDI recommendation has it; 0 dB is 127. */
export function volumeOf(level: number): number {
  return Math.min(127, Math.round(127 * Math.sqrt(gainFromDb(level))));
}

function keyOf(target: OutsideTarget): string {
  return `${target.port.name} ${target.channel}`;
}

function now(): number {
  return performance.now() / 1000;
}
