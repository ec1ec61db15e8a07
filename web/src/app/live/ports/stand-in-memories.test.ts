import { NEUTRAL_KINDS, newDevice } from '@pentachord/core/rig';
import { SettingsExchange, wantedSettings } from '@pentachord/core/settings';
import { beforeEach, expect, it, vi } from 'vitest';
import { readStandIn, StandInMemories, writeStandIn } from './stand-in-memories';

const kind = NEUTRAL_KINDS.find(({ id }) => id === 'keys-61');
if (!kind) throw new Error('there are no 61 keys');
const device = newDevice(kind, 'keys', 'rig', []);
if (device.kind !== 'keyboard') throw new Error('it is no keyboard');
const wanted = { ...wantedSettings(device), sendsOn: [4], octave: 1 };

let stored: Map<string, string>;
beforeEach(() => {
  stored = new Map();
  vi.stubGlobal('localStorage', {
    getItem: (key: string) => stored.get(key) ?? null,
    setItem: (key: string, text: string) => stored.set(key, text),
  });
});

/** Talks with the memory behind the device’s port until it is over. */
async function talk(settings: typeof wanted | null) {
  let exchange: SettingsExchange | null = null;
  const memories = new StandInMemories(
    (port) => (port === device.port ? device : undefined),
    (_port, bytes) => exchange?.receive(bytes.slice(1, -1), 0),
  );
  exchange = new SettingsExchange(settings, (bytes) => memories.receive(device.port, bytes), 1, 0);
  for (let turn = 0; turn < 30 && !exchange.isOver; turn++) {
    await new Promise((resolve) => setTimeout(resolve));
    exchange.advance(turn);
  }
  return exchange.state;
}

it('hold what they ship with until something is written, and then that, in whatever window', async () => {
  expect(readStandIn(device)?.settings).toEqual(wantedSettings(device));
  expect(await talk(wanted)).toMatchObject({ step: 'read', differences: [] });
  expect(readStandIn(device)?.settings).toEqual(wanted);
  // Another window, another day.
  expect(await talk(null)).toMatchObject({ step: 'read', settings: wanted });
});

it('misbehave as they were told to, and keep what they held', async () => {
  writeStandIn(device.port, { settings: wantedSettings(device), misbehaviour: 'stops half-way' });
  expect(await talk(wanted)).toMatchObject({ step: 'failed' });
  expect(readStandIn(device)).toMatchObject({
    settings: wantedSettings(device),
    misbehaviour: 'stops half-way',
  });
});

it('hold what they ship with when the store holds something else, and play on when it is full', async () => {
  stored.set(`pentachord stand-in ${device.port}`, '{"settings":{"sendsOn":[99]}}');
  expect(readStandIn(device)?.settings.sendsOn).toEqual([device.channel]);
  vi.stubGlobal('localStorage', {
    getItem: () => null,
    setItem: () => {
      throw new Error('full');
    },
  });
  expect(await talk(wanted)).toMatchObject({ step: 'read' });
});
