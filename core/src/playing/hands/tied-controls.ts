import { CONTROL_CHANGE, NOTE_OFF, NOTE_ON } from '../../midi/messages.js';
import {
  isPress,
  isSwitch,
  isWhole,
  keyOfTarget,
  settingOf,
  travels,
  type LayerSetting,
} from '../../model/patch/control-target.js';
import { choiceAt } from '../../model/patch/chooser.js';
import type { Patch } from '../../model/patch/patch.js';
import type { Tie } from '../../model/patch/tie.js';
import type { Place } from '../../model/rig/place.js';
import { isInForce, jobsNow, type Job } from '../../ties/in-force.js';
import { FINE_FROM, isRelative, readingAt, stepsOf } from '../../ties/reading.js';
import { putValue, towards, valueAt } from '../../ties/travel.js';
import type { Seconds } from '../../units/times.js';
import { ChooserControls } from './chooser-controls.js';
import type { ControlOutput, JobState, MovedSetting, TieSources } from './control-output.js';
import { ALONE, ControlPositions, IN_PAIR } from './control-positions.js';
import type { ControllerPosition } from '../../model/show/cue.js';
import { PickUps } from './pick-ups.js';
import { follows, ReadyTies, type ReadyTie } from './ready-ties.js';
import { struckValue } from './struck-value.js';
import { turnedValue } from './turned-value.js';

/**
 * Controllers, pads, keys, wheels and aftertouch tied to settings: by the patch, by the song, by the rig; the nearer wins.
 * Where a controller stands is remembered. What a cue, the desk or another patch sets stays until the hand has come by there,
 * unless the tie says otherwise: it picks the setting up instead of tearing it away.
 */
export class TiedControls {
  private patch: Patch | null = null;
  private songTies: readonly Tie[] = [];
  private sources: TieSources = { devices: [], show: null, rig: null };
  private ready = new ReadyTies([], []);
  private readonly choosers: ChooserControls;
  private readonly positions = new ControlPositions();
  private readonly pickUps = new PickUps();
  /** Settings that hands have moved since a cue or the desk put them somewhere, by their target. */
  private readonly moved = new Map<string, MovedSetting>();
  /** Controllers that move timbre or pan, and those that the cue has put somewhere: where they are taken to stand. */
  private readonly standing = new Map<number, number>();
  /** Places whose octave a control has moved. */
  private readonly shifted = new Set<Place>();
  private isAnother = true;
  private movements = 0;
  /** Where the control stands that is moved now, and stood before: a fraction that is handed over would be an object. */
  private readonly at = new Float64Array(2);
  private time: Seconds = 0;

  constructor(private readonly output: ControlOutput) {
    this.choosers = new ChooserControls(output);
  }

  /** Rises with everything that a hand or a cue moves here, so that views know when to look. */
  get changes(): number {
    return this.movements + this.choosers.changes;
  }

  /** Settings that hands have moved since a cue or the desk put them somewhere. */
  get movedSettings(): Iterable<MovedSetting> {
    return this.moved.values();
  }

  /** Where controllers stand that a cue may recall: those it has put somewhere, and those tied to timbre and pan. */
  get positionsToRecall(): ControllerPosition[] {
    return [...this.standing]
      .map(([controller, value]) => ({ controller, value: Math.round(value) }))
      .sort((a, b) => a.controller - b.controller);
  }

  /** Where a job’s control stands, and what it moves. */
  stateOf({ sent, task }: Job): JobState {
    const id = sent ? this.sources.devices.at(sent.device)?.id : undefined;
    if (!sent || id === undefined) return { position: -1, waits: false, value: null };
    const tie = task.kind === 'tie' ? task.tie : null;
    const one = tie && this.ready.find(tie.id);
    const reads = tie ? readingAt(tie.reads, sent.kind, sent.number) : 'position';
    return {
      position: this.positions.readAs(reads, id, sent.kind, sent.number),
      waits: tie !== null && this.pickUps.waits(tie.id),
      value: one ? this.stateOfTarget(one) : null,
    };
  }

