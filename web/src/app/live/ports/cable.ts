import type { OutPort } from '@pentachord/core/playing';
import type { Seconds } from '@pentachord/core/units';
import * as z from 'zod';
import { Channel } from '../browser/channel';
import type { ByteSink, InPorts } from './port';

/** One message on the cable between the stand-ins and the rest: a port's name and raw MIDI bytes. */
const cableMessageSchema = z.strictObject({
  direction: z.enum(['in', 'out']),
  port: z.string().min(1).max(120),
  bytes: z.array(z.number().int().min(0).max(255)).max(1024),
  /** When they are due, milliseconds of the day's clock that all pages share; left out for now. */
  at: z.number().min(0).optional(),
});
export type CableMessage = z.infer<typeof cableMessageSchema>;

/** A stand-in is plugged in or pulled out. */
const plugMessageSchema = z.strictObject({
  direction: z.literal('plug'),
  port: z.string().min(1).max(120),
  plugged: z.boolean(),
});
type PlugMessage = z.infer<typeof plugMessageSchema>;

/** The name under which the cable can be found by every page of the application. */
export const CABLE_NAME = 'pentachord cable';

/** Whether a port is a stand-in’s, by its name. */
export function isStandIn(port: string): boolean {
  return port.startsWith('stand-in ');
}

/** Ports of the stand-in that leads with a clock of its own, and of the one that follows ours. */
export const STAND_IN_CLOCK = 'stand-in clock';
export const STAND_IN_FOLLOWER = 'stand-in follower';

/** Listens to one direction of the cable; what is not a cable message is passed over. */
function listen(channel: Channel, direction: CableMessage['direction'], sink: ByteSink): void {
  channel.addEventListener('message', (event) => {
    const message = cableMessageSchema.safeParse((event as MessageEvent<unknown>).data);
    if (message.success && message.data.direction === direction)
      sink(message.data.port, message.data.bytes, timeOf(message.data));
  });
}

/** When a message came, or is due, on this page's clock in seconds; undefined for now. */
function timeOf({ at }: CableMessage): Seconds | undefined {
  return at === undefined ? undefined : (at - performance.timeOrigin) / 1000;
}

/** The player's end of the cable: hears the stand-in keyboards, pads and pedals. */
export class StandInInPorts implements InPorts {
  private readonly channel = new Channel(CABLE_NAME);

  open(sink: ByteSink): void {
    listen(this.channel, 'in', sink);
  }

  /** Hears of stand-ins that are plugged in or pulled out. */
  watch(told: (port: string, plugged: boolean) => void): void {
    this.channel.addEventListener('message', (event) => {
      const message = plugMessageSchema.safeParse((event as MessageEvent<unknown>).data);
      if (message.success) told(message.data.port, message.data.plugged);
    });
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
    listen(this.channel, 'out', sink);
  }

  close(): void {
    this.channel.close();
  }
}
