import type { ControlTarget } from '../../model/patch/control-target.js';
import type { Patch } from '../../model/patch/patch.js';
import type { Layer } from '../../model/patch/layer.js';
import type { Cue } from '../../model/show/cue.js';
import type { Night } from '../../model/show/night.js';
import { FOUR_FOUR, type Song } from '../../model/show/song.js';
import type { LevelNow } from '../../routing/trace.js';
import type { CompiledPatch } from '../../routing/compile.js';
import { patchInPlay } from '../../routing/patch-in-play.js';
import { heardOf, type Heard } from '../../setlist/heard.js';
import { stepOfNumber } from '../../setlist/finding-songs.js';
import { fadeSecondsOf, tempoIn, withCue } from '../../setlist/recall.js';
import { songEntryOf, stepIndex, type Step } from '../../setlist/running-order.js';
import { songBeside, stepBeside, stepOfCue } from '../../setlist/step-asked-for.js';
import { songTonight } from '../../setlist/tonight.js';
import { patchOfAudition, type Audition } from './audition.js';
import type { MovedBand } from '../band/moved-band.js';
import { HandMutes } from '../hands/hand-mutes.js';
import { heardNow, levelsNow } from './heard-now.js';
import { MovedTonight } from './moved-tonight.js';
import type { Player } from '../notes/player.js';
import type { Played } from './played.js';
import { patchAt, patchOfStep, type NowPlaying, type ShowPlan } from './show-plan.js';
import type { Stage } from '../stage/stage.js';
import type { TiedControls } from '../hands/tied-controls.js';
import type { Timekeeping } from './timekeeping.js';

const NOBODY: ReadonlySet<string> = new Set();

/** Beats a minute where no song says otherwise. */
const USUAL_TEMPO = 100;

/** What plays what the runner asks for. */
export interface RunnerParts {
  player: Player;
  stage: Stage;
  controls: TiedControls;
  timekeeping: Pick<Timekeeping, 'take'>;
  /** Settings of accompanists, as hands have moved them. */
  band: Pick<MovedBand, 'moved' | 'recall'>;
  /** Chooses programs on instruments that no layer plays. */
  tellPrograms: (programs: Cue['programs']) => void;
}

/**
 * Plays the show: recalls cues, compiles patches, hands them to the player. It holds all it needs, so that going to the
 * next cue depends on no store, no server and no screen.
 */
export class ShowRunner {
  private plan: ShowPlan | null = null;
  private place: NowPlaying = {
    entryId: null,
    songId: null,
    cueId: null,
    patchId: null,
    soloed: new Set(),
    asCue: false,
    showtime: false,
  };
  private playingWith: readonly unknown[] = [];
  private compiled: CompiledPatch | null = null;
  private auditioned: Audition | null = null;
  private readonly hands = new HandMutes();
  private plays = 0;
  private readonly tonight = new MovedTonight();
  /** The tempo tapped since the present cue came, where the cue has one of its own; null for none. */
  private tapped: number | null = null;
  /** Told when a pad, pedal or key has brought the show to another step. */
  onStep: (step: Step, patchId: string | null) => void = () => undefined;
  /** Told of whatever is played from now on: another place, another patch, or the same one changed. */
  onPlay: (played: Played) => void = () => undefined;

  private readonly player: Player;
  private readonly stage: Stage;
  private readonly controls: TiedControls;
  private readonly timekeeping: Pick<Timekeeping, 'take'>;
  private readonly tellPrograms: RunnerParts['tellPrograms'];
  private readonly band: RunnerParts['band'];

  constructor({ player, stage, controls, timekeeping, tellPrograms, band }: RunnerParts) {
    this.band = band;
    this.tellPrograms = tellPrograms;
    this.player = player;
    this.stage = stage;
    this.controls = controls;
    this.timekeeping = timekeeping;
  }

  /** Is told when something is moved that holds for the night. */
  set onNight(told: (night: Night) => void) {
    this.tonight.onMove = told;
  }

  /** The patch as it is being played, for trace. */
  get current(): CompiledPatch | null {
    return this.compiled;
  }

