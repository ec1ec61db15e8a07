import type { DeviceSetting, DeviceSettings } from '../model/rig/device-settings.js';
import { isKeyboard, type ControlBox, type Device, type Keyboard } from '../model/rig/rig.js';
import { noteName, type NoteNaming } from '../pitch/note-names.js';
import { USUAL_SENSITIVITY } from './stroke-curve.js';

/** A setting that is otherwise than wanted. */
export interface SettingDifference {
  setting: DeviceSetting;
  wanted: DeviceSettings;
  found: DeviceSettings;
}

/** Which settings differ, in their order. */
export function differingSettings(
  wanted: DeviceSettings,
  found: DeviceSettings,
): SettingDifference[] {
  return (Object.keys(wanted) as DeviceSetting[])
    .filter((setting) => JSON.stringify(wanted[setting]) !== JSON.stringify(found[setting]))
    .map((setting) => ({ setting, wanted, found }));
}

/** What a setting is called. */
export const SETTING_NAMES: Readonly<Record<DeviceSetting, string>> = {
  sendsOn: 'sends on',
  octave: 'octave',
  curve: 'velocity curve',
  local: 'plays its own sounds too',
  padNotes: 'pads play',
  padSensitivity: 'pads speak',
  knobControllers: 'knobs send',
};

/** The settings that a kind of device has, in the order in which they are shown. */
export function settingsOf(device: Device): DeviceSetting[] {
  if (isKeyboard(device)) return ['sendsOn', 'octave', 'curve', 'local'];
  if (device.kind !== 'controlBox') return [];
  return ['sendsOn', 'padNotes', 'padSensitivity', 'knobControllers'];
}

/** The value of a setting in words: `2`, `2 and 3`, `softer`, `C2–G2`. */
export function settingInWords(
  setting: DeviceSetting,
  settings: DeviceSettings,
  middleC: NoteNaming,
): string {
  switch (setting) {
    case 'sendsOn':
      return settings.sendsOn.join(' and ');
    case 'octave':
      return settings.octave > 0
        ? `+${settings.octave}`
        : String(settings.octave).replace('-', '−');
    case 'curve':
      return settings.curve;
    case 'local':
      return settings.local ? 'yes' : 'no';
    case 'padNotes':
      return settings.padNotes.map((note) => noteName(note, middleC)).join(' ') || 'none';
    case 'padSensitivity':
      return settings.padSensitivity.join(' ') || 'none';
    case 'knobControllers':
      return settings.knobControllers.map((controller) => `CC ${controller}`).join(' ') || 'none';
  }
}

/** What a device holds as long as nobody has written anything to it: what the rig says of it. */
export function factorySettings(device: Keyboard | ControlBox): DeviceSettings {
  const pads = device.kind === 'controlBox' ? device.padNotes : [];
  return {
    sendsOn: [device.channel],
    octave: 0,
    curve: 'even',
    local: true,
    padNotes: [...pads],
    padSensitivity: pads.map(() => USUAL_SENSITIVITY),
    knobControllers: device.kind === 'controlBox' ? [...device.knobControllers] : [],
  };
}

/** What the player wants a device to hold. */
export function wantedSettings(device: Keyboard | ControlBox): DeviceSettings {
  const known = device.settings.known ?? factorySettings(device);
  return { ...known, ...device.settings.wanted };
}

/** What the rig says of a device once it is known what it holds. */
export function asItHolds(
  device: Keyboard | ControlBox,
  known: DeviceSettings,
): Partial<Keyboard> | Partial<ControlBox> {
  const [channel] = known.sendsOn;
  const settings = { known, wanted: stillWanted(device, known) };
  if (device.kind === 'keyboard') return { channel, settings };
  const { padNotes, knobControllers } = known;
  return { channel, settings, padNotes, knobControllers };
}

function stillWanted({ settings }: Keyboard | ControlBox, known: DeviceSettings) {
  const wanted = Object.entries(settings.wanted).filter(
    ([setting, value]) => JSON.stringify(value) !== JSON.stringify(known[setting as DeviceSetting]),
  );
  return Object.fromEntries(wanted) as Partial<DeviceSettings>;
}
