import { describe, expect, it } from 'vitest';
import { NEUTRAL_KINDS, newDevice } from '../rig/kinds.js';
import { ANSWER_WITHIN, SettingsExchange } from './exchange.js';
import {
  PACKET,
  type Command,
  inPackets,
  packetBytes,
  readPacket,
  settingsPayload,
} from './packets.js';
import { REFUSAL, StandInMemory } from './stand-in-memory.js';
import { wantedSettings } from './comparing.js';

const kind = NEUTRAL_KINDS.find(({ id }) => id === 'keys-61');
if (!kind) throw new Error('there are no 61 keys');
const device = newDevice(kind, 'keys', 'rig', []);
if (device.kind !== 'keyboard') throw new Error('it is no keyboard');
const before = wantedSettings(device);
const wanted = { ...before, sendsOn: [4], octave: 1 };
const inner = (bytes: readonly number[]) => bytes.slice(1, -1);
const answer = (command: Command, exchange: number, packet: number, payload: number[] = []) =>
  inner(packetBytes({ command, exchange, packet, of: 1, payload }));

describe('an exchange of settings', () => {
  it('is not ended by answers to another one, nor by an order refused late', () => {
    const said: number[][] = [];
    const exchange = new SettingsExchange(wanted, (bytes) => said.push([...bytes]), 5, 0);
    const memory = new StandInMemory(before);
    const step = exchange.state;
    for (const command of [PACKET.done, PACKET.dump]) exchange.receive(answer(command, 6, 0), 0.1);
    expect(exchange.state).toEqual(step);
    for (let at = 0; at < said.length && exchange.state.step === 'writing'; at++)
      for (const reply of memory.receive(inner(said[at]))) exchange.receive(inner(reply), 0.1);
    expect(exchange.state).toEqual({ step: 'reading', wrote: true });
    exchange.receive(answer(PACKET.refused, 5, 0, [REFUSAL.order]), 0.2);
    expect(exchange.isOver).toBe(false);
    for (const reply of memory.receive(inner(said.at(-1) ?? [])))
      exchange.receive(inner(reply), 0.3);
    expect(exchange.state).toMatchObject({ step: 'read', wrote: true, differences: [] });
  });

  it('says a packet again whose answer was lost, and the device takes it once', () => {
    const said: number[][] = [];
    const exchange = new SettingsExchange(wanted, (bytes) => said.push([...bytes]), 5, 0);
    const memory = new StandInMemory(before);
    let time = 0;
    for (let turn = 0; turn < 60 && !exchange.isOver; turn++) {
      const replies = memory.receive(inner(said.at(-1) ?? []));
      // Every other answer is lost.
      if (turn % 2 === 0) exchange.advance((time += ANSWER_WITHIN + 0.01));
      else for (const reply of replies) exchange.receive(inner(reply), time);
    }
    expect(exchange.state).toMatchObject({ step: 'read', differences: [] });
    expect(memory.settings).toEqual(wanted);
  });
});

describe('the memory of a stand-in', () => {
  it('takes packets of one exchange in their order alone', () => {
    const memory = new StandInMemory(before);
    const packets = inPackets(PACKET.write, 7, settingsPayload(wanted));
    const tell = (packet: (typeof packets)[number]) => {
      const [reply] = memory.receive(inner(packetBytes(packet)));
      const read = readPacket(inner(reply));
      return typeof read === 'string' ? read : [read.command, read.payload.at(0)];
    };
    expect(packets.length).toBeGreaterThan(1);
    expect(tell(packets[1])).toEqual([PACKET.refused, REFUSAL.order]);
    expect(tell(packets[0])).toEqual([PACKET.done, undefined]);
    expect(tell({ ...packets[1], exchange: 8 })).toEqual([PACKET.refused, REFUSAL.order]);
    // Said twice, since its answer was lost.
    expect(tell(packets[0])).toEqual([PACKET.done, undefined]);
    for (const packet of packets.slice(1)) expect(tell(packet)[0]).toBe(PACKET.done);
    expect(memory.settings).toEqual(wanted);
  });
});