  /** Whether a lift, mute, solo or treatment of the patch being played is on. */
  isOn(target: ControlTarget): boolean {
    const layers = this.compiled?.layers ?? [];
    if (target.kind === 'layer' && target.parameter === 'mute')
      return layers.some((l) => l.id === target.layerId && l.muted);
    if (target.kind === 'layer' && target.parameter === 'solo')
      return this.hands.soloed.has(target.layerId);
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

  /** Switches a lift, mute, solo or treatment while playing. */
  switchTo(target: ControlTarget, on: boolean): void {
    if (target.kind === 'treatment') this.player.switchTreatment(target.treatmentId, on);
    if (target.kind !== 'layer') return;
    const { layerId, parameter } = target;
    if (parameter === 'mute') {
      const layer = this.meantLayers().find(({ id }) => id === layerId);
      if (layer) this.hands.mute(layer, on);
    } else if (parameter === 'solo') this.hands.solo(layerId, on);
    else this.player.switchLift(layerId, on);
    // A lift is the player's own: nothing has to be worked out anew.
    if (parameter !== 'lift') this.play(false);
  }

  /** Nothing mutes or solos a layer any more: it is as it is meant, since nobody could bring it back. */
  letGoOf(target: ControlTarget): void {
    if (target.kind === 'layer') this.hands.letGo(target.layerId, target.parameter);
  }

  /** The layers of the patch that is played as its cue has them, without what hands have done since. */
  private meantLayers(): readonly Layer[] {
    const cue = this.cueInPlay();
    const patch = this.auditioned ? null : this.patchPlayed(cue);
    return patch ? withCue(patch, cue?.patchId === patch.id ? cue : null).layers : [];
  }

  /** Whether it plays at a place. */
  isAt({ entryId, songId, cueId }: Pick<NowPlaying, 'entryId' | 'songId' | 'cueId'>): boolean {
    const { place } = this;
    return entryId === place.entryId && songId === place.songId && cueId === place.cueId;
  }

  /** Takes over the plan and place of the desk. What already plays like that is left alone. */
  follow(plan: ShowPlan, place: NowPlaying): void {
    const before = this.place;
    const cueChanged =
      place.cueId !== before.cueId ||
      place.entryId !== before.entryId ||
      place.asCue !== before.asCue;
    if (place.entryId !== before.entryId) this.forgetHands();
    this.plan = plan;
    this.place = place;
    const { devices, show, ties } = plan;
    this.controls.setSources({ devices, show, rig: { ties } });
    this.play(cueChanged);
  }

  /** Recalls the present cue once more: what hands have moved since goes back, over the cue's fade. */
  recallAgain(): void {
    this.playingWith = [];
    this.forgetHands();
    this.play(true);
  }

  private forgetHands(): void {
    this.player.forgetSwitches();
    this.hands.forget();
  }

  /** Rises with everything that changes what is heard, so that views know when to ask for it. */
  get changes(): number {
    return this.plays + this.controls.changes;
  }

  /** Has whoever looks on told of what is played now, as if it had just begun. */
  tellPlay(): void {
    const { plan, place, compiled: patch } = this;
    if (plan) this.onPlay({ plan, place, patch, fadeSeconds: null });
  }

  /** What is heard at this moment; null while there is no patch, or something is tried out. */
  heard(): Heard | null {
    const cue = this.cueInPlay();
    const patch = this.auditioned ? null : this.patchPlayed(cue);
    const song = patch && this.songOf(patch);
    if (!patch) return null;
    const { controls, player, hands } = this;
    const meant = heardOf(patch, cue, song?.tempo ?? USUAL_TEMPO);
    return heardNow(meant, { controls, player, muted: hands.muted, band: this.band.moved });
  }

  /** Layers of the patch being played that stand otherwise than it or its cue has them, and what moved them, in words. */
  levelsNow(): Record<string, LevelNow> {
    return levelsNow(
      this.compiled?.layers ?? [],
      this.controls,
      this.plan?.devices ?? [],
      (id) => this.stage.levelOf(id),
      (id) => this.trimOf(id),
    );
  }

  /**
   * Works out the patches of the next step and the one before, so that going there waits for nothing. To be called when there
   * is time.
   */
  makeReady(): void {
    const { plan, place } = this;
    if (!plan || !place.asCue) return;
    const at = stepIndex(plan.steps, place);
    const beside = [plan.steps[at + 1], plan.steps[at - 1]] as (Step | undefined)[];
    for (const step of beside) {
      const patchId = step && patchOfStep(plan, step);
      const patch = patchId ? (plan.patches[patchId] as Patch | undefined) : undefined;
      const song = patch && plan.songs.get(patch.songId);
      if (!step || !patch || !song) continue;
      const tonight = songEntryOf(plan.show, step.entryId)?.tonight ?? null;
      const cue = step.cueId ? plan.cues[step.cueId] : null;
      patchInPlay(patch, {
        ...{ rig: plan.rig, patterns: plan.patterns, sounds: plan.sounds, cue, soloed: NOBODY },
        song: this.tonight.songAt(place, songTonight(song, tonight), step.entryId),
      });
    }
  }

  /** Plays a sound or a patch on every keyboard until it is asked to stop (null). */
  audition(audition: Audition | null): void {
    this.auditioned = audition;
    this.play(false);
  }

  /** Seconds for which a control has to rest before it is heard again. */
  get guardSeconds(): number {
    return this.plan?.show.going.guardSeconds ?? 0;
  }

  /** Goes on by one step, or back. After the last one it stays, or begins anew, as the show has it; false when it stays. */
  move(by: 1 | -1): boolean {
    return this.goToStep(({ steps, show }) => stepBeside(steps, this.place, by, show.going.atEnd));
  }

  /** Goes to the first step of the next song of the night, or of the one before; false when there is none. */
  moveSong(by: 1 | -1): boolean {
    return this.goToStep(({ steps, show }) => songBeside(steps, this.place, by, show.going.atEnd));
  }

  /** Goes to a cue of a song, or to its first step, in the place of the night that it has next; false when it is not in the show. */
  goTo(songId: string, cueId: string | null): boolean {
    return this.goToStep(({ steps }) => stepOfCue(steps, this.place, songId, cueId));
  }

  /** Goes to the song of a number: its own, else its place in the night; false when there is none. */
  chooseSong(number: number): boolean {
    return this.goToStep(({ steps, songs }) => stepOfNumber(steps, songs, number));
  }

  /** Goes to the step of the show that is asked for, counted from 0; false when there is none. */
  goToStep(which: (plan: ShowPlan) => number): boolean {
    const { plan } = this;
    if (!plan) return false;
    const step = plan.steps[which(plan)] as Step | undefined;
    if (!step) return false;
    const patchId = patchOfStep(plan, step);
    const { entryId, songId, cueId } = step;
    if (entryId !== this.place.entryId) this.forgetHands();
    this.place = { ...this.place, entryId, songId, cueId, patchId, soloed: new Set() };
    this.play(true);
    this.onStep(step, patchId);
    return true;
  }

  /** What holds for this night alone. */
  get night(): Night {
    return this.tonight.night;
  }

  /** Takes a night over, as after a reload. */
  takeNight(night: Night): void {
    this.tonight.take(night);
    this.play(false);
    this.trimStage();
  }

  /** dB by which a layer of the patch being played is trimmed. */
  trimOf(layerId: string): number {
    return this.tonight.trimsAt(this.place, this.compiled?.id).get(layerId) ?? 0;
  }

  /** Trims a layer of the patch being played by so many dB for the night; nothing outside of Showtime. */
  trim(layerId: string, by: number): void {
    const patchId = this.compiled?.id;
    if (patchId === undefined) return;
    if (this.tonight.trim(this.place, patchId, layerId, by)) this.trimStage();
  }

  private trimStage(): void {
    this.stage.trim(this.tonight.trimsAt(this.place, this.compiled?.id));
  }

  /** Sounds semitones higher or lower for the night; false outside of Showtime and at the ends. */
  transpose(by: number): boolean {
    const isMoved = this.tonight.transpose(this.place, by);
    this.play(false);
    return isMoved;
  }

  /** Takes another tempo, beats per minute: in Showtime for the night, unless the cue has one of its own; else until the next cue. */
  setTempo(tempo: number): void {
    const isCues = (this.cueInPlay()?.tempo ?? null) !== null;
    if (isCues || !this.tonight.setTempo(this.place, tempo)) this.tapped = tempo;
    this.play(false);
  }

  /** The song of a patch as it is played now: with what is otherwise tonight. */
  private songOf(patch: Patch): Song | null {
    const { plan, place } = this;
    const song = plan?.songs.get(patch.songId);
    if (!plan || !song) return null;
    const entry = songEntryOf(plan.show, place.entryId);
    const isHere = entry?.songId === song.id;
    const tonight = songTonight(song, isHere ? entry.tonight : null);
    return isHere ? this.tonight.songAt(place, tonight, entry.id) : tonight;
  }

  /** The cue that is played with its balance; null while a patch is played as it is written. */
  private cueInPlay(): Cue | null {
    const { plan, place } = this;
    if (!plan || !place.asCue || !place.cueId || this.auditioned) return null;
    return plan.cues[place.cueId] ?? null;
  }

  /** The patch that is played; where the cue's own is gone, the first of its song. */
  private patchPlayed(cue: Cue | null): Patch | null {
    return this.plan && patchAt(this.plan, this.place, cue);
  }

  private play(cueChanged: boolean): void {
    const { plan, place } = this;
    if (!plan) return;
    const { auditioned } = this;
    const cue = this.cueInPlay();
    const patch = auditioned ? patchOfAudition(auditioned) : this.patchPlayed(cue);
    const song = patch && this.songOf(patch);
    if (cueChanged) this.tapped = null;
    const tempo = this.tapped ?? (song ? tempoIn(song, cue) : USUAL_TEMPO);
    this.hands.follow(patch?.id ?? null, this.meantLayers());
    const soloed = this.hands.soloedWith(place.soloed);
    const { muted, soloed: solos } = this.hands;
    const inPlay =
      patch &&
      patchInPlay(patch, {
        ...{ rig: plan.rig, song, cue, soloed, muted },
        ...{ patterns: plan.patterns, sounds: plan.sounds },
      });
    const inputs = [
      place.entryId,
      auditioned ?? inPlay,
      tempo,
      cue,
      plan.rig,
      plan.sounds,
      plan.patterns,
      plan.show.defaultFadeSeconds,
      place.showtime,
      song?.ties,
    ];
    // The same cue in another place of the night is recalled anew.
    const isRecalled = cueChanged && cue !== null;
    if (!isRecalled && inputs.every((input, i) => input === this.playingWith[i])) return;
    this.playingWith = inputs;
    this.plays++;
    if (!inPlay) {
      this.compiled = null;
      this.controls.take(null);
      this.player.take(null, plan.show.heldNotes);
      this.onPlay({ plan, place, patch: null, fadeSeconds: null });
      return;
    }
    const { patch: played, compiled } = inPlay;
    const seconds = cue && cueChanged ? fadeSecondsOf(cue, plan.show.defaultFadeSeconds) : null;
    // What is tried out is in nobody's time: a band that plays on keeps its own.
    if (!auditioned) this.timekeeping.take(tempo, song?.metre ?? FOUR_FOUR);
    if (cueChanged && cue) {
      this.band.recall(cue.band);
      this.player.forgetSwitches([
        ...Object.keys(cue.treatments),
        ...Object.keys(cue.choices),
        ...Object.keys(cue.balance).filter((id) => cue.balance[id].lift !== undefined),
      ]);
    }
    if (cueChanged) this.player.clock.restart();
    if (cueChanged && cue) this.tellPrograms(cue.programs);
    const positions = cue?.controllers ?? [];
    // Before controls are put where the hands are: what is on already is asked of the patch as it plays now.
    this.compiled = compiled;
    const trims = this.tonight.trimsAt(place, compiled.id);
    this.stage.prepare(compiled, played, plan.sounds, seconds, positions, trims);
    // Before anything sounds of it: what is held already may begin anew at once.
    this.onPlay({ plan, place, patch: compiled, fadeSeconds: seconds });
    this.player.take(compiled, plan.show.heldNotes);
    this.controls.take(played, song?.ties);
    if (seconds !== null) this.controls.recall(positions);
    // A tie that went has let go of what it had muted.
    if (this.hands.muted !== muted || this.hands.soloed !== solos) this.play(false);
  }
}
