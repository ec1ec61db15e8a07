import { newSong } from '@pentachord/core/model';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { Api } from './api';

afterEach(() => vi.unstubAllGlobals());
const value = newSong('song', 'Song');
const unsaved = { kind: 'songs' as const, id: 'song', revision: 3, value };
const answering = (status: number, body: unknown) => {
  const asked: RequestInit[] = [];
  vi.stubGlobal('fetch', (_path: string, init: RequestInit = {}) => {
    asked.push(init);
    const text = typeof body === 'string' ? body : JSON.stringify(body);
    return Promise.resolve(new Response(status === 204 ? null : text, { status }));
  });
  return asked;
};

describe('a save', () => {
  it('names the database it is meant for, and is kept for it when another one answers', async () => {
    const asked = answering(412, { error: { code: 'other-database', message: 'Another one.' } });
    expect(await new Api().save(unsaved, 'one')).toEqual({
      kind: 'failed',
      problem: 'another one.',
    });
    expect(await new Api().save({ ...unsaved, value: null }, 'one')).toMatchObject({
      kind: 'failed',
    });
    expect(asked.map(({ headers }) => new Headers(headers).get('Pentachord-Database'))).toEqual([
      ...['one', 'one'],
    ]);
  });

  it.each([
    [200, { revision: 4, value }, { kind: 'saved', revision: 4 }],
    [
      200,
      { nonsense: true },
      { kind: 'failed', problem: expect.stringContaining('cannot be read') },
    ],
    [502, '<html>', { kind: 'failed', problem: expect.stringContaining('cannot be read') }],
    [404, { error: { code: 'not-found', message: 'No.' } }, { kind: 'refused', problem: 'No.' }],
    [
      507,
      { error: { code: 'no-room', message: 'x' } },
      { kind: 'failed', problem: expect.stringContaining('disk is full') },
    ],
    [
      409,
      { error: { code: 'stale', message: 'x', present: null } },
      { kind: 'stale', present: null },
    ],
  ])('ends as the server says (%d)', async (status, body, outcome) => {
    answering(status, body);
    expect(await new Api().save(unsaved)).toEqual(outcome);
  });

  it('is given up when nothing answers, as a look at what is saved is, and tried again by whoever asked', async () => {
    vi.stubGlobal(
      'fetch',
      (_path: string, { signal }: RequestInit) =>
        new Promise((_resolve, reject) => {
          expect(signal).toBeInstanceOf(AbortSignal);
          reject(new DOMException('too long', 'TimeoutError'));
        }),
    );
    expect(await new Api().save(unsaved)).toMatchObject({
      kind: 'failed',
      problem: expect.stringContaining('does not answer'),
    });
    await expect(new Api().find('songs', 'song')).rejects.toThrow('too long');
    expect(await new Api().answers()).toBeNull();
  });
});
