import type { OutPort } from '@pentachord/core/playing';
import type { Seconds } from '@pentachord/core/units';
import * as z from 'zod';
import { Channel } from '../browser/channel';
import type { ByteSink, InPorts } from './port';

const portSchema = z.string().min(1).max(120);
/** Checked as a whole: it is on the way of everything that is played, and a check for each byte takes longer than playing it. */
const bytesSchema = z.custom<number[]>(
  (bytes) => Array.isArray(bytes) && bytes.length <= 1024 && bytes.every(isByte),
);

/** One message on the cable between the stand-ins and the rest: a port's name and raw MIDI bytes. */
const bytesMessage = <D extends string>(direction: D) =>
  z.strictObject({
    direction: z.literal(direction),
    port: portSchema,
    bytes: bytesSchema,
    /** When they are due, milliseconds of the day's clock that all pages share; left out for now. */
    at: z.number().min(0).optional(),
  });

/** All that goes over it; what is no such message is passed over. */
const cableSchema = z.discriminatedUnion('direction', [
  bytesMessage('in'),
  bytesMessage('out'),
  /** A stand-in is plugged in or pulled out. */
  z.strictObject({ direction: z.literal('plug'), port: portSchema, plugged: z.boolean() }),
]);
type OnCable = z.infer<typeof cableSchema>;
export type CableMessage = Exclude<OnCable, { direction: 'plug' }>;
type PlugMessage = Extract<OnCable, { direction: 'plug' }>;

function isByte(value: unknown): boolean {
  return Number.isInteger(value) && (value as number) >= 0 && (value as number) <= 255;
}

/** The name under which the cable can be found by every page of the application. */
export const CABLE_NAME = 'pentachord cable';

/** Whether a port is a stand-in’s, by its name. */
export function isStandIn(port: string): boolean {
  return port.startsWith('stand-in ');
}

/** Ports of the stand-in that leads with a clock of its own, and of the one that follows ours. */
export const STAND_IN_CLOCK = 'stand-in clock';
export const STAND_IN_FOLLOWER = 'stand-in follower';

/** Hears what goes over the cable; once for each end of it. */
function listen(channel: Channel, heard: (message: OnCable) => void): void {
  channel.addEventListener('message', (event) => {
    const message = cableSchema.safeParse((event as MessageEvent<unknown>).data);
    if (message.success) heard(message.data);
  });
}

/** When a message came, or is due, on this page's clock in seconds; undefined for now. */
function timeOf({ at }: CableMessage): Seconds | undefined {
  return at === undefined ? undefined : (at - performance.timeOrigin) / 1000;
}

/** The player's end of the cable: hears the stand-in keyboards, pads and pedals. */
export class StandInInPorts implements InPorts {
  private readonly channel = new Channel(CABLE_NAME);
  private told: (port: string, plugged: boolean) => void = () => undefined;

  open(sink: ByteSink): void {
    listen(this.channel, (message) => {
      if (message.direction === 'in') sink(message.port, message.bytes, timeOf(message));
      else if (message.direction === 'plug') this.told(message.port, message.plugged);
    });
  }

  /** Hears of stand-ins that are plugged in or pulled out. */
  watch(told: (port: string, plugged: boolean) => void): void {
    this.told = told;
  }
}

/** A port to a stand-in module: it hears the bytes here, and the stand-ins' page may look on. */
export class StandInOutPort implements OutPort {
  private readonly channel = new Channel(CABLE_NAME);

  constructor(
    readonly name: string,
    private readonly module: (bytes: readonly number[], at: Seconds) => void,
  ) {}

  send(bytes: readonly number[], at: Seconds): void {
    this.module(bytes, at);
    const message: CableMessage = { direction: 'out', port: this.name, bytes: [...bytes] };
    if (at > 0) message.at = performance.timeOrigin + at * 1000;
    this.channel.postMessage(message);
  }
}

/** The stand-ins' end of the cable. */
export class StandInCable {
  private readonly channel = new Channel(CABLE_NAME);

  /** Sends bytes as if they left the stand-in's MIDI output, now or at a time of this page's clock. */
  send(port: string, bytes: number[], at?: Seconds): void {
    if (bytes.length === 0) return;
    const message: CableMessage = { direction: 'in', port, bytes };
    if (at !== undefined) message.at = performance.timeOrigin + at * 1000;
    this.channel.postMessage(message);
  }

  /** Plugs a stand-in in, or pulls it out. */
  plug(port: string, plugged: boolean): void {
    const message: PlugMessage = { direction: 'plug', port, plugged };
    this.channel.postMessage(message);
  }

  /** Hears what is sent to stand-in modules. */
  listen(sink: ByteSink): void {
    listen(this.channel, (message) => {
      if (message.direction === 'out') sink(message.port, message.bytes, timeOf(message));
    });
  }

  close(): void {
    this.channel.close();
  }
}
