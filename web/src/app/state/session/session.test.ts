import { describe, expect, it } from 'vitest';
import { NOWHERE, bookmarkSchema, session, sessionReducer, type SessionState } from './session';

const at: SessionState = {
  ...NOWHERE,
  songId: 'song',
  cueId: 'one',
  patchId: 'patch',
  layerId: 'layer',
  soloed: ['layer'],
};

describe('where the player is', () => {
  it('keeps the selected layer and its solo while the patch stays, and lets them go with it', () => {
    const same = sessionReducer(
      at,
      session.cueReached({ entryId: null, songId: 'song', cueId: 'two', patchId: 'patch' }),
    );
    expect(same).toMatchObject({ cueId: 'two', layerId: 'layer', soloed: ['layer'] });
    const other = sessionReducer(
      at,
      session.cueReached({ entryId: null, songId: 'song', cueId: 'three', patchId: 'other' }),
    );
    expect(other).toMatchObject({ patchId: 'other', layerId: null, soloed: [] });
    const opened = sessionReducer(at, session.patchOpened({ patchId: 'other' }));
    expect(opened).toMatchObject({ patchId: 'other', cueId: 'one', layerId: null, soloed: [] });
  });

  it('leaves no other song’s patch on the desk when a step has none', () => {
    const next = sessionReducer(
      at,
      session.cueReached({ entryId: null, songId: 'bare', cueId: null, patchId: null }),
    );
    expect(next).toMatchObject({ songId: 'bare', cueId: null, patchId: null });
  });

  it('solos and unsolos layer by layer, and never into Showtime', () => {
    const two = sessionReducer(at, session.soloToggled({ layerId: 'second' }));
    expect(two.soloed).toEqual(['layer', 'second']);
    expect(sessionReducer(two, session.soloToggled({ layerId: 'layer' })).soloed).toEqual([
      'second',
    ]);
    const playing = sessionReducer(two, session.showtimeEntered());
    expect(playing).toMatchObject({ showtime: true, soloed: [] });
    expect(sessionReducer(playing, session.showtimeLeft()).showtime).toBe(false);
  });

  it('remembers a place only when it can be read again', () => {
    const place = {
      showId: 's',
      entryId: 'e',
      songId: 'a',
      cueId: null,
      patchId: 'p',
      keyboardId: null,
    };
    expect(bookmarkSchema.parse(JSON.parse(JSON.stringify(place)))).toEqual(place);
    expect(bookmarkSchema.safeParse({ ...place, songId: 7 }).success).toBe(false);
    expect(bookmarkSchema.safeParse(null).success).toBe(false);
  });
});
