import { Injectable, inject, signal } from '@angular/core';
import type { Keyboard } from '@pentachord/core/model';
import { plainManner, StandInKeyboard } from '@pentachord/core/stand-ins';
import { Live } from '../live';

/** Keys of the computer that play, from C up, by their place on the keyboard and not by their letter. */
const TYPING_ORDER = [
  'KeyA',
  'KeyW',
  'KeyS',
  'KeyE',
  'KeyD',
  'KeyF',
  'KeyT',
  'KeyG',
  'KeyY',
  'KeyH',
  'KeyU',
  'KeyJ',
  'KeyK',
  'KeyO',
  'KeyL',
  'KeyP',
  'Semicolon',
];

/** Plays a keyboard of the rig from the screen or the computer's keys, as bytes on its port. */
@Injectable({ providedIn: 'root' })
export class ScreenHands {
  private readonly live = inject(Live);
  private readonly cables = new Map<string, { channel: number; cable: StandInKeyboard }>();
  private readonly typedKeys = new Map<string, { keyboard: Keyboard; key: number }>();

  /** True while the computer's letter keys play. */
  readonly typing = signal(false);
  /** The C that the first letter key plays. */
  readonly typingFrom = signal(60);
  readonly typingVelocity = signal(80);

  /** Strikes a key as the layers hear it; the keyboard's own octave shift is taken off first. */
  strike(keyboard: Keyboard, key: number, velocity: number): void {
    this.send(keyboard, this.cable(keyboard).press(key - keyboard.octaveShift * 12, velocity));
  }

  /** Lets a key go. */
  release(keyboard: Keyboard, key: number): void {
    this.send(keyboard, this.cable(keyboard).release(key - keyboard.octaveShift * 12));
  }

  /** A key of the computer went down; true when it plays or moves the playing keys. */
  typeDown(event: KeyboardEvent, keyboard: Keyboard | null): boolean {
    if (!this.typing() || !keyboard || event.ctrlKey || event.metaKey || event.altKey) return false;
    if (event.code === 'Minus' || event.code === 'Equal') {
      const by = event.code === 'Minus' ? -12 : 12;
      this.typingFrom.update((from) => Math.min(108, Math.max(12, from + by)));
      return true;
    }
    if (event.code === 'Comma' || event.code === 'Period') {
      const by = event.code === 'Comma' ? -10 : 10;
      this.typingVelocity.update((velocity) => Math.min(127, Math.max(10, velocity + by)));
      return true;
    }
    const place = TYPING_ORDER.indexOf(event.code);
    if (place < 0) return false;
    if (!event.repeat && !this.typedKeys.has(event.code)) {
      const key = this.typingFrom() + place;
      this.typedKeys.set(event.code, { keyboard, key });
      this.strike(keyboard, key, this.typingVelocity());
    }
    return true;
  }

  /** A key of the computer came up. */
  typeUp(code: string): void {
    const typed = this.typedKeys.get(code);
    this.typedKeys.delete(code);
    if (typed) this.release(typed.keyboard, typed.key);
  }

  /** Lets go whatever the computer's keys hold, as when the window is left. */
  letGo(): void {
    for (const code of [...this.typedKeys.keys()]) this.typeUp(code);
  }

  private send(keyboard: Keyboard, bytes: number[]): void {
    this.live.receive(keyboard.port, bytes, `${keyboard.port} on screen`);
  }

  private cable(keyboard: Keyboard): StandInKeyboard {
    const known = this.cables.get(keyboard.id);
    if (known?.channel === keyboard.channel) return known.cable;
    const cable = new StandInKeyboard(
      plainManner(keyboard.channel),
      keyboard.lowestKey,
      keyboard.highestKey,
    );
    this.cables.set(keyboard.id, { channel: keyboard.channel, cable });
    return cable;
  }
}
