import type { BandMoves } from '../model/patch/band-settings.js';
import type { Layer, Sends } from '../model/patch/layer.js';
import type { Patch } from '../model/patch/patch.js';
import type { Cue } from '../model/show/cue.js';
import type { BeatsPerMinute } from '../units/times.js';
import { withCue } from './recall.js';

/** What a layer does at this moment. */
export interface HeardLayer {
  level: number;
  muted: boolean;
  lift: boolean;
  sends: Sends;
}

/** What is heard at this moment: what the cue says, and what hands have moved since. */
export interface Heard {
  patchId: string;
  layers: Readonly<Record<string, HeardLayer>>;
  /** Treatments that are on, by id. */
  treatments: Readonly<Record<string, boolean>>;
  /** What choosers have picked, by their id. */
  choices: Readonly<Record<string, number>>;
  /** Where settings of accompanists were put, by the cue or by hand, by their id. */
  band: Readonly<Record<string, BandMoves>>;
  /** Where controllers were put, by the cue or by hand. */
  controllers: Cue['controllers'];
  tempo: BeatsPerMinute;
}

/** The patch with its cue, as it is heard when nobody has touched anything. */
export function heardOf(patch: Patch, cue: Cue | null, songTempo: BeatsPerMinute): Heard {
  const played = withCue(patch, cue);
  return {
    patchId: patch.id,
    layers: Object.fromEntries(played.layers.map((layer) => [layer.id, heardLayer(layer)])),
    treatments: Object.fromEntries(played.treatments.map(({ id, on }) => [id, on])),
    choices: Object.fromEntries(played.choosers.map(({ id, chosen }) => [id, chosen])),
    band: cue?.patchId === patch.id ? cue.band : {},
    controllers: cue?.controllers ?? [],
    tempo: cue?.tempo ?? songTempo,
  };
}

function heardLayer({ level, muted, lift, sends }: Layer): HeardLayer {
  return { level, muted, lift: lift.on, sends };
}
