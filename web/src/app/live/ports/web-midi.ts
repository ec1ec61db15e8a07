import type { OutPort } from '@pentachord/core/playing';
import type { MidiAccessState } from './midi-access';
import type { ByteSink, InPorts } from './port';

/** Real devices through Web MIDI. Devices plugged in later are found too. */
export class WebMidiPorts implements InPorts {
  private access: MIDIAccess | null = null;
  private sink: ByteSink | null = null;
  /** Told when an input is unplugged. */
  onInputGone: (port: string) => void = () => undefined;
  /** Told when an input is plugged in. */
  onInputCame: (port: string) => void = () => undefined;
  /** Told when an output has come or gone. */
  onOutput: (port: string) => void = () => undefined;
  state: MidiAccessState = 'requestMIDIAccess' in navigator ? 'not asked' : 'not supported';

  open(sink: ByteSink): void {
    this.sink = sink;
  }

  /**
   * Asks the browser for the devices; it may ask the player. That is done once: after a refusal only when it is wanted anew.
   * Never throws.
   */
  async connect(anew = false): Promise<MidiAccessState> {
    if (this.state !== 'not asked' && !(anew && this.state === 'refused')) return this.state;
    this.state = 'asking';
    try {
      this.access = await navigator.requestMIDIAccess();
      this.access.addEventListener('statechange', ({ port }) => {
        this.attach();
        if (port?.type === 'output') this.onOutput(portName(port));
        else if (port?.state === 'disconnected') this.onInputGone(portName(port));
        else if (port) this.onInputCame(portName(port));
      });
      this.attach();
      this.state = 'connected';
      for (const output of this.access.outputs.values()) this.onOutput(portName(output));
    } catch {
      this.state = 'refused';
    }
    return this.state;
  }

  /** Names of the inputs that are plugged in. */
  get inputs(): string[] {
    return this.access ? [...this.access.inputs.values()].map(portName) : [];
  }

  /** Names of the outputs that are plugged in. */
  get outputs(): string[] {
    return this.access ? [...this.access.outputs.values()].map(portName) : [];
  }

  /** The output of a name, or null. */
  output(name: string): OutPort | null {
    const found =
      this.access && [...this.access.outputs.values()].find((o) => portName(o) === name);
    return found ? { name, send: (bytes, at) => found.send([...bytes], at * 1000) } : null;
  }

  private attach(): void {
    if (!this.access) return;
    for (const input of this.access.inputs.values()) {
      const name = portName(input);
      input.onmidimessage = (event) => {
        if (event.data) this.sink?.(name, event.data, event.timeStamp / 1000);
      };
    }
  }
}

function portName(port: MIDIPort): string {
  return port.name ?? port.id;
}
