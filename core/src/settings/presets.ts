import type {
  DeviceSetting,
  DeviceSettings,
  SettingsPreset,
} from '../model/rig/device-settings.js';
import type { ControlBox, Device, Keyboard, Rig } from '../model/rig/rig.js';
import {
  differingSettings,
  settingsOf,
  wantedSettings,
  type SettingDifference,
} from './comparing.js';

/** Devices that keep settings in a memory of their own. */
export function keepingSettings(devices: readonly Device[]): (Keyboard | ControlBox)[] {
  return devices.filter((device) => device.kind === 'keyboard' || device.kind === 'controlBox');
}

/** What is wanted of every device of a rig, under a name. */
export function presetOf(name: string, devices: readonly Device[]): SettingsPreset {
  const settings = keepingSettings(devices).map((device) => [device.id, wantedSettings(device)]);
  return { name, settings: Object.fromEntries(settings) as SettingsPreset['settings'] };
}

/** Settings of devices, by their id, once a preset is wanted of them; those that it does not know stay as they are. */
export function wantingPreset(
  { settings }: SettingsPreset,
  devices: readonly Device[],
): Record<string, Pick<Keyboard, 'settings'>> {
  return Object.fromEntries(
    keepingSettings(devices).flatMap((device) => {
      if (!(device.id in settings)) return [];
      const { known } = device.settings;
      const own = settings[device.id];
      const wanted = settingsOf(device).filter(
        (setting) => !known || JSON.stringify(known[setting]) !== JSON.stringify(own[setting]),
      );
      return [[device.id, { settings: { known, wanted: pick(own, wanted) } }]];
    }),
  );
}

/** What a device holds otherwise than is wanted of it; null while nobody has read it. */
export function heldOtherwise(device: Keyboard | ControlBox): SettingDifference[] | null {
  const { known } = device.settings;
  if (!known) return null;
  const own = settingsOf(device);
  return differingSettings(wantedSettings(device), known).filter(({ setting }) =>
    own.includes(setting),
  );
}

/** A rig’s presets and recipes for a copy of it, whose devices have other ids. */
export function forCopy(
  { presets, recipes }: Pick<Rig, 'presets' | 'recipes'>,
  ids: ReadonlyMap<string, string>,
): Pick<Rig, 'presets' | 'recipes'> {
  return {
    presets: presets.map(({ name, settings }) => ({
      name,
      settings: Object.fromEntries(
        Object.entries(settings).map(([id, own]) => [ids.get(id) ?? id, own]),
      ),
    })),
    recipes: recipes.map((recipe) => ({
      ...recipe,
      deviceId: ids.get(recipe.deviceId) ?? recipe.deviceId,
    })),
  };
}

function pick(settings: DeviceSettings, names: readonly DeviceSetting[]): Partial<DeviceSettings> {
  return Object.fromEntries(names.map((name) => [name, settings[name]]));
}
