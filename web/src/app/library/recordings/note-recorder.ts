import { writeWav } from '@pentachord/core/exchange';

/** Seconds that one note can last at most. */
export const LONGEST_NOTE = 120;

/** Listens to an input, and records from it on demand. */
export class NoteRecorder {
  /** Told some thirty times a second: the highest sample since, and the seconds that are recorded. */
  onLevel: (peak: number, seconds: number) => void = () => undefined;
  private context: AudioContext | null = null;
  private stream: MediaStream | null = null;
  private parts: Float32Array[][] | null = null;
  private isClosed = true;

  /** Opens an input. Throws what the browser says. */
  async open(id: string): Promise<void> {
    await this.close();
    this.isClosed = false;
    const stream = await navigator.mediaDevices.getUserMedia({
      audio: {
        ...(id === 'default' ? {} : { deviceId: { exact: id } }),
        // An instrument is no voice on the telephone.
        ...{ echoCancellation: false, noiseSuppression: false, autoGainControl: false },
      },
    });
    this.stream = stream;
    // Whoever asked is gone meanwhile: nobody goes on listening.
    if (this.isClosed) {
      await this.close();
      return;
    }
    const context = new AudioContext();
    this.context = context;
    await context.audioWorklet.addModule('worklet/recorder.js');
    const recorder = new AudioWorkletNode(context, 'pentachord-recorder', { numberOfOutputs: 0 });
    recorder.port.onmessage = ({ data }: MessageEvent<Float32Array[]>) => this.take(data);
    context.createMediaStreamSource(stream).connect(recorder);
  }

  /** The inputs that there are, with their names. */
  async inputs(): Promise<{ id: string; name: string }[]> {
    const devices = await navigator.mediaDevices.enumerateDevices();
    return devices
      .filter(({ kind }) => kind === 'audioinput')
      .map(({ deviceId, label }, i) => ({
        id: deviceId || 'default',
        name: label || `input ${i + 1}`,
      }));
  }

  begin(): void {
    this.parts = [];
  }

  /** What was recorded, as a WAV file. */
  finish(): Uint8Array<ArrayBuffer> {
    const parts = this.parts ?? [];
    this.parts = null;
    const sides = parts.at(0)?.length ?? 1;
    const channels = Array.from({ length: Math.min(2, sides) }, (_, side) => {
      const all = new Float32Array(parts.reduce((sum, part) => sum + part[0].length, 0));
      let at = 0;
      for (const part of parts) {
        all.set(part[side] ?? part[0], at);
        at += part[0].length;
      }
      return all;
    });
    const { sampleRate = 48_000 } = this.context ?? {};
    return new Uint8Array(writeWav({ channels, sampleRate, bits: 24 }));
  }

  async close(): Promise<void> {
    this.isClosed = true;
    for (const track of this.stream?.getTracks() ?? []) track.stop();
    this.stream = null;
    await this.context?.close();
    this.context = null;
  }

  private take(part: Float32Array[]): void {
    let peak = 0;
    for (const samples of part)
      for (const sample of samples) peak = Math.max(peak, Math.abs(sample));
    const rate = this.context?.sampleRate ?? 48_000;
    const frames = (this.parts ?? []).reduce((sum, [left]) => sum + left.length, 0);
    if (this.parts && frames < LONGEST_NOTE * rate) this.parts.push(part);
    this.onLevel(peak, frames / rate);
  }
}