  private stateOfTarget(one: ReadyTie): number | boolean | null {
    if (isPress(one.target) || one.target.kind === 'choose') return null;
    return isSwitch(one.target) ? this.output.isOn(one.target) : this.valueOf(one);
  }

  /** Takes the rig and the show, at which controls are found by their places. */
  setSources(sources: TieSources): void {
    const { devices, show, rig } = this.sources;
    const isSame =
      sources.devices === devices &&
      sources.show?.controls === show?.controls &&
      sources.rig?.ties === rig?.ties;
    if (isSame) return;
    this.sources = sources;
    this.makeReady();
    this.putOctavesBack();
    this.waitForHands(this.ready.all);
  }

  /**
   * Takes the patch being played, and the ties of its song. In another patch what picks up waits for the hands, and everything
   * else goes where they have left it; in the same one, after a cue or an edit, all stays where those have put it.
   */
  take(patch: Patch | null, songTies: readonly Tie[] = []): void {
    const before = this.patch;
    const readyBefore = this.ready;
    const another = before?.id !== patch?.id;
    this.patch = patch;
    this.songTies = songTies;
    this.makeReady(another);
    this.isAnother = another;
    this.movements++;
    if (another) {
      this.pickUps.clear();
      this.moved.clear();
      this.standing.clear();
      this.waitForHands(this.ready.all);
      for (const one of this.ready.all) if (!this.pickUps.waits(one.tie.id)) this.assert(one);
    } else if (before && patch) {
      this.waitForHands(this.ready.all.filter(({ tie }) => !readyBefore.has(tie.id)));
      for (const { tie, target, key } of this.ready.all) {
        const setting = settingOf(target, patch);
        if (setting === null || setting === settingOf(target, before)) continue;
        if (tie.pickUp) this.pickUps.wait(tie.id, setting);
        this.moved.delete(key);
      }
    }
    this.putOctavesBack();
  }

  /**
   * A cue puts controllers where it says: what is tied to them follows, until the hand picks it up. What hands have moved in
   * the same patch before goes back to where the cue has it; the stage has seen to levels and sends.
   */
  recall(positions: readonly ControllerPosition[]): void {
    // In another patch hands have just put what is tied to them where they stand; here that is taken back.
    if (!this.isAnother) {
      this.putBack();
      this.standing.clear();
    }
    for (const { controller, value } of positions) this.standing.set(controller, value);
    for (const { controller, value } of positions)
      for (const one of this.ready.all) {
        if (one.kind !== CONTROL_CHANGE || one.number !== controller || !follows(one)) continue;
        this.follow(one, value);
        if (one.tie.pickUp && !isSwitch(one.target))
          this.pickUps.wait(one.tie.id, valueAt(one.tie, value));
      }
  }

  /** True for a control that the patch or the song has taken, so that it does nothing for the show. */
  isNearer(device: number, status: number, data1: number): boolean {
    const kind = status & 0xf0;
    return this.ready.isNearer(device, kind === NOTE_OFF ? NOTE_ON : kind, data1);
  }

  /** Remembers where a control stands that something else has used. */
  seen(device: number, status: number, data1: number, data2: number): void {
    const id = this.sources.devices.at(device)?.id;
    if (id !== undefined) this.positions.take(id, status & 0xf0, data1, data2);
  }

  /** A device has gone: what it held is let go, and where its controls stand is not known any more. */
  deviceGone(device: number): void {
    const source = this.sources.devices.at(device);
    if (!source) return;
    for (const one of this.ready.all) {
      if (one.deviceId !== source.id) continue;
      if (one.held.down) this.press(one, false, 0);
      // A foot has come off its pedal; a knob stays where it was put.
      else if (source.kind === 'pedal' && isSwitch(one.target) && follows(one)) this.follow(one, 0);
    }
    this.choosers.deviceGone(device);
    this.positions.forget(source.id);
  }

