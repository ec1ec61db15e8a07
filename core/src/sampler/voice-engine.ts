import { contains } from '../range/range.js';
import type { Zone } from '../synthesis/zone.js';
import type { Frame } from '../units/times.js';
import { Agenda } from './agenda.js';
import { BLOCK, fallSilent, type EngineOutput } from './block.js';
import {
  ARGUMENTS,
  BUSES,
  COMMAND,
  PAIRS,
  RECORD,
  START,
  type CommandRing,
} from './command-ring.js';
import { HeldLines } from './held-lines.js';
import { InnerLoop } from './inner-loop.js';
import { METER, STRIPS } from './meters.js';
import { Strips } from './strips.js';
import { putStep, strike } from './strike.js';
import { newVoiceStart } from './voice-start.js';
import { VOICES, Voices } from './voices.js';
import { ZoneTable, type LoadedSound } from './zone-table.js';

const VIBRATO_HZ = 5.4;
/** Depth of full vibrato, as a factor of pitch (35 cents). */
const VIBRATO_DEPTH = 2 ** (35 / 1200) - 1;
/** Frames after which pitch and cut-off are asked for anew while they move. */
const SLICE = 16;

/**
 * Plays zones. Voices go through the strip of their layer; commands are carried out at the very frame at which they are due.
 *
 *     command ring ─► agenda ─► voices ─► strips ─► mix, sends
 *
 * Everything a block needs is allocated once; `render` allocates nothing. It knows no audio API, so that the same engine
 * plays in an audio worklet and renders in a test:
 *
 * @example
 * const ring = new CommandRing(new ArrayBuffer(COMMAND_RING_BYTES));
 * const engine = new VoiceEngine(48_000, ring, new Float32Array(METERS));
 * engine.load(0, { voicing, zones });
 * ring.write(COMMAND.level, 0, 0, -6, 0);
 * ring.write(COMMAND.start, 4800, 1, 0, 0, 1, 0, 60, 100, 1);
 * engine.render(blockOutput());
 */
export class VoiceEngine {
  private readonly sounds: (ZoneTable | null)[] = [];
  private readonly record = new Float64Array(RECORD);
  private readonly agenda = new Agenda();
  private readonly voices: Voices;
  private readonly strips: Strips;
  /** Voices that sound now, in no particular order. */
  private readonly sounding = new Int16Array(VOICES);
  private soundingCount = 0;
  /** 1 for strips of which a key is leant on. */
  private readonly leantOn = new Uint8Array(STRIPS);
  /** Notes held on sounds of one voice, by instance. */
  private readonly lines = new HeldLines();
  /** How the next voice begins; reused. */
  private readonly next = newVoiceStart();
  /** The frame that is rendered next. */
  private frame: Frame = 0;
  /** Voices of one-voice sounds whose note was let go at this frame. */
  private readonly ending = new Int16Array(VOICES);
  private endingCount = 0;

  /**
   * @param sampleRate frames per second
   * @param commands where the playing side writes
   * @param meters shared with views, METERS numbers
   */
  constructor(
    private readonly sampleRate: number,
    private readonly commands: CommandRing,
    private readonly meters: Float32Array,
  ) {
    const loop = new InnerLoop(VOICES);
    this.voices = new Voices(sampleRate, loop);
    this.strips = new Strips(sampleRate, meters, loop.mix);
  }

  /** Puts a sound into a slot. Voices that play the slot's old zones go on. */
  load(slot: number, sound: LoadedSound): void {
    this.sounds[slot] = new ZoneTable(sound);
  }

  /** Renders the next {@link BLOCK} frames. The output is overwritten. `frame` is the audio clock's, where there is one. */
  render(output: EngineOutput, frame: Frame = this.frame): void {
    this.frame = frame;
    this.takeCommands();
    fallSilent(output.mix);
    for (let bus = 0; bus < BUSES; bus++) fallSilent(output.buses[bus]);
    for (let pair = 0; pair < PAIRS; pair++) fallSilent(output.pairs[pair]);
    this.strips.fallMeters();
    const end = frame + BLOCK;
    while (this.frame < end) {
      while (this.agenda.next <= this.frame) {
        this.agenda.take(this.record);
        this.carryOut(this.record);
      }
      this.comeBack();
      const to = Math.min(end, this.agenda.next);
      this.renderFrames(this.frame - frame, to - frame, output);
      this.frame = to;
    }
    this.meters[METER.voices] = this.soundingCount;
  }

