import * as z from 'zod';
import { channelSchema, controllerNumberSchema, sevenBitSchema } from '../identity.js';

/** How a device turns the force of a stroke into velocity. */
export const strokeCurveSchema = z.enum(['softer', 'even', 'harder']);
export type StrokeCurve = z.infer<typeof strokeCurveSchema>;

/** What a device keeps in a memory of its own, and behaves by. */
export const deviceSettingsSchema = z.strictObject({
  /** The channels it sends on; more than one when an old one was left on. */
  sendsOn: z.array(channelSchema).min(1).max(16),
  /** Octaves that it adds before it sends. */
  octave: z.number().int().min(-4).max(4),
  curve: strokeCurveSchema,
  /** Whether its keys play its own sounds too. */
  local: z.boolean(),
  padNotes: z.array(sevenBitSchema).max(64),
  /** How easily each pad speaks, 1–8. */
  padSensitivity: z.array(z.number().int().min(1).max(8)).max(64),
  knobControllers: z.array(controllerNumberSchema).max(64),
});
export type DeviceSettings = z.infer<typeof deviceSettingsSchema>;
export type DeviceSetting = keyof DeviceSettings;

/** What is known of a device’s memory, and what the player wants otherwise. */
export const settingsCopySchema = z.strictObject({
  /** As it was read last; null when it never was. */
  known: deviceSettingsSchema.nullable(),
  wanted: deviceSettingsSchema.partial(),
});
export type SettingsCopy = z.infer<typeof settingsCopySchema>;

/** The most settings of a rig that can be kept. */
export const MOST_PRESETS = 32;

/** Several devices’ settings, kept together. */
export const settingsPresetSchema = z.strictObject({
  name: z.string().trim().min(1).max(80),
  /** By device id. */
  settings: z.record(z.string(), deviceSettingsSchema),
});
export type SettingsPreset = z.infer<typeof settingsPresetSchema>;
