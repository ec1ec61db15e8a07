import { houseSourceId } from '@pentachord/core/model';
import { MODULE_STRIP } from '@pentachord/core/playing';
import { BUS, COMMAND, type CommandWriter } from '@pentachord/core/sampler';
import { StandInModule } from '@pentachord/core/stand-ins';
import type { Frame, Seconds } from '@pentachord/core/units';

/** What the stand-in module needs of the audio side. */
export interface ModuleParts {
  commands: CommandWriter;
  /** Slot of a source in the engine, −1 when there is none. */
  slotOf: (sourceId: string) => number;
  frameAt: (time: Seconds) => Frame;
}

/** House sounds that the stand-in module's programs play, in turn. */
const PROGRAMS = [
  'felt-piano',
  'tine-piano',
  'glass-bells',
  'round-upright-bass',
  'slow-tide-strings',
  'warm-pad',
];

/** The sound module of the rig as a stand-in: hears MIDI bytes and sounds through the voice engine. */
export function standInModule({ commands, slotOf, frameAt }: ModuleParts): StandInModule {
  let prepared = false;
  /** The module's voices are numbered below zero, apart from the player's; each note has a number of its own. */
  let struck = 0;
  const voices = new Map<number, number>();
  const end = (channel: number, note: number, at: Seconds) => {
    const voice = voices.get(channel * 128 + note);
    if (voice === undefined) return;
    voices.delete(channel * 128 + note);
    commands.write(COMMAND.end, frameAt(at), voice);
  };
  return new StandInModule({
    start(channel, program, note, velocity, at) {
      if (!prepared) {
        prepared = true;
        commands.write(COMMAND.level, 0, MODULE_STRIP, -8, 0);
        commands.write(COMMAND.send, 0, MODULE_STRIP, BUS.reverb, -14);
      }
      const voice = --struck;
      voices.set(channel * 128 + note, voice);
      const slot = slotOf(houseSourceId(PROGRAMS[program % PROGRAMS.length]));
      commands.write(
        COMMAND.start,
        frameAt(at),
        voice,
        MODULE_STRIP,
        slot,
        0,
        0,
        note,
        velocity,
        1,
      );
    },
    end,
    endAll(channel) {
      for (let note = 0; note < 128; note++) end(channel, note, 0);
    },
  });
}