  /** A message from a device of the rig, by its index; true when it was a pad or key that is tied, which then plays nothing. */
  message(
    device: number,
    status: number,
    data1: number,
    data2: number,
    time: Seconds = 0,
  ): boolean {
    this.time = time;
    const kind = status & 0xf0;
    const picked = this.choosers.message(device, kind, data1, data2);
    if (kind === NOTE_ON || kind === NOTE_OFF) {
      const struck = this.ready.of(device, NOTE_ON, data1);
      const velocity = kind === NOTE_ON ? data2 : 0;
      if (struck) for (const one of struck) this.press(one, velocity > 0, velocity);
      return picked || struck !== undefined;
    }
    const id = this.sources.devices.at(device)?.id;
    if (id === undefined) return picked;
    const { positions } = this;
    positions.take(id, kind, data1, data2);
    if (kind === CONTROL_CHANGE && this.standing.has(data1)) {
      this.standing.set(data1, data2);
      this.movements++;
    }
    for (const one of this.ready.of(device, kind, data1) ?? NONE)
      if (one.reads === 'fine') this.moveTo(one, IN_PAIR);
      else if (isRelative(one.reads)) this.turn(one, stepsOf(one.reads, data2));
      else this.moveTo(one, ALONE);
    const isFiner = kind === CONTROL_CHANGE && data1 >= FINE_FROM && data1 < 2 * FINE_FROM;
    // Alone, before a coarse one has come, the finer number says nothing.
    if (isFiner && positions.moved[IN_PAIR] >= 0)
      for (const one of this.ready.of(device, kind, data1 - FINE_FROM) ?? NONE)
        if (one.reads === 'fine') this.moveTo(one, IN_PAIR);
    return picked;
  }

  /** A control has come to where the last message has moved it, alone or in its pair. */
  private moveTo(one: ReadyTie, which: number): void {
    const { moved } = this.positions;
    const { at } = this;
    at[0] = moved[which];
    at[1] = moved[which + 1];
    if (!follows(one)) this.press(one, at[0] >= 64, Math.round(at[0]));
    else if (!this.pickUps.waits(one.tie.id) || this.pickUps.isPickedUp(one.tie, at[1], at[0]))
      this.followHand(one);
  }

  /** A setting goes where its control stands, 0–127. */
  private follow(one: ReadyTie, position: number): void {
    this.at[0] = position;
    this.followHand(one);
  }

  private followHand(one: ReadyTie): void {
    const { target, tie, kind, number } = one;
    const position = this.at[0];
    if (isSwitch(target)) {
      this.movements++;
      const on = position >= 64;
      if (this.output.isOn(target) !== on) this.output.switchTo(target, on, tie.begins);
      return;
    }
    if (target.kind === 'choose') {
      const chooser = this.patch?.choosers.at(target.chooser);
      if (chooser) this.choosers.pick(chooser, choiceAt(position, chooser.choices.length));
      return;
    }
    const isRecalled =
      target.kind === 'sound' || (target.kind === 'layer' && target.parameter === 'pan');
    if (isRecalled && kind === CONTROL_CHANGE && one.reads === 'position')
      this.standing.set(number, position);
    putValue(tie, this.at);
    one.moved.value = this.at[0];
    this.set(one);
  }

  /** An endless knob was turned by so many steps to the right: what it moves goes on from where it is. */
  private turn(one: ReadyTie, steps: number): void {
    const { target, tie } = one;
    if (steps === 0) return;
    if (isPress(target)) this.pressed(one);
    else if (isSwitch(target)) this.follow(one, steps > 0 ? 127 : 0);
    else {
      const now = this.valueOf(one);
      if (now === null) return;
      // Turned the other way it begins anew: what was asked for beyond an end is no debt.
      one.pending = (Math.sign(one.pending) === Math.sign(steps) ? one.pending : 0) + steps;
      if (isWhole(target)) one.moved.value = towards(tie, now, Math.sign(steps));
      else one.moved.value = turnedValue(tie, now, one.pending);
      this.set(one);
      // What is rounded away is not lost: it counts with the next step.
      if (this.valueOf(one) !== now) one.pending = 0;
    }
  }

