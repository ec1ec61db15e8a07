import type { Onset, PlayerOutput } from '../playing/notes/player-output.js';
import type { CompiledLayer } from '../routing/compile.js';

interface Due {
  at: number;
  voice: number;
  begins: { note: number; velocity: number; layer: string } | null;
}

/**
 * Carries the player's decisions out at the times they bear, on a clock that the test turns: it remembers what began, and
 * what sounds.
 */
export class ScheduledOutput implements PlayerOutput {
  time = 0;
  /** What began, in milliseconds. */
  readonly began: { at: number; note: number; velocity: number; layer: string }[] = [];
  /** Notes that sound, by voice. */
  readonly sounding = new Map<number, number>();
  readonly controls: string[] = [];
  private agenda: Due[] = [];

  /** Lets time pass, in steps in which `tick` is called. */
  wait(seconds: number, tick: () => void, step = 0.005): void {
    const until = this.time + seconds;
    while (this.time < until - 1e-9) {
      this.time = Math.min(until, this.time + step);
      this.carryOut();
      tick();
      this.carryOut();
    }
  }

  start(
    voice: number,
    _patch: unknown,
    layer: CompiledLayer,
    note: number,
    velocity: number,
    { at }: Onset,
  ): void {
    this.enter({ at, voice, begins: { note, velocity, layer: layer.id } });
  }

  end(voice: number, at: number): void {
    this.enter({ at, voice, begins: null });
  }

  takeBack(voice: number): void {
    this.agenda = this.agenda.filter((due) => due.voice !== voice);
  }

  retime(voice: number, from: number, until: number): void {
    const begins = this.agenda.find((due) => due.voice === voice && due.begins);
    this.takeBack(voice);
    if (begins) this.enter({ ...begins, at: from });
    if (until < Infinity) this.enter({ at: until, voice, begins: null });
  }

  control(device: number, channel: number, controller: number, value: number): void {
    this.controls.push(`${device} ${channel} ${controller} ${value}`);
  }

  bend(): void {
    // Nobody asks.
  }

  pressure(): void {
    // Nobody asks.
  }

  voicePressure(): void {
    // Nobody asks.
  }

  ringsOn(layer: CompiledLayer): boolean {
    return layer.librarySoundId.includes('string');
  }

  deviceGone(): void {
    // It knows no devices.
  }

  moveDevices(): void {
    // It knows no devices.
  }

  silence(): void {
    this.agenda = [];
    this.sounding.clear();
  }

  private enter(due: Due): void {
    this.agenda.push({ ...due, at: due.at === 0 ? this.time : due.at });
    this.agenda.sort((a, b) => a.at - b.at);
    this.carryOut();
  }

  private carryOut(): void {
    while (this.agenda.length > 0 && this.agenda[0].at <= this.time + 1e-9) {
      const [{ at, voice, begins }] = this.agenda.splice(0, 1);
      if (!begins) this.sounding.delete(voice);
      else {
        this.sounding.set(voice, begins.note);
        this.began.push({ at: Math.round(at * 1000), ...begins });
      }
    }
  }
}
