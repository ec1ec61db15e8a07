import { describe, expect, it } from 'vitest';
import { plainManner, StandInKeyboard, StandInModule, StandInPadBox } from './stand-ins.js';

describe('stand-in devices', () => {
  it('a keyboard sends only its own keys, and leaves out repeated status bytes', () => {
    const keyboard = new StandInKeyboard(plainManner(2), 36, 96);
    expect(keyboard.press(35, 80)).toEqual([]);
    expect(keyboard.press(60, 80)).toEqual([0x91, 60, 80]);
    expect(keyboard.press(64, 0)).toEqual([64, 1]);
    expect(keyboard.release(60)).toEqual([0x81, 60, 64]);
    expect(keyboard.control(64, 127)).toEqual([0xb1, 64, 127]);
    expect(keyboard.bend(8192)).toEqual([0xe1, 0, 64]);
  });

  it('a pad box sends its pads and knobs on its channel', () => {
    const box = new StandInPadBox({
      ...{ sendsOn: [10], padNotes: [36, 37] },
      ...{ padSensitivity: [4, 4], knobControllers: [20, 21] },
    });
    expect(box.strike(1, 100)).toEqual([0x99, 37, 100]);
    expect(box.release(1)).toEqual([0x89, 37, 64]);
    expect(box.turn(0, 12)).toEqual([0xb9, 20, 12]);
  });

  it('a module plays programs per channel and lets go on all notes off', () => {
    const heard: string[] = [];
    const module = new StandInModule({
      start: (channel, program, note, velocity) =>
        heard.push(`start ${channel} ${program} ${note} ${velocity}`),
      end: (channel, note) => heard.push(`end ${channel} ${note}`),
      endAll: (channel) => heard.push(`endAll ${channel}`),
    });
    module.receive([0xc2, 7, 0x92, 60, 90, 64, 80, 60, 0]);
    expect(module.notes).toBe(1);
    module.receive([0xb2, 123, 0]);
    expect(module.notes).toBe(0);
    expect(heard).toEqual(['start 3 7 60 90', 'start 3 7 64 80', 'end 3 60', 'endAll 3']);
  });
});
