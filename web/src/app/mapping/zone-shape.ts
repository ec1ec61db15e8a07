import { shortName, type Recording, type SampleZone } from '@pentachord/core/model';
import {
  boxOf,
  contours,
  xOfKey,
  yOfVelocity,
  type Box,
  type FieldScale,
} from '../ui/field/field-geometry';
import { layerMark } from '../ui/layer-colours';

/** What decides how a zone is drawn. */
export interface ZoneAbout {
  zone: SampleZone;
  scale: FieldScale;
  /** Which strength it is. */
  rank: number;
  recording: Recording | undefined;
  label: string;
  isSelected: boolean;
  isHatched: boolean;
}

/** A zone as it is drawn on the chart, in pixels. */
export interface ZoneShape {
  id: string;
  about: ZoneAbout;
  box: Box;
  colour: string;
  /** Name of its recording, and what there is room for of it. */
  name: string;
  label: string;
  loudness: string;
  /** Where the label stands: below what fades into the zone above. */
  top: number;
  root: number;
  isRootInside: boolean;
  contours: string;
}

/** A zone with what it was drawn from; no shape where none of it is on the chart. */
export interface ZoneDrawn {
  about: ZoneAbout;
  shape: ZoneShape | null;
}

/** Room that a label and a loudness need, and what a letter takes, pixels. */
const LABEL = { wide: 64, high: 34, loudness: 92, letter: 7.2, beside: 12 };
/** Zones that lie over one another and are still hatched. */
const HATCHED = 2;

/** Whether a zone would be drawn the same. */
export function isSame(one: ZoneAbout, other: ZoneAbout): boolean {
  return (
    one.zone === other.zone &&
    one.scale === other.scale &&
    one.rank === other.rank &&
    one.recording === other.recording &&
    one.label === other.label &&
    one.isSelected === other.isSelected &&
    one.isHatched === other.isHatched
  );
}

/** How a zone is drawn; null where none of it is on the chart. */
export function shapeOf(about: ZoneAbout): ZoneShape | null {
  const { zone, scale, recording, rank } = about;
  const box = boxOf(scale, zone);
  if (!box) return null;
  const root = xOfKey(scale, zone.root + 0.5);
  const isLabelled = box.width > LABEL.wide && box.height > LABEL.high;
  const loudness = recording ? recording.heard.lufs + zone.gain : null;
  return {
    ...{ id: zone.id, about, box, colour: layerMark(rank).day },
    name: recording ? shortName(recording) : 'missing',
    label: isLabelled ? fitted(about.label, box.width) : '',
    loudness:
      isLabelled && loudness !== null && box.width > LABEL.loudness
        ? `${loudness.toFixed(1).replace('-', '−')} LUFS`
        : '',
    top: yOfVelocity(scale, zone.velocities.high + 1 - zone.velocities.fadeOut),
    root: Math.min(box.x + box.width - 5, Math.max(box.x + 5, root)),
    isRootInside: root >= box.x && root <= box.x + box.width,
    contours: [
      ...contours(zone.keys).map((at) => `M${xOfKey(scale, at)} ${box.y}v${box.height}`),
      ...contours(zone.velocities).map((at) => `M${box.x} ${yOfVelocity(scale, at)}h${box.width}`),
    ].join(''),
  };
}

function fitted(label: string, width: number): string {
  const letters = Math.floor((width - LABEL.beside) / LABEL.letter);
  return label.length > letters ? `${label.slice(0, letters - 1)}…` : label;
}

/** Zones that lie over two others and more. */
export function crowdedAmong(zones: readonly SampleZone[]): ReadonlySet<string> {
  const crowded = new Set<string>();
  zones.forEach(({ id, keys, velocities }, at) => {
    let under = 0;
    for (let i = 0; i < at && under < HATCHED; i++) {
      const other = zones[i];
      if (
        other.keys.low <= keys.high &&
        other.keys.high >= keys.low &&
        other.velocities.low <= velocities.high &&
        other.velocities.high >= velocities.low
      )
        under++;
    }
    if (under >= HATCHED) crowded.add(id);
  });
  return crowded;
}
