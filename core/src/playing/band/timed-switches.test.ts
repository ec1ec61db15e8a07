import { expect, it } from 'vitest';
import { ShowClock } from '../../clock/show-clock.js';
import type { ControlTarget } from '../../model/patch/control-target.js';
import { TimedSwitches } from './timed-switches.js';

it('switches at once where nothing runs, else on its beat or bar; thought better of, not at all', () => {
  let seconds = 0;
  const clock = new ShowClock(() => seconds);
  let isOn = false;
  const said: [boolean, number][] = [];
  const switches = new TimedSwitches(clock, {
    isOn: () => isOn,
    switchTo: (_target, on) => {
      isOn = on;
      said.push([on, Math.round(clock.beats - clock.firstBeat)]);
    },
  });
  const echo: ControlTarget = { kind: 'treatment', treatmentId: 'echo' };
  const to = (beat: number) => {
    while (clock.beats - clock.firstBeat < beat) {
      seconds += 0.01;
      switches.advance();
    }
  };
  switches.switchTo(echo, true, 'bar');
  expect(said.splice(0).map(([on]) => on)).toEqual([true]);
  clock.join();
  to(1.3);
  switches.switchTo(echo, false, 'bar');
  expect([isOn, switches.isOn(echo)]).toEqual([true, false]);
  to(5);
  switches.switchTo(echo, true, 'beat');
  switches.switchTo(echo, false, 'beat');
  to(5.5);
  switches.switchTo(echo, true, 'beat');
  switches.callOff();
  to(7);
  expect(said).toEqual([[false, 4]]);
});
