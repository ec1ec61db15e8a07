import {
  BEND_CENTRE,
  BEND_FULL,
  CC,
  CHANNEL_AFTERTOUCH,
  channelOf,
  CONTROL_CHANGE,
  NOTE_OFF,
  NOTE_ON,
  PITCH_BEND,
  POLY_AFTERTOUCH,
} from '../../midi/messages.js';

/** What a player can be told by channel messages. Channels 1–16, keys, velocities and values as MIDI has them. */
export interface ChannelMessages {
  noteOn(device: number, channel: number, key: number, velocity: number): void;
  noteOff(device: number, channel: number, key: number): void;
  /** A controller without a meaning of its own here. */
  controller(device: number, channel: number, controller: number, value: number): void;
  /** −8191…8191, as the wheel has its steps. */
  bend(device: number, channel: number, steps: number): void;
  /** All keys of a channel are leant on, 0–127. */
  pressure(device: number, channel: number, value: number): void;
  /** One key is leant on, 0–127. */
  keyPressure(device: number, channel: number, key: number, value: number): void;
  /** A pedal is put down or up by what else a message means. */
  pedal(device: number, channel: number, down: boolean): void;
  /** A foot moves the sustain pedal. */
  pedalMoved(device: number, channel: number, down: boolean): void;
  /** Channel mode 121. */
  resetControllers(device: number, channel: number): void;
  /** Channel mode 120 (with what the pedal holds) and 123–127. */
  endChannel(device: number, channel: number): void;
}

/** Reads a parsed channel message; other messages are passed over. Velocity 0 is a note-off. */
export function readChannelMessage(
  to: ChannelMessages,
  device: number,
  status: number,
  data1: number,
  data2: number,
): void {
  const channel = channelOf(status);
  switch (status & 0xf0) {
    case NOTE_ON:
      if (data2 === 0) to.noteOff(device, channel, data1);
      else to.noteOn(device, channel, data1, data2);
      break;
    case NOTE_OFF:
      to.noteOff(device, channel, data1);
      break;
    case CONTROL_CHANGE:
      readController(to, device, channel, data1, data2);
      break;
    case CHANNEL_AFTERTOUCH:
      to.pressure(device, channel, data1);
      break;
    case POLY_AFTERTOUCH:
      to.keyPressure(device, channel, data1, data2);
      break;
    case PITCH_BEND:
      // Downwards the wheel has one step more, which says nothing more.
      to.bend(device, channel, Math.max(-BEND_FULL, data1 + data2 * 128 - BEND_CENTRE));
      break;
  }
}

function readController(
  to: ChannelMessages,
  device: number,
  channel: number,
  controller: number,
  value: number,
): void {
  switch (controller) {
    case CC.sustain:
      to.pedalMoved(device, channel, value >= 64);
      break;
    case CC.allSoundOff:
      to.pedal(device, channel, false);
      to.endChannel(device, channel);
      break;
    case CC.resetAllControllers:
      to.pedal(device, channel, false);
      to.resetControllers(device, channel);
      break;
    case CC.allNotesOff:
    case CC.omniOff:
    case CC.omniOn:
    case CC.monoOn:
    case CC.polyOn:
      // The mode messages are all notes off as well.
      to.endChannel(device, channel);
      break;
    default:
      to.controller(device, channel, controller, value);
  }
}