  /** A pad, key, pedal or button goes down or comes up; `how` hard or far, 0–127. */
  private press(one: ReadyTie, isDown: boolean, how: number): void {
    const wasDown = one.held.down;
    one.held.down = isDown;
    const { target, tie } = one;
    const holds = tie.acts === 'holds' && !isPress(target);
    if (isDown === wasDown && !(one.isStruck && isDown)) return;
    if (!isDown) {
      if (!holds) return;
      if (isSwitch(target)) this.follow(one, 0);
      else {
        one.moved.value = valueAt(tie, 0);
        this.set(one);
      }
    } else if (isPress(target)) this.pressed(one);
    else if (isSwitch(target)) {
      this.movements++;
      this.output.switchTo(target, holds || !this.output.isOn(target), tie.begins);
    } else if (target.kind === 'choose') this.follow(one, how);
    else {
      one.moved.value = struckValue(tie, how, this.valueOf(one));
      this.set(one);
    }
  }

  private pressed({ target }: ReadyTie): void {
    this.movements++;
    if (target.kind === 'choose' && target.picks !== 'position') {
      const chooser = this.patch?.choosers.at(target.chooser);
      if (chooser) this.choosers.choose(chooser, target.picks);
    } else this.output.press(target, this.time);
  }

  /** Where what a control moves is now, in its own unit; null for what is not there. */
  private valueOf({ target, key }: ReadyTie): number | null {
    const moved = this.moved.get(key);
    if (moved) return moved.value;
    const own = this.patch && settingOf(target, this.patch);
    return own ?? this.output.standingOf(target);
  }

  /** Puts what a control moves where the control has moved it. */
  private set(one: ReadyTie): void {
    const { target, moved } = one;
    this.movements++;
    if (target.kind === 'layer')
      this.output.moveLayer(target.layerId, target.parameter as LayerSetting, moved);
    else if (target.kind === 'sound')
      this.output.moveSound(target.patchSoundId, target.parameter, moved);
    else {
      if (target.kind === 'octave') this.shifted.add(target.place);
      this.output.put(target, moved.value);
      return;
    }
    this.moved.set(one.key, moved);
  }

  /** Puts what a control moves where the hand has left it. */
  private assert(one: ReadyTie): void {
    if (!follows(one) || isRelative(one.reads)) return;
    const position = this.positions.readAs(one.reads, one.deviceId, one.kind, one.number);
    if (position >= 0) this.follow(one, position);
  }

  /** What picks up waits where its control stands elsewhere, or nobody knows where. */
  private waitForHands(ties: readonly ReadyTie[]): void {
    for (const one of ties) {
      const { tie, target } = one;
      if (!tie.pickUp || !follows(one) || isRelative(one.reads) || !travels(target)) continue;
      const now = this.valueOf(one);
      if (now !== null) this.pickUps.wait(tie.id, now);
    }
  }

  private putBack(): void {
    for (const [key, { target }] of this.moved) {
      const setting = this.patch && settingOf(target, this.patch);
      if (setting === null) continue;
      if (target.kind === 'sound')
        this.output.moveSound(target.patchSoundId, target.parameter, { value: setting });
      if (target.kind === 'layer' && target.parameter === 'pan')
        this.output.moveLayer(target.layerId, 'pan', { value: setting });
      for (const one of this.ready.all)
        if (one.key === key && one.tie.pickUp && follows(one) && !isRelative(one.reads))
          this.pickUps.wait(one.tie.id, setting);
    }
    this.moved.clear();
    this.movements++;
  }

  /** An octave that nothing moves any more would stay for ever. */
  private putOctavesBack(): void {
    for (const place of this.shifted) {
      const target = { kind: 'octave' as const, place };
      if (this.ready.moves(keyOfTarget(target))) continue;
      this.output.put(target, 0);
      this.shifted.delete(place);
    }
  }

  private makeReady(another = false): void {
    const before = this.ready;
    const { devices, show, rig } = this.sources;
    const { patch, songTies } = this;
    const jobs = jobsNow({ devices, patch, song: { ties: songTies }, show, rig });
    const inForce = jobs.filter(isInForce);
    this.ready = new ReadyTies(inForce, devices, before);
    this.choosers.take(inForce);
    if (another) return;
    for (const { target, key } of before.all)
      if (isSwitch(target) && !this.ready.moves(key)) this.output.untied(target);
  }
}

const NONE: readonly ReadyTie[] = [];
