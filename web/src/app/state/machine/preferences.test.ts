import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import {
  preferences,
  preferencesReducer,
  rememberedPreferences,
  rememberPreferences,
  USUAL_PREFERENCES,
} from './preferences';

describe('preferences', () => {
  let kept: Map<string, string>;
  beforeEach(() => {
    kept = new Map();
    vi.stubGlobal('localStorage', {
      getItem: (key: string) => kept.get(key) ?? null,
      setItem: (key: string, value: string) => kept.set(key, value),
    });
  });
  afterEach(() => vi.unstubAllGlobals());

  it('are as usual until somebody says otherwise, and are remembered', () => {
    expect(rememberedPreferences()).toEqual(USUAL_PREFERENCES);
    const flats = { ...USUAL_PREFERENCES, accidentals: 'flats', channel: 4 } as const;
    rememberPreferences(flats);
    expect(rememberedPreferences()).toEqual(flats);
    const state = preferencesReducer(undefined, preferences.remembered({ preferences: flats }));
    expect(preferencesReducer(state, preferences.changed({ changes: { middleC: 5 } }))).toEqual({
      ...flats,
      middleC: 5,
    });
  });

  it('that cannot be read are as usual, and what an older version did not know is added', () => {
    for (const text of ['{', 'null', '"x"', '{"middleC":7}', '{"pairs":{"main":-1}}']) {
      kept.set('pentachord preferences', text);
      expect(rememberedPreferences()).toEqual(USUAL_PREFERENCES);
    }
    kept.set('pentachord preferences', '{"middleC":3}');
    expect(rememberedPreferences()).toEqual({ ...USUAL_PREFERENCES, middleC: 3 });
  });

  it('hold as long as the page is open where a browser keeps nothing', () => {
    vi.stubGlobal('localStorage', {
      getItem: () => {
        throw new Error('refused');
      },
      setItem: () => {
        throw new Error('refused');
      },
    });
    expect(rememberedPreferences()).toEqual(USUAL_PREFERENCES);
    expect(() => rememberPreferences(USUAL_PREFERENCES)).not.toThrow();
  });
});
