import { MessageLog, USUAL_FILTER, type LoggedMessage } from '@pentachord/core/monitor';
import { beforeEach, expect, it } from 'vitest';
import { LogSource } from './log-source';

let log: MessageLog;
let source: LogSource;
let shown: readonly LoggedMessage[];
let times: number;
beforeEach(() => {
  log = new MessageLog(100);
  source = new LogSource(log, USUAL_FILTER);
  times = 0;
  source.connect().subscribe((lines) => {
    shown = lines;
    times++;
  });
});
const strike = (count: number) => {
  for (let note = 0; note < count; note++)
    log.add(note, 'in', 'Stage keys', 0, 0x90, note % 128, 80);
};

it('gives the list its length, and of the messages those that are asked for', () => {
  strike(5);
  log.add(9, 'in', 'Stage keys', 0, 0xf8, 0, 0);
  expect(source.follow()).toEqual({ length: 5, changed: true });
  expect(shown.length).toBe(5);
  expect(shown.slice(1, 3).map(({ data1 }) => data1)).toEqual([1, 2]);
  expect(shown.slice(4, 40)).toHaveLength(1);
});

it('says nothing as long as nothing comes that passes', () => {
  strike(3);
  source.follow();
  const before = times;
  log.add(9, 'in', 'Stage keys', 0, 0xf8, 0, 0);
  expect(source.follow().changed).toBe(false);
  expect(times).toBe(before);
});

it('goes on while the oldest go: as many lines, others in them', () => {
  strike(100);
  source.follow();
  strike(10);
  expect(source.follow()).toEqual({ length: 100, changed: true });
  expect(shown.slice(0, 1)[0].number).toBe(10);
  expect([...source.all()]).toHaveLength(100);
});

it('shows what another filter lets through, from the beginning', () => {
  strike(2);
  log.add(9, 'out', 'Sound box', -1, 0xc2, 5, 0);
  source.follow();
  source.filter = { ...USUAL_FILTER, ways: 2 };
  expect(source.follow().length).toBe(1);
  expect(shown.slice(0, 1)[0]).toMatchObject({ way: 'out', port: 'Sound box' });
});
