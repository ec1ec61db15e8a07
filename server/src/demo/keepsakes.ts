import type { Keepsake } from '@pentachord/core/model';
import type { DemoSong } from './songs.js';

/** What the demo's player keeps: a sound made duller, the layer that joins when dug in, and a whole patch. */
export function demoKeepsakes(songs: readonly DemoSong[]): Keepsake[] {
  const patches = songs.flatMap((song) => song.patches);
  const beam = patches.find((patch) => patch.name === 'One harp, two hands');
  const tide = patches.find((patch) => patch.name === 'Piano over the tide');
  const layer = beam?.layers.find(({ name }) => name === 'Left-hand harp, dug in');
  const sound = beam?.sounds.find(({ id }) => id === layer?.soundId);
  if (!tide || !layer || !sound) return [];
  return [
    {
      id: 'demo-kept-harp',
      name: 'Harp behind a curtain',
      favourite: false,
      content: {
        kind: 'sound',
        sound: { ...sound, timbre: { ...sound.timbre, brightness: -0.4, release: 0.3 } },
      },
    },
    {
      id: 'demo-kept-dug-in',
      name: 'Harp that joins when dug in',
      favourite: true,
      content: { kind: 'layer', sound, layer, treatments: [], controls: [], choosers: [] },
    },
    {
      id: 'demo-kept-tide',
      name: 'Piano over the tide',
      favourite: false,
      content: { kind: 'patch', patch: tide },
    },
  ];
}
