import type { Sound } from '../model/library/sound.js';
import type { ControlTarget } from '../model/patch/control.js';
import { newLayer } from '../model/patch/layer.js';
import { newPatch, type Patch, type PatchSound } from '../model/patch/patch.js';
import type { Device } from '../model/rig/rig.js';
import type { Cue } from '../model/show/cue.js';
import type { Show } from '../model/show/show.js';
import type { Song } from '../model/show/song.js';
import type { CompiledPatch, CompiledRig } from '../routing/compile.js';
import { patchInPlay } from '../routing/patch-in-play.js';
import { fadeSecondsOf } from '../setlist/recall.js';
import { stepIndex, type Step } from '../setlist/running-order.js';
import type { Player } from './player.js';
import type { Stage } from './stage.js';
import type { TiedControls } from './tied-controls.js';

/** Everything that can be played, as it stands now. Replaced as a whole when anything changes. */
export interface ShowPlan {
  show: Show;
  devices: readonly Device[];
  rig: CompiledRig;
  songs: ReadonlyMap<string, Song>;
  patches: Readonly<Record<string, Patch>>;
  cues: Readonly<Record<string, Cue>>;
  sounds: ReadonlyMap<string, Sound>;
  steps: readonly Step[];
}

/** Where the player is, and how the desk or Showtime wants it played. */
export interface NowPlaying {
  songId: string | null;
  cueId: string | null;
  /** The patch on the desk. */
  patchId: string | null;
  soloed: ReadonlySet<string>;
  /** In Showtime cues are played with their balance; on the desk patches are played as they are written. */
  showtime: boolean;
}

/** A sound to be tried out on every keyboard, in place of the patch. */
export interface Audition {
  sound: PatchSound;
  /** Semitones. */
  transpose: number;
}

/** Beats a minute where no song says otherwise. */
const USUAL_TEMPO = 100;

/**
 * Plays the show: recalls cues, compiles patches, hands them to the player. It holds all it needs, so that going to the
 * next cue depends on no store, no server and no screen.
 */
export class ShowRunner {
  private plan: ShowPlan | null = null;
  private place: NowPlaying = {
    songId: null,
    cueId: null,
    patchId: null,
    soloed: new Set(),
    showtime: false,
  };
  private playingWith: readonly unknown[] = [];
  private compiled: CompiledPatch | null = null;
  private auditioned: Audition | null = null;
  /** Told when a pad, pedal or key has brought the show to another step. */
  onStep: (step: Step, patchId: string | null) => void = () => undefined;

  constructor(
    private readonly player: Player,
    private readonly stage: Stage,
    private readonly controls: TiedControls,
  ) {}

  /** The patch as it is being played, for trace. */
  get current(): CompiledPatch | null {
    return this.compiled;
  }

  /** Whether a lift or a treatment of the patch being played is on. */
  isOn(target: ControlTarget): boolean {
    const layers = this.compiled?.layers ?? [];
    if (target.kind === 'layer')
      return (
        this.player.switchedTo(target.layerId) ??
        layers.some((l) => l.id === target.layerId && l.source.lift.on)
      );
    if (target.kind !== 'treatment') return false;
    return (
      this.player.switchedTo(target.treatmentId) ??
      layers.some((l) => l.treatments.some((t) => t.id === target.treatmentId && t.on))
    );
  }

  /** Switches a lift or a treatment while playing. */
  switchTo(target: ControlTarget, on: boolean): void {
    if (target.kind === 'treatment') this.player.switchTreatment(target.treatmentId, on);
    else if (target.kind === 'layer') this.player.switchLift(target.layerId, on);
  }

  /** Takes over the plan and place of the desk. What already plays like that is left alone. */
  follow(plan: ShowPlan, place: NowPlaying): void {
    const cueChanged = place.cueId !== this.place.cueId || place.showtime !== this.place.showtime;
    this.plan = plan;
    this.place = place;
    this.play(cueChanged);
  }

  /** Plays a sound on every keyboard until it is asked to stop (null). */
  audition(audition: Audition | null): void {
    this.auditioned = audition;
    this.play(false);
  }

  /** Plays what it plays from the beginning: what carries it out has forgotten everything. */
  playAnew(): void {
    this.playingWith = [];
    this.play(false);
  }

  /** Goes on by one step, or back; stays where it is at the ends. */
  move(by: 1 | -1): void {
    const { plan, place } = this;
    if (!plan) return;
    const at = place.songId === null ? -1 : stepIndex(plan.steps, place.songId, place.cueId);
    const step = plan.steps.at(Math.max(0, at + by));
    if (!step || at + by >= plan.steps.length || at + by < 0) return;
    const patchId = this.patchOf(step);
    this.place = { ...place, songId: step.songId, cueId: step.cueId, patchId, soloed: new Set() };
    this.play(true);
    this.onStep(step, patchId);
  }

  private patchOf(step: Step): string | null {
    const { plan } = this;
    const cue = step.cueId ? plan?.cues[step.cueId] : null;
    if (cue) return cue.patchId;
    const patches = Object.values(plan?.patches ?? {}).filter((p) => p.songId === step.songId);
    return patches.sort((a, b) => a.position - b.position).at(0)?.id ?? null;
  }

  private play(cueChanged: boolean): void {
    const { plan, place } = this;
    if (!plan) return;
    const { auditioned } = this;
    const cue =
      place.showtime && place.cueId && !auditioned ? (plan.cues[place.cueId] ?? null) : null;
    const patchId = cue?.patchId ?? place.patchId;
    const patch = auditioned
      ? patchOfAudition(auditioned)
      : patchId
        ? (plan.patches[patchId] ?? null)
        : null;
    const song = patch ? (plan.songs.get(patch.songId) ?? null) : null;
    const tempo = song?.tempo ?? USUAL_TEMPO;
    const inPlay = patch && patchInPlay(patch, { rig: plan.rig, song, cue, soloed: place.soloed });
    const inputs = [
      auditioned ?? inPlay,
      tempo,
      cue,
      plan.rig,
      plan.sounds,
      plan.show.defaultFadeSeconds,
    ];
    if (inputs.every((input, i) => input === this.playingWith[i]) && this.playingWith.length > 0)
      return;
    this.playingWith = inputs;
    if (!inPlay) {
      this.compiled = null;
      this.controls.take(null);
      this.player.take(null, plan.show.heldNotes);
      return;
    }
    const { patch: played, compiled } = inPlay;
    const seconds = cue && cueChanged ? fadeSecondsOf(cue, plan.show.defaultFadeSeconds) : null;
    this.player.clock.tempo = tempo;
    if (cueChanged) this.player.clock.restart();
    const positions = cue?.controllers ?? [];
    this.stage.prepare(compiled, played, plan.sounds, seconds, positions);
    this.player.take(compiled, plan.show.heldNotes);
    // Before controls are put where the hands are: what is on already is asked of the patch as it plays now.
    this.compiled = compiled;
    this.controls.take(played);
    if (seconds !== null) this.controls.recall(positions);
  }
}

function patchOfAudition({ sound, transpose }: Audition): Patch {
  const layer = { ...newLayer('audition', 'Audition', sound.id), transpose };
  return { ...newPatch('audition', 'audition', 0, 'Audition'), sounds: [sound], layers: [layer] };
}
