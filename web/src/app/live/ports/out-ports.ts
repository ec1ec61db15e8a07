import { dataLength, SYSTEM_EXCLUSIVE } from '@pentachord/core/midi';
import type { Device } from '@pentachord/core/model';
import type { MessageLog } from '@pentachord/core/monitor';
import type { OutPort } from '@pentachord/core/playing';
import type { StandInModule } from '@pentachord/core/stand-ins';
import type { Seconds } from '@pentachord/core/units';
import { StandInOutPort } from './cable';
import type { StandInMemories } from './stand-in-memories';
import type { WebMidiPorts } from './web-midi';

/** What ports out need. */
export interface OutPortsParts {
  midi: WebMidiPorts;
  /** What is sent is noted down here. */
  log: MessageLog;
  /** Plays what is sent to a module that is none. */
  module: StandInModule;
  now: () => Seconds;
  /** The device of the rig that is on a port; pedals are on those of others. */
  deviceOn: (port: string) => Device | undefined;
  /** A device that is none answers, by a cable of its own. */
  answer: (port: string, bytes: ArrayLike<number>, cable: string) => void;
}

/** The ports that are sent to, whatever is plugged in behind them: real devices, or those that are none. */
export class OutPorts {
  private readonly ports = new Map<string, OutPort>();
  /** What is plugged in behind each of them. */
  private readonly behind = new Map<string, OutPort>();
  /** Stand-ins that were pulled out. */
  private readonly pulledOut = new Set<string>();
  /** Fetched with the first exclusive message to a stand-in. */
  private memories: Promise<StandInMemories> | null = null;

  constructor(private readonly parts: OutPortsParts) {}

  /** The port of a name: the same one whatever device is plugged in behind it. */
  of(name: string): OutPort {
    const known = this.ports.get(name);
    if (known) return known;
    const port: OutPort = {
      name,
      send: (bytes, at) => {
        this.deviceBehind(name).send(bytes, at);
        this.note(name, bytes, at > 0 ? at : this.parts.now());
      },
    };
    this.ports.set(name, port);
    return port;
  }

  isPulledOut(port: string): boolean {
    return this.pulledOut.has(port);
  }

  /** A stand-in is plugged in or pulled out. */
  plug(port: string, plugged: boolean): void {
    if (plugged) this.pulledOut.delete(port);
    else this.pulledOut.add(port);
  }

  /** Another device stands behind the name of a port now. */
  forget(port: string): void {
    this.behind.delete(port);
  }

  private deviceBehind(name: string): OutPort {
    let device = this.behind.get(name);
    if (!device) {
      const { midi, module, deviceOn } = this.parts;
      device =
        midi.output(name) ??
        new StandInOutPort(name, (bytes, at) => {
          if (this.pulledOut.has(name)) return;
          if (bytes[0] === SYSTEM_EXCLUSIVE) void this.tellMemory(name, bytes);
          else if (deviceOn(name)?.kind !== 'keyboard') module.receive(bytes, at);
        });
      this.behind.set(name, device);
    }
    return device;
  }

  private async tellMemory(port: string, bytes: readonly number[]): Promise<void> {
    const { deviceOn, answer } = this.parts;
    this.memories ??= import('./stand-in-memories').then(
      (module) =>
        new module.StandInMemories(deviceOn, (name, told) => answer(name, told, `${name} memory`)),
    );
    (await this.memories).receive(port, bytes);
  }

  private note(port: string, bytes: readonly number[], time: Seconds): void {
    const { log } = this.parts;
    if (bytes[0] === SYSTEM_EXCLUSIVE)
      log.addLong(time, 'out', port, bytes[0], bytes.slice(1, -1), bytes.length - 2, '');
    else
      for (let at = 0; at < bytes.length; at += 1 + Math.max(0, dataLength(bytes[at])))
        log.add(time, 'out', port, -1, bytes[at], bytes[at + 1] ?? 0, bytes[at + 2] ?? 0);
  }
}
