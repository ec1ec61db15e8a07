import type { OutPort } from '@pentachord/core/playing';
import type { ByteSink, InPorts } from './port';

/** How far connecting real devices has come. */
export type MidiAccessState = 'not asked' | 'asking' | 'connected' | 'refused' | 'not supported';

/** Real devices through Web MIDI. Devices plugged in later are found too. */
export class WebMidiPorts implements InPorts {
  private access: MIDIAccess | null = null;
  private sink: ByteSink | null = null;
  state: MidiAccessState = 'requestMIDIAccess' in navigator ? 'not asked' : 'not supported';

  open(sink: ByteSink): void {
    this.sink = sink;
  }

  /** Asks the browser for the devices; it may ask the player. Never throws. */
  async connect(): Promise<MidiAccessState> {
    if (this.state === 'not supported' || this.access) return this.state;
    this.state = 'asking';
    try {
      this.access = await navigator.requestMIDIAccess();
      this.access.addEventListener('statechange', () => this.attach());
      this.attach();
      this.state = 'connected';
    } catch {
      this.state = 'refused';
    }
    return this.state;
  }

  /** Names of the inputs that are plugged in. */
  get inputs(): string[] {
    return this.access ? [...this.access.inputs.values()].map(portName) : [];
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
