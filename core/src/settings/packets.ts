import * as z from 'zod';
import {
  deviceSettingsSchema,
  strokeCurveSchema,
  type DeviceSettings,
} from '../model/rig/device-settings.js';

/**
 * Settings over exclusive messages of the manufacturer ID that is free for non-commercial use, 7D (*MIDI 1.0 Detailed
 * Specification*). Behind the ID, and before the checksum:
 *
 * 50 · command · number of the exchange · packet · of how many · payload
 *
 * The checksum makes the sum of everything behind the ID a multiple of 128. A payload is a run of settings, each its number,
 * how many values follow, and these.
 */
export const MANUFACTURER = 0x7d;
const OURS = 0x50;
/** Bytes of payload in one packet. */
export const PACKET_BYTES = 8;

export const PACKET = { write: 0x01, read: 0x02, dump: 0x03, done: 0x41, refused: 0x42 } as const;
export type Command = (typeof PACKET)[keyof typeof PACKET];

/** One packet, as it is read. */
export interface Packet {
  command: Command;
  exchange: number;
  packet: number;
  of: number;
  payload: readonly number[];
}

const sevenBits = z.number().int().min(0).max(127);
const packetSchema = z.object({
  command: z.enum(PACKET),
  exchange: sevenBits,
  packet: sevenBits,
  of: sevenBits.min(1),
  payload: z.array(sevenBits),
});

/** Why bytes are no packet. */
export type PacketFault = 'not ours' | 'wrong checksum' | 'unreadable';

/** A packet as a whole exclusive message, F0 … F7. `spoilt` makes its checksum wrong. */
export function packetBytes(
  { command, exchange, packet, of, payload }: Packet,
  spoilt = false,
): number[] {
  const body = [OURS, command, exchange, packet, of, ...payload];
  const checksum = checksumOf(body);
  return [0xf0, MANUFACTURER, ...body, spoilt ? checksum ^ 1 : checksum, 0xf7];
}

/** Reads what stands between F0 and F7. */
export function readPacket(bytes: ArrayLike<number>): Packet | PacketFault {
  const all = Array.from(bytes);
  if (all[0] !== MANUFACTURER || all[1] !== OURS || all.length < 7) return 'not ours';
  const body = all.slice(1, -1);
  if (checksumOf(body) !== all.at(-1)) return 'wrong checksum';
  const [, command, exchange, packet, of, ...payload] = body;
  const read = packetSchema.safeParse({ command, exchange, packet, of, payload });
  return read.success ? read.data : 'unreadable';
}

function checksumOf(bytes: readonly number[]): number {
  return (128 - (bytes.reduce((sum, byte) => sum + byte, 0) % 128)) % 128;
}

/** A payload cut into packets; at least one, even if it is empty. */
export function inPackets(
  command: Command,
  exchange: number,
  payload: readonly number[],
): Packet[] {
  const of = Math.max(1, Math.ceil(payload.length / PACKET_BYTES));
  return Array.from({ length: of }, (_, packet) => ({
    ...{ command, exchange, packet, of },
    payload: payload.slice(packet * PACKET_BYTES, (packet + 1) * PACKET_BYTES),
  }));
}

const NUMBERS = {
  sendsOn: 1,
  octave: 2,
  curve: 3,
  local: 4,
  padNotes: 5,
  padSensitivity: 6,
  knobControllers: 7,
} as const satisfies Record<keyof DeviceSettings, number>;
const OCTAVE_ZERO = 64;

/** Settings as seven-bit bytes. */
export function settingsPayload(settings: DeviceSettings): number[] {
  const values: Record<keyof DeviceSettings, readonly number[]> = {
    sendsOn: settings.sendsOn.map((channel) => channel - 1),
    octave: [OCTAVE_ZERO + settings.octave],
    curve: [strokeCurveSchema.options.indexOf(settings.curve)],
    local: [settings.local ? 1 : 0],
    padNotes: settings.padNotes,
    padSensitivity: settings.padSensitivity,
    knobControllers: settings.knobControllers,
  };
  return Object.entries(NUMBERS).flatMap(([name, number]) => {
    const own = values[name as keyof DeviceSettings];
    return [number, own.length, ...own];
  });
}

/** Reads settings; null for bytes that are none. */
export function readSettings(payload: readonly number[]): DeviceSettings | null {
  const values = new Map<number, readonly number[]>();
  for (let at = 0; at < payload.length;) {
    const length = payload.at(at + 1) ?? -1;
    const own = payload.slice(at + 2, at + 2 + length);
    if (length < 0 || own.length < length) return null;
    values.set(payload[at], own);
    at += 2 + length;
  }
  const list = (name: keyof DeviceSettings) => values.get(NUMBERS[name]) ?? [];
  const read = deviceSettingsSchema.safeParse({
    sendsOn: list('sendsOn').map((index) => index + 1),
    octave: (list('octave').at(0) ?? -1) - OCTAVE_ZERO,
    curve: strokeCurveSchema.options.at(list('curve').at(0) ?? Infinity),
    local: list('local').at(0) === 1,
    padNotes: [...list('padNotes')],
    padSensitivity: [...list('padSensitivity')],
    knobControllers: [...list('knobControllers')],
  });
  return read.success ? read.data : null;
}