  /** Has the strips look at the time of the frame that is rendered next. */
  private lookNow(): void {
    this.strips.moment[0] = this.frame / this.sampleRate;
  }

  private takeCommands(): void {
    const { record } = this;
    while (this.commands.read(record)) {
      if (record[1] <= this.frame) this.carryOut(record);
      // What finds no room does not begin; what should end later ends now, or does not begin either.
      else if (!this.agenda.add(record) && record[0] !== COMMAND.start) this.carryOut(record);
    }
  }

  private renderFrames(from: number, to: number, output: EngineOutput): void {
    const { strips, sampleRate } = this;
    const then = this.frame / sampleRate + (to - from) / sampleRate;
    this.passZones();
    this.countVoices();
    for (let s = 0; s < STRIPS; s++) {
      if (strips.voices[s] === 0) continue;
      strips.begin(from, to);
      this.lookNow();
      const slice = strips.moves(s) || this.leantOn[s] === 1 ? SLICE : to - from;
      for (let at = from; at < to; at += slice)
        this.renderVoices(s, at, Math.min(to, at + slice), from);
      strips.moment[0] = then;
      if (!strips.finish(s, from, to, output)) this.clearStrip(s);
    }
  }

  /** Renders a slice of the frames that begin with `first` at this moment. */
  private renderVoices(s: number, from: number, to: number, first: number): void {
    const { voices, strips, sounding } = this;
    const then = this.frame / this.sampleRate + (to - first) / this.sampleRate;
    strips.moment[0] = then;
    strips.turn(s);
    const bend = strips.bendNow[s];
    const opened = strips.openedNow[s];
    const ofStrip = strips.vibratoNow[s];
    const turned = 2 * Math.PI * VIBRATO_HZ * then;
    for (let i = 0; i < this.soundingCount; i++) {
      const v = sounding[i];
      if (voices.strip[v] !== s) continue;
      const depth = Math.min(1, ofStrip + voices.pressure[v]) * VIBRATO_DEPTH;
      const swing =
        depth === 0 ? 0 : Math.sin(turned * voices.vibratoRate[v] + voices.vibratoPhase[v]);
      voices.pitch[v] = bend * (1 + depth * swing);
      voices.opened[v] = opened;
      voices.render(v, from, to);
    }
  }

  /** Has voices that glide go over into the recording of the keys that they have come to. */
  private passZones(): void {
    const { voices } = this;
    for (let i = 0; i < this.soundingCount; i++) {
      const v = this.sounding[i];
      if (!voices.isGliding(v) || !voices.isHeld(v)) continue;
      const zone = voices.zoneOf(v);
      const sound = this.sounds[voices.slot[v]];
      if (!zone || !sound) continue;
      // All here: a fraction that one function hands to another would be an object.
      const cents = 1200 * Math.log2((voices.step[v] * this.sampleRate) / zone.sampleRate);
      const note = zone.rootKey + (cents - (zone.tuning ?? 0)) / (zone.tracking ?? 100);
      // Where keys do not move the pitch there is no other key to come to.
      if (!(note >= 0 && note <= 127)) continue;
      const passed = this.passed(v, sound, zone, Math.round(note));
      if (!passed || passed === zone) continue;
      const into = voices.freePlace();
      if (into < 0) return;
      const goal =
        (note - passed.rootKey) * (passed.tracking ?? 100) + (passed.tuning ?? 0) - cents;
      voices.cross(v, into, passed, (passed.sampleRate / zone.sampleRate) * 2 ** (goal / 1200));
    }
  }

