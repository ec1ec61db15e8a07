import { plainManner, StandInKeyboard, StandInPadBox } from '@pentachord/core/stand-ins';
import type { Page } from '@playwright/test';

/** The demo's stand-in devices, at the level of bytes: what a test does goes down the cable like a player's playing. */
export class Rig {
  private readonly keyboards = {
    upper: { port: 'stand-in upper keys', part: new StandInKeyboard(plainManner(1), 28, 103) },
    lower: { port: 'stand-in lower keys', part: new StandInKeyboard(plainManner(2), 36, 96) },
  };
  private readonly pads = new StandInPadBox({
    sendsOn: [10],
    padNotes: [36, 37, 38, 39, 40, 41, 42, 43],
    padSensitivity: [4, 4, 4, 4, 4, 4, 4, 4],
    knobControllers: [20, 21, 22, 23, 24, 25, 26, 27],
  });

  constructor(private readonly page: Page) {}

  /** Raw bytes on a port. */
  async bytes(port: string, bytes: number[]): Promise<void> {
    await this.page.evaluate(
      ([name, list]) => {
        const cable = new BroadcastChannel('pentachord cable');
        cable.postMessage({ direction: 'in', port: name, bytes: list });
        cable.close();
      },
      [port, bytes] as const,
    );
  }

  async press(key: number, velocity = 80, on: 'upper' | 'lower' = 'upper'): Promise<void> {
    const { port, part } = this.keyboards[on];
    await this.bytes(port, part.press(key, velocity));
  }

  /** Strikes several keys at once, however slow the machine is. */
  async chord(keys: number[], velocity = 80, on: 'upper' | 'lower' = 'upper'): Promise<void> {
    const { port, part } = this.keyboards[on];
    await this.bytes(
      port,
      keys.flatMap((key) => part.press(key, velocity)),
    );
  }

  async release(key: number, on: 'upper' | 'lower' = 'upper'): Promise<void> {
    const { port, part } = this.keyboards[on];
    await this.bytes(port, part.release(key));
  }

  /** A pedal or wheel of a keyboard. */
  async control(controller: number, value: number, on: 'upper' | 'lower' = 'upper'): Promise<void> {
    const { port, part } = this.keyboards[on];
    await this.bytes(port, part.control(controller, value));
  }

  /** Taps a pad, counted from 1 as they are labelled. */
  async tapPad(pad: number): Promise<void> {
    await this.bytes('stand-in pads', this.pads.strike(pad - 1, 100));
    await this.bytes('stand-in pads', this.pads.release(pad - 1));
  }
}
