import { Injector, runInInjectionContext } from '@angular/core';
import { newLayer, newPatchSound, type CarriedLayers } from '@pentachord/core/model';
import { beforeEach, describe, expect, it } from 'vitest';
import { StatusLine } from '../../state/session/status-line';
import { Carrying } from '../../state/editing/carrying';
import { LayerClipboard } from './layer-clipboard';

const carried: CarriedLayers = {
  sounds: [newPatchSound('tine', 'house-tine-piano')],
  layers: [newLayer('left', 'Left', 'tine'), newLayer('right', 'Right', 'tine')],
  treatments: [],
  controls: [],
  choosers: [],
};

describe('layers on the clipboard', () => {
  let pasted: { carried: CarriedLayers; words: string }[];
  let clipboard: LayerClipboard;
  beforeEach(() => {
    pasted = [];
    const carrying = {
      carry: (ids: readonly string[]) => (ids.length > 0 ? carried : null),
      paste: (layers: CarriedLayers, words: string) => pasted.push({ carried: layers, words }),
    };
    const injector = Injector.create({
      providers: [{ provide: Carrying, useValue: carrying }, StatusLine],
    });
    clipboard = runInInjectionContext(injector, () => new LayerClipboard());
  });

  it('are text that comes back as the same layers, in another window too', () => {
    const text = clipboard.textOf(['left', 'right']) ?? '';
    expect(clipboard.paste(text)).toBe(true);
    expect(pasted).toEqual([{ carried, words: 'layers pasted' }]);
    expect(clipboard.textOf([])).toBeNull();
  });

  it('are the last ones copied here, when the clipboard says something else', () => {
    expect(clipboard.paste('a line of a lyric')).toBe(false);
    clipboard.textOf(['left']);
    expect(clipboard.paste('a line of a lyric')).toBe(true);
    expect(pasted).toHaveLength(1);
  });

  it.each<[string, unknown]>([
    ['another format', { format: 'something else', carried }],
    ['a later version', { format: 'pentachord layers 2', carried }],
    ['no layers', { format: 'pentachord layers 1', carried: { ...carried, layers: [] } }],
    [
      'a layer without its sound',
      { format: 'pentachord layers 1', carried: { ...carried, sounds: [] } },
    ],
    [
      'a level beyond all bounds',
      {
        format: 'pentachord layers 1',
        carried: { ...carried, layers: [{ ...carried.layers[0], level: 900 }] },
      },
    ],
    ['an unknown field', { format: 'pentachord layers 1', carried, more: 1 }],
  ])('are not taken from %s', (_what, content) => {
    expect(clipboard.paste(JSON.stringify(content))).toBe(false);
    expect(pasted).toEqual([]);
  });
});