  /** The zone in whose recording a voice goes on that has come to a note; null for none. */
  private passed(v: number, sound: ZoneTable, zone: Zone, note: number): Zone | null {
    const { voices } = this;
    if (!sound.isNearest && contains(zone.keys, note)) return null;
    const count = sound.findAt(note, voices.velocity[v]);
    for (let i = 0; i < count; i++) {
      const other = sound.zones[sound.found[i]];
      // What sounds along already is another voice's.
      if (sound.isNearest || !voices.plays(voices.id[v], other)) return other;
    }
    return null;
  }

  /** Something on a strip is no number any more: its voices end, and what it kept is forgotten. */
  private clearStrip(s: number): void {
    for (let v = 0; v < VOICES; v++) if (this.voices.strip[v] === s) this.voices.free(v);
  }

  private countVoices(): void {
    this.strips.voices.fill(0);
    this.leantOn.fill(0);
    this.soundingCount = 0;
    for (let v = 0; v < VOICES; v++) {
      if (!this.voices.isSounding(v)) continue;
      this.sounding[this.soundingCount++] = v;
      this.strips.voices[this.voices.strip[v]]++;
      if (this.voices.pressure[v] > 0) this.leantOn[this.voices.strip[v]] = 1;
    }
  }

  private carryOut(record: Float64Array): void {
    // A number that is none would stay in whatever it is mixed into.
    for (let i = ARGUMENTS; i < RECORD; i++) if (!Number.isFinite(record[i])) return;
    const a = record[ARGUMENTS];
    const b = record[ARGUMENTS + 1];
    const { strips } = this;
    this.lookNow();
    switch (record[0]) {
      case COMMAND.start:
        this.start(record);
        break;
      case COMMAND.end:
        this.end(a);
        break;
      case COMMAND.takeBack:
        this.agenda.forget(a, b === 1);
        break;
      case COMMAND.retime:
        this.retime(record);
        break;
      case COMMAND.pressure:
        this.voices.lean(a, b);
        break;
      case COMMAND.reset:
        for (let v = 0; v < VOICES; v++) if (this.voices.strip[v] === a) this.voices.free(v);
        strips.obey(record);
        break;
      case COMMAND.silence:
        this.agenda.clear();
        for (let v = 0; v < VOICES; v++) if (this.voices.isSounding(v)) this.voices.cut(v);
        this.lines.clear();
        break;
      default:
        strips.obey(record);
    }
  }

  private start(record: Float64Array): void {
    const strip = record[START.strip];
    const instance = record[START.instance];
    const polyphony = record[START.polyphony];
    const sound = this.sounds[record[START.slot]];
    if (!sound || sound.zones.length === 0 || strip < 0 || strip >= STRIPS) return;
    this.next.glideSeconds = polyphony === 1 ? record[START.glide] : -1;
    if (polyphony === 1) {
      this.lines.of(instance).push(record);
      if (record[START.glide] > 0 && this.slide(record)) return;
      this.cutInstance(instance, strip);
    } else if (polyphony > 0) this.makeRoom(instance, polyphony);
    this.strike(record);
  }

  /** Begins a voice for every zone that answers a note, with the glide that stands in {@link next}. */
  private strike(record: Float64Array): void {
    const sound = this.sounds[record[START.slot]];
    // What begins takes its turn; what only looks does not.
    const count = sound ? sound.find(record) : 0;
    for (let i = 0; sound && i < count; i++) this.begin(record, sound, i);
  }

  private begin(record: Float64Array, sound: ZoneTable, i: number): void {
    const { next, strips, voices } = this;
    const at = sound.found[i];
    next.choke = sound.choke[at];
    if (next.choke > 0) voices.chokeOff(next.choke, record[START.instance], record[START.voice]);
    const v = voices.place();
    if (voices.stolen >= 0) this.countStolen(voices.stolen);
    strike(next, record, sound.voicings[at], sound.zones[at], strips, this.sampleRate);
    next.gain *= sound.gains[i];
    next.oneShot = sound.oneShot[at];
    voices.start(v, next);
    if (strips.voices[next.strip]++ > 0) return;
    this.lookNow();
    strips.wake(next.strip);
  }

