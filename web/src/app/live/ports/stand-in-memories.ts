import { deviceSettingsSchema, type Device } from '@pentachord/core/model';
import {
  factorySettings,
  MISBEHAVIOURS,
  StandInMemory,
  type Misbehaviour,
} from '@pentachord/core/settings';
import * as z from 'zod';

const PREFIX = 'pentachord stand-in ';
const storedSchema = z.strictObject({
  settings: deviceSettingsSchema,
  misbehaviour: z.enum(MISBEHAVIOURS),
});
/** What a stand-in keeps: its settings, and how it was told to misbehave. */
export type StandInStore = z.infer<typeof storedSchema>;

/** What a stand-in holds, in this browser’s store, where it outlives every window; what it ships with where nothing is kept. */
export function readStandIn(device: Device): StandInStore | null {
  if (device.kind !== 'keyboard' && device.kind !== 'controlBox') return null;
  try {
    const stored: unknown = JSON.parse(localStorage.getItem(PREFIX + device.port) ?? 'null');
    const read = storedSchema.safeParse(stored);
    if (read.success) return read.data;
  } catch {
    // A store that cannot be read holds nothing.
  }
  return { settings: factorySettings(device), misbehaviour: 'none' };
}

/** Has a stand-in keep something else. */
export function writeStandIn(port: string, stored: StandInStore): void {
  try {
    localStorage.setItem(PREFIX + port, JSON.stringify(stored));
  } catch {
    // A full store keeps what it has, as a device with a worn memory does.
  }
}

/** Calls back when a stand-in holds something else since another window wrote it; gives back what ends that. */
export function watchStandIns(told: () => void): () => void {
  const listener = ({ key }: StorageEvent) => {
    if (key?.startsWith(PREFIX)) told();
  };
  window.addEventListener('storage', listener);
  return () => window.removeEventListener('storage', listener);
}

/** The memories of the stand-ins of a rig: they answer exclusive messages as devices do, a little later. */
export class StandInMemories {
  private readonly memories = new Map<string, StandInMemory>();

  constructor(
    private readonly deviceOn: (port: string) => Device | undefined,
    private readonly answer: (port: string, bytes: readonly number[]) => void,
  ) {}

  /** An exclusive message to a stand-in, F0 … F7. */
  receive(port: string, bytes: readonly number[]): void {
    const device = this.deviceOn(port);
    const stored = device && readStandIn(device);
    if (!stored) return;
    const memory = this.memoryOf(port, stored);
    for (const reply of memory.receive(bytes.slice(1, -1)))
      setTimeout(() => this.answer(port, reply));
  }

  private memoryOf(port: string, { settings, misbehaviour }: StandInStore): StandInMemory {
    let memory = this.memories.get(port);
    // What is written at this moment goes on; else another window may have changed what it holds.
    if (!memory || JSON.stringify(memory.settings) !== JSON.stringify(settings)) {
      const own: StandInMemory = new StandInMemory(settings, (kept) =>
        writeStandIn(port, { settings: kept, misbehaviour: own.misbehaviour }),
      );
      memory = own;
      this.memories.set(port, memory);
    }
    memory.misbehaviour = misbehaviour satisfies Misbehaviour;
    return memory;
  }
}
