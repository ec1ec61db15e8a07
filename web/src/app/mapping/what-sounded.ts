import { inject, Injectable, signal } from '@angular/core';
import { soundedBy, type SoundedZone } from '@pentachord/core/mapping';
import { isKeyboard } from '@pentachord/core/model';
import { touchOut } from '@pentachord/core/touch';
import { Store } from '@ngrx/store';
import { Live } from '../live/live';
import type { AppState } from '../state/reducers';
import { selectDevices, selectRig } from '../state/selectors';
import { Auditioning } from '../state/session/auditioning';
import { ZoneEditing } from './zone-editing';

/** Notes that are remembered. */
const MOST = 20;
/** Seconds for which a zone is lit that a short note has begun. */
const LIT_SECONDS = 0.5;
const NOTE_ON = 0x90;
const NOTE_OFF = 0x80;

/** A note, and what sounded of it. */
export interface SoundedNote {
  id: number;
  key: number;
  velocity: number;
  zones: readonly SoundedZone[];
  /** When it was struck, seconds of the page’s clock; whether its key is still down. */
  at: number;
  isHeld: boolean;
}

/** Tells which recordings the notes of every keyboard have begun, as long as it is listened to. */
@Injectable()
export class WhatSounded {
  private readonly live = inject(Live);
  private readonly editing = inject(ZoneEditing);
  private readonly auditioning = inject(Auditioning);
  private readonly store = inject<Store<AppState>>(Store);
  private readonly devices = this.store.selectSignal(selectDevices);
  private readonly rig = this.store.selectSignal(selectRig);
  readonly notes = signal<readonly SoundedNote[]>([]);
  readonly lit = signal<ReadonlySet<string>>(new Set());
  private readonly turns = new Map<number, number>();
  private count = 0;

  /** Listens to what comes in, until what it gives back is called. */
  listen(): () => void {
    return this.live.host.tap((_time, _port, device, status, key, velocity) => {
      const kind = status & 0xf0;
      if (kind !== NOTE_ON && kind !== NOTE_OFF) return;
      const heard = this.asHeard(device, key, velocity);
      if (kind === NOTE_ON && velocity > 0) {
        if (heard.velocity > 0) this.struck(heard.key, heard.velocity);
      } else this.letGo(heard.key);
    });
  }

  /** A note as layers hear it: the keyboard’s own octave shift and touch come first. */
  private asHeard(device: number, key: number, velocity: number) {
    const id = this.rig().ids.at(device);
    const keyboard = this.devices().find((one) => one.id === id);
    const octaves = this.auditioning.octaves();
    if (!keyboard || !isKeyboard(keyboard)) return { key: key + 12 * octaves, velocity };
    return {
      key: key + 12 * (keyboard.octaveShift + octaves),
      velocity: velocity > 0 ? touchOut(keyboard.touch, velocity) : 0,
    };
  }

  /** The zones take turns anew: what plays them was made anew. */
  begin(): void {
    this.turns.clear();
  }

  private struck(key: number, velocity: number): void {
    const turn = this.turns.get(key) ?? 0;
    const zones = soundedBy(this.editing.zones(), key, velocity, turn);
    if (zones.length > 0) this.turns.set(key, turn + 1);
    const note = { id: ++this.count, key, velocity, zones, at: now(), isHeld: true };
    this.notes.update((notes) => [note, ...notes].slice(0, MOST));
    this.light();
    setTimeout(() => this.light(), LIT_SECONDS * 1000 + 20);
  }

  private letGo(key: number): void {
    this.notes.update((notes) =>
      notes.map((note) => (note.isHeld && note.key === key ? { ...note, isHeld: false } : note)),
    );
    this.light();
  }

  private light(): void {
    const lit = new Set(
      this.notes()
        .filter(({ isHeld, at }) => isHeld || now() - at < LIT_SECONDS)
        .flatMap(({ zones }) => zones.map(({ zone }) => zone.id)),
    );
    const before = this.lit();
    if (lit.size !== before.size || [...lit].some((id) => !before.has(id))) this.lit.set(lit);
  }
}

function now(): number {
  return performance.now() / 1000;
}