  private end(id: number): void {
    const { voices, lines } = this;
    // What has ended does not begin any more.
    this.agenda.forget(id, false);
    lines.remove(id);
    for (let v = 0; v < VOICES; v++) {
      if (voices.id[v] !== id || !voices.isHeld(v) || voices.oneShot[v] === 1) continue;
      // Notes of one key may end together: whether one is held to come back to is known when all have been told.
      if (voices.glideSeconds[v] >= 0 && this.endingCount < VOICES)
        this.ending[this.endingCount++] = v;
      else voices.release(v);
    }
  }

  /** What is not due yet of a voice comes at other frames. Whoever asks may be behind: what has begun is not begun again. */
  private retime(record: Float64Array): void {
    const id = record[ARGUMENTS];
    const end = record[ARGUMENTS + 2];
    const waits = this.agenda.moveStart(id, record[ARGUMENTS + 1]);
    this.agenda.forget(id, true);
    if (end < 0 || (!waits && !this.isHeld(id))) return;
    record[0] = COMMAND.end;
    record[1] = end;
    if (end <= this.frame || !this.agenda.add(record)) this.end(id);
  }

  private isHeld(id: number): boolean {
    // Of a sound of one voice another note may sound at present.
    return this.voices.holds(id) || this.lines.holds(id);
  }

  /** Where the last note of a one-voice sound was let go, the one that is still held comes back, on its own strip. */
  private comeBack(): void {
    const { voices } = this;
    for (let i = 0; i < this.endingCount; i++) {
      const v = this.ending[i];
      if (!voices.isHeld(v)) continue;
      const held = this.lines.of(voices.instance[v]).last;
      // Another note has taken the voice over meanwhile.
      if (held && held[START.voice] === voices.id[v]) continue;
      this.next.glideSeconds = voices.glideSeconds[v];
      if (held && held[START.strip] === voices.strip[v]) this.slideTo(v, held);
      else {
        voices.release(v);
        // The note that comes back begins once, however many voices of the other end.
        if (held && !voices.holds(held[START.voice])) this.strike(held);
      }
    }
    this.endingCount = 0;
  }

  /** Takes what a one-voice sound plays to another note; false when nothing sounds on that strip. */
  private slide(record: Float64Array): boolean {
    const { voices } = this;
    let slides = false;
    for (let v = 0; v < VOICES; v++) {
      if (voices.instance[v] !== record[START.instance]) continue;
      if (voices.strip[v] !== record[START.strip] || !voices.isHeld(v)) continue;
      this.slideTo(v, record);
      slides = true;
    }
    return slides;
  }

  /** In the seconds that stand in {@link next}. */
  private slideTo(v: number, record: Float64Array): void {
    const zone = this.voices.zoneOf(v);
    if (!zone) return;
    putStep(this.next, record, zone, this.sampleRate);
    this.voices.slide(v, record[START.voice], this.next);
  }

  /** Ends the voice of a one-voice sound. Taken from another layer it counts as stolen; within one it is just the next note. */
  private cutInstance(instance: number, strip: number): void {
    const { voices } = this;
    // From the last one on: while the first of a note is held, it stands for the note.
    for (let v = VOICES - 1; v >= 0; v--) {
      if (voices.instance[v] !== instance || !voices.isHeld(v)) continue;
      if (voices.strip[v] !== strip && voices.isFirstOfNote(v)) this.countStolen(v);
      voices.cut(v);
    }
  }

  /** Ends the oldest notes of an instance until one more fits its polyphony: whole notes, however many voices each has. */
  private makeRoom(instance: number, polyphony: number): void {
    const { voices } = this;
    for (;;) {
      let notes = 0;
      let oldest = -1;
      for (let v = 0; v < VOICES; v++) {
        if (voices.instance[v] !== instance || !voices.isHeld(v)) continue;
        if (voices.isFirstOfNote(v)) notes++;
        if (oldest < 0 || voices.ageOf(v) < voices.ageOf(oldest)) oldest = v;
      }
      if (notes < polyphony) return;
      voices.cutNote(oldest);
      this.countStolen(oldest);
    }
  }

  private countStolen(v: number): void {
    this.meters[METER.stolen]++;
    this.meters[METER.stolenFrom + this.voices.strip[v]]++;
  }
}
