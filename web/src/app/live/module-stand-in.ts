import { StandInModule } from '@pentachord/core/midi';
import { BUS, COMMAND, type CommandRing } from '@pentachord/core/sampler';
import { MODULE_STRIP } from './stage';

/** House sounds that the stand-in module's programs play, in turn. */
const PROGRAMS = [
  'felt-piano',
  'tine-piano',
  'glass-bells',
  'round-upright-bass',
  'slow-tide-strings',
  'warm-pad',
];
/** The module's voices are numbered below zero, apart from the player's. */
const voiceNumber = (channel: number, note: number) => -(channel * 128 + note + 1);

/** The sound module of the rig as a stand-in: hears MIDI bytes and sounds through the voice engine. */
export function standInModule(
  commands: CommandRing,
  slotOf: (recipe: string) => number,
): StandInModule {
  let prepared = false;
  return new StandInModule({
    start(channel, program, note, velocity) {
      if (!prepared) {
        prepared = true;
        commands.write(COMMAND.level, MODULE_STRIP, -8, 0);
        commands.write(COMMAND.send, MODULE_STRIP, BUS.reverb, -14);
      }
      const slot = slotOf(PROGRAMS[program % PROGRAMS.length]);
      commands.write(
        COMMAND.start,
        voiceNumber(channel, note),
        MODULE_STRIP,
        slot,
        0,
        0,
        note,
        velocity,
        1,
      );
    },
    end(channel, note) {
      commands.write(COMMAND.end, voiceNumber(channel, note));
    },
    endAll(channel) {
      for (let note = 0; note < 128; note++)
        commands.write(COMMAND.end, voiceNumber(channel, note));
    },
  });
}
