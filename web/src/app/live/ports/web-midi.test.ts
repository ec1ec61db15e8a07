import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { WebMidiPorts } from './web-midi';

/** A port of a browser, as much as is used of it. */
class SomePort {
  sent: number[][] = [];
  onmidimessage: ((event: { data: Uint8Array; timeStamp: number }) => void) | null = null;
  constructor(
    readonly type: 'input' | 'output',
    readonly name: string,
    public state = 'connected',
  ) {}
  send(bytes: number[]): void {
    this.sent.push(bytes);
  }
}

const keys = new SomePort('input', 'Stage keys');
const box = new SomePort('output', 'Sound box');
class Access extends EventTarget {
  inputs = new Map([['1', keys]]);
  outputs = new Map<string, SomePort>();
  tell(port: SomePort): void {
    this.dispatchEvent(Object.assign(new Event('statechange'), { port }));
  }
}
let access: Access;
let ports: WebMidiPorts;
beforeEach(() => {
  access = new Access();
  vi.stubGlobal('navigator', { requestMIDIAccess: () => Promise.resolve(access) });
  ports = new WebMidiPorts();
});
afterEach(() => vi.unstubAllGlobals());

it('tells of an input that is unplugged, and of outputs that come and go', async () => {
  const gone: string[] = [];
  const outputs: string[] = [];
  ports.onInputGone = (port) => gone.push(port);
  ports.onOutput = (port) => outputs.push(port);
  expect(await ports.connect()).toBe('connected');
  expect([gone, outputs, ports.output('Sound box')]).toEqual([[], [], null]);
  access.outputs.set('2', box);
  access.tell(box);
  expect(outputs).toEqual(['Sound box']);
  ports.output('Sound box')?.send([0x90, 60, 1], 0);
  expect(box.sent).toEqual([[0x90, 60, 1]]);
  keys.state = 'disconnected';
  access.tell(keys);
  expect(gone).toEqual(['Stage keys']);
});

it('tells at once of outputs that were there before it asked', async () => {
  access.outputs.set('2', box);
  const outputs: string[] = [];
  ports.onOutput = (port) => outputs.push(port);
  await ports.connect();
  expect(outputs).toEqual(['Sound box']);
});

it('asks the player once, and after a refusal only when that is wanted', async () => {
  let asked = 0;
  vi.stubGlobal('navigator', { requestMIDIAccess: () => Promise.reject(new Error(`${++asked}`)) });
  ports = new WebMidiPorts();
  expect(await Promise.all([ports.connect(), ports.connect()])).toEqual(['refused', 'asking']);
  expect([await ports.connect(), asked]).toEqual(['refused', 1]);
  expect([await ports.connect(true), asked]).toEqual(['refused', 2]);
});

it('tells of an input that comes while playing, and passes its bytes on from then', async () => {
  const came: string[] = [];
  const heard: [string, number[]][] = [];
  ports.onInputCame = (port) => came.push(port);
  ports.open((port, bytes) => heard.push([port, Array.from(bytes)]));
  await ports.connect();
  const late = new SomePort('input', 'Late keys');
  access.inputs.set('9', late);
  access.tell(late);
  expect(came).toEqual(['Late keys']);
  late.onmidimessage?.({ data: Uint8Array.of(0x90, 60, 1), timeStamp: 5 });
  expect(heard).toEqual([['Late keys', [0x90, 60, 1]]]);
  expect(ports.inputs).toContain('Late keys');
});
