import { partsOfPlace } from '../model/rig/place.js';
import type { Device, PlanPoint } from '../model/rig/rig.js';
import { isBlackKey } from '../pitch/note-names.js';

/** How large a device is on the plan of the stage, cm. */
export interface Footprint {
  width: number;
  depth: number;
}

/** A part of a device that is drawn: where it lies on it, cm from its upper left corner. */
export interface PlanPart extends Footprint, PlanPoint {
  kind: 'whiteKey' | 'blackKey' | 'pad' | 'knob';
  /** The key, or the number of the pad or knob from 0. */
  number: number;
}

/** A device on the plan. */
export interface PlacedDevice extends Footprint, PlanPoint {
  device: Device;
  parts: readonly PlanPart[];
}

/** Width of a white key of a keyboard, and of a pedalboard’s, cm. */
const KEY_WIDTH = 2.35;
const PEDAL_WIDTH = 5.5;
/** Cm of case around keys. */
const SIDE = 9;
const PAD = 4.5;
const IN_A_ROW = 4;
const GAP = 12;
/** So that the names of pedals have room. */
const PEDALS_APART = 34;
/** Room at the right for cables and what is written beside the devices. */
const RIGHT = 40;

interface Row extends Footprint {
  parts: PlanPart[];
}

/** A device to scale, with its real number of keys, pads and knobs. */
export function drawnDevice(device: Device): { size: Footprint; parts: PlanPart[] } {
  switch (device.kind) {
    case 'keyboard':
      return keysOf(
        device.lowestKey,
        device.highestKey,
        partsOfPlace(device.place).kind === 'pedalboard',
      );
    case 'controlBox':
      return boxOf(device.padNotes.length, device.knobControllers.length);
    case 'pedal':
      return { size: { width: 9, depth: 20 }, parts: [] };
    case 'module':
      return { size: { width: 36, depth: 18 }, parts: [] };
  }
}

function keysOf(lowest: number, highest: number, forFeet: boolean) {
  const wide = forFeet ? PEDAL_WIDTH : KEY_WIDTH;
  const long = forFeet ? 34 : 14.5;
  const back = forFeet ? 6 : 8;
  const white: PlanPart[] = [];
  const black: PlanPart[] = [];
  let x = SIDE;
  for (let number = lowest; number <= highest; number++) {
    if (isBlackKey(number)) {
      const width = wide * 0.55;
      black.push({
        kind: 'blackKey',
        number,
        x: x - width / 2,
        y: back,
        width,
        depth: long * 0.62,
      });
    } else {
      white.push({ kind: 'whiteKey', number, x, y: back, width: wide, depth: long });
      x += wide;
    }
  }
  const size = { width: x + SIDE, depth: back + long + (forFeet ? 4 : 2.5) };
  return { size, parts: [...white, ...black] };
}

function boxOf(pads: number, knobs: number) {
  const knobRow = grid('knob', knobs, Math.max(IN_A_ROW, Math.min(8, knobs)), 3, 2.5);
  const top = knobs > 0 ? knobRow.depth + 3 : 2.5;
  const padRow = grid('pad', pads, IN_A_ROW, PAD, top);
  const width = Math.max(knobRow.width, padRow.width, 16);
  const depth = Math.max(top, pads > 0 ? padRow.depth : knobRow.depth) + 2.5;
  return { size: { width, depth }, parts: [...knobRow.parts, ...padRow.parts] };
}

function grid(kind: 'pad' | 'knob', count: number, across: number, side: number, top: number): Row {
  const step = side + 1;
  const parts = Array.from({ length: count }, (_, number): PlanPart => ({
    kind,
    number,
    x: 2.5 + (number % across) * step,
    y: top + Math.floor(number / across) * step,
    width: side,
    depth: side,
  }));
  const rows = Math.ceil(count / across);
  return { parts, width: 4 + Math.min(count, across) * step, depth: top + rows * step - 1 };
}

/**
 * Where the devices of a rig lie: as the player has put them, the rest in tiers from the audience to the player: keyboards one
 * before the other, boxes and modules at their right, pedals below.
 */
export function planOf(devices: readonly Device[]): PlacedDevice[] {
  const drawn = devices.map((device) => ({ device, ...drawnDevice(device) }));
  const widest = Math.max(0, ...drawn.filter(isTier).map(({ size }) => size.width));
  let tier = GAP;
  let beside = GAP;
  let pedals = GAP;
  const feet: PlacedDevice[] = [];
  const placed = drawn.map(({ device, size, parts }): PlacedDevice => {
    const lie = (point: PlanPoint): PlacedDevice => ({
      ...{ device, parts, ...size },
      ...(device.at ?? point),
    });
    if (isTier({ device })) {
      const at = { x: GAP + (widest - size.width) / 2, y: tier };
      tier += size.depth + GAP;
      return lie(at);
    }
    if (device.kind === 'pedal') {
      const pedal = lie({ x: pedals, y: 0 });
      pedals += size.width + PEDALS_APART;
      feet.push(pedal);
      return pedal;
    }
    const at = { x: widest + (widest > 0 ? GAP * 2 : GAP), y: beside };
    beside += size.depth + GAP;
    return lie(at);
  });
  const low = Math.max(tier, placed.length > feet.length ? beside : 0);
  for (const pedal of feet) if (pedal.device.at === null) pedal.y = Math.max(tier, low - 32);
  return placed;
}

function isTier({ device }: { device: Device }): boolean {
  return device.kind === 'keyboard';
}

/** The stage that holds everything of a plan, cm. */
export function stageOf(placed: readonly PlacedDevice[]): Footprint {
  return {
    width: Math.max(200, ...placed.map(({ x, width }) => x + width + RIGHT)),
    depth: Math.max(100, ...placed.map(({ y, depth }) => y + depth + GAP)),
  };
}
