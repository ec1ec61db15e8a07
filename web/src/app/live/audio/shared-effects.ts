import type { Effects, EffectName } from '@pentachord/core/model';
import { BUS } from '@pentachord/core/sampler';
import { renderRoom } from '@pentachord/core/synthesis';
import { gainFromDb } from '@pentachord/core/units';

/** Seconds in which a changed setting has gone most of its way. */
const SETTLE = 0.03;
const LONGEST_DELAY = 8;
/** Seconds around which the chorus moves, and how far it moves at most. */
const CHORUS_DELAY = 0.016;
const CHORUS_REACH = 0.006;

/** One effect between what is sent to it and the way out. */
interface Unit {
  input: AudioNode;
  output: GainNode;
}

/** The reverb, delay and chorus that all layers share, each between an output of the worklet and the way out. */
export class SharedEffects {
  private readonly reverb: Unit;
  private readonly delay: Unit & { line: DelayNode; feedback: GainNode };
  private readonly chorus: Unit & { movers: OscillatorNode[]; reaches: GainNode[] };

  constructor(
    private readonly context: BaseAudioContext,
    into: AudioNode,
  ) {
    this.reverb = room(context);
    this.delay = echoes(context);
    this.chorus = chorus(context);
    for (const { output } of [this.reverb, this.delay, this.chorus]) output.connect(into);
  }

  /** Where an effect takes what is sent to it. */
  inputOf(name: EffectName): AudioNode {
    return this[name].input;
  }

  /** Takes an output of the worklet for each bus; output 0 is the mix. */
  connectFrom(worklet: AudioNode): void {
    for (const name of ['reverb', 'delay', 'chorus'] as const)
      worklet.connect(this[name].input, BUS[name] + 1);
  }

  /** Follows a patch's settings, from a moment of the context on; `tempo` in beats per minute. */
  set(effects: Effects, tempo: number, at = this.context.currentTime): void {
    const move = (param: AudioParam, value: number) => param.setTargetAtTime(value, at, SETTLE);
    move(this.reverb.output.gain, gainFromDb(effects.reverb.level));
    move(this.delay.output.gain, gainFromDb(effects.delay.level));
    move(this.delay.feedback.gain, effects.delay.feedback);
    move(this.delay.line.delayTime, Math.min(LONGEST_DELAY, (effects.delay.beats * 60) / tempo));
    move(this.chorus.output.gain, gainFromDb(effects.chorus.level));
    for (const mover of this.chorus.movers) move(mover.frequency, effects.chorus.rate);
    for (const reach of this.chorus.reaches)
      move(reach.gain, CHORUS_REACH * effects.chorus.depth * Math.sign(reach.gain.value || 1));
  }
}

function room(context: BaseAudioContext): Unit {
  const [left, right] = renderRoom(context.sampleRate, 2.2, 4);
  const response = context.createBuffer(2, left.length, context.sampleRate);
  response.copyToChannel(left, 0);
  response.copyToChannel(right, 1);
  const input = new ConvolverNode(context, { buffer: response, disableNormalization: true });
  const output = new GainNode(context);
  input.connect(output);
  return { input, output };
}

function echoes(context: BaseAudioContext) {
  const line = new DelayNode(context, { maxDelayTime: LONGEST_DELAY, delayTime: 0.5 });
  const feedback = new GainNode(context, { gain: 0.35 });
  // Every echo is a little duller than the one before, as in a room.
  const dull = new BiquadFilterNode(context, { type: 'lowpass', frequency: 4200, Q: 0.5 });
  const output = new GainNode(context);
  line.connect(dull).connect(feedback).connect(line);
  line.connect(output);
  return { input: line, output, line, feedback };
}

/** Left and right are delayed by a moving time, in opposite directions. */
function chorus(context: BaseAudioContext) {
  const input = new ChannelSplitterNode(context, { numberOfOutputs: 2 });
  const merger = new ChannelMergerNode(context, { numberOfInputs: 2 });
  const output = new GainNode(context);
  const movers: OscillatorNode[] = [];
  const reaches: GainNode[] = [];
  for (const side of [0, 1]) {
    const line = new DelayNode(context, { maxDelayTime: 0.1, delayTime: CHORUS_DELAY });
    const mover = new OscillatorNode(context, { frequency: 0.6 });
    const reach = new GainNode(context, { gain: CHORUS_REACH * 0.5 * (side === 0 ? 1 : -1) });
    mover.connect(reach).connect(line.delayTime);
    mover.start();
    input.connect(line, side).connect(merger, 0, side);
    movers.push(mover);
    reaches.push(reach);
  }
  merger.connect(output);
  return { input, output, movers, reaches };
}
