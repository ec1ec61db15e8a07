import { bytesOfTake, readTake } from '@pentachord/core/exchange';
import { KIND, newTake, Roll, type WholeTake } from '@pentachord/core/logbook';
import { takeInShortSchema } from '@pentachord/core/model';
import { afterEach, beforeEach, expect, it } from 'vitest';
import { serverUnderTest } from '../testing/server-under-test.js';

let server: Awaited<ReturnType<typeof serverUnderTest>>;
beforeEach(async () => {
  server = await serverUnderTest();
});
afterEach(() => server.close());

function aTake(id = 'night-one', notes = 3): WholeTake {
  const about = {
    ...{ id, name: 'A night', where: 'showtime' as const, began: 1_796_000_000_000 },
    ...{ showId: 'demo-show', show: 'Night Tide at Pier Nine' },
  };
  const roll = new Roll(100);
  for (let i = 0; i < notes; i++) roll.add(i, KIND.message, 0x90, 60 + i, 90, 0, 0);
  const senders = [{ port: 'a port', place: 'keys1' as const, name: 'Upper keys' }];
  return { take: { ...newTake(about), seconds: 10, keys: notes, senders }, roll: roll.take() };
}
const put = (whole: WholeTake, bytes = bytesOfTake(whole)) =>
  server.http
    .put(`/api/takes/${whole.take.id}`)
    .type('application/octet-stream')
    .send(Buffer.from(bytes));
const list = async () =>
  takeInShortSchema.array().parse((await server.http.get('/api/takes').expect(200)).body);
const read = async (id: string) => {
  const { body } = await server.http.get(`/api/takes/${id}`).responseType('blob').expect(200);
  return readTake(body as Buffer);
};

it('a take is kept as it is, named, and removed', async () => {
  const whole = aTake();
  await put(whole).expect(201);
  await put(aTake('night-two')).expect(201);
  // It has gone on since.
  await put(aTake('night-one', 5)).expect(200);
  expect(await read('night-one')).toEqual(aTake('night-one', 5));
  const words = { name: 'The good one', stretches: [{ id: 's', name: 'Solo', from: 1, until: 3 }] };
  await server.http.put('/api/takes/night-one/words').send(words).expect(204);
  expect(await read('night-one')).toMatchObject({ take: words });
  expect(await list()).toMatchObject([{ ...words, keys: 5 }, { id: 'night-two' }]);
  await server.http.delete('/api/takes/night-one').expect(204);
  expect((await list()).map(({ id }) => id)).toEqual(['night-two']);
});

it('what is no take, damaged, another’s or not there is refused in words, and nothing is changed', async () => {
  const whole = aTake();
  await put(whole).expect(201);
  const bytes = bytesOfTake(whole);
  const cases: [Uint8Array, RegExp][] = [
    [bytes.subarray(0, bytes.length - 3), /its roll is cut off\. Nothing was changed/],
    [bytes.with(bytes.length - 8, 200), /its roll is damaged/],
    [new Uint8Array(200), /it is no take/],
    [bytesOfTake(aTake('other')), /it is another take’s/],
  ];
  for (const [sent, words] of cases) {
    const { body } = await put(whole, sent as Uint8Array<ArrayBuffer>).expect(400);
    expect((body as { error: { message: string } }).error.message).toMatch(words);
  }
  const backwards = { name: 'x', stretches: [{ id: 's', name: 'y', from: 3, until: 1 }] };
  await server.http.put('/api/takes/night-one/words').send(backwards).expect(400);
  await server.http.put('/api/takes/none/words').send({ name: 'x', stretches: [] }).expect(404);
  await server.http.get('/api/takes/none').expect(404);
  await server.http.delete('/api/takes/none').expect(404);
  expect(await read('night-one')).toEqual(whole);
});
