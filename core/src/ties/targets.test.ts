import { describe, expect, it } from 'vitest';
import { newAccompanist } from '../model/patch/accompanist.js';
import { BAND_SETTINGS } from '../model/patch/band-settings.js';
import { newChooser } from '../model/patch/chooser.js';
import {
  controlTargetSchema,
  keyOfTarget,
  limitsOf,
  usualTravel,
} from '../model/patch/control-target.js';
import { targetInWords } from '../model/patch/target-words.js';
import { newPatch } from '../model/patch/patch.js';
import { freeTieSchema, tieSchema, usualManner, type Tie } from '../model/patch/tie.js';
import { newTreatment } from '../model/patch/treatment.js';
import { layer } from '../testing/fixtures.js';
import type { Owner } from './in-force.js';
import { choicesOf, whatInWords, whatOf, WHATS, type TargetSources, type What } from './targets.js';
import { actsInWords, CURVE_NAMES, jobInWords, OWNER_NAMES, READS_NAMES } from './words.js';

const patch = {
  ...newPatch('patch', 'song', 0, 'Patch'),
  layers: [
    layer('right', { name: 'Right tine', soundId: 'tine' }),
    layer('left', { name: 'Left tine', soundId: 'tine' }),
    layer('bass', { name: 'Ebb bass', soundId: 'bass' }),
  ],
  treatments: [newTreatment('chord', 'chord', ['left'])],
};
const choosing = {
  ...patch,
  choosers: [newChooser('hand', 'Right hand', patch.layers)],
  accompanists: [newAccompanist('drums', 'Quay drums', 'keys2')],
};
const sources: TargetSources = {
  patch: choosing,
  places: ['keys1', 'pedalboard1', 'pads1', 'pedal3'],
  steps: [
    { songId: 'song', cueId: null, name: 'Saltglass' },
    { songId: 'song', cueId: 'cue', name: 'Saltglass: lift' },
  ],
};
const all = WHATS.flatMap(({ whats }) => whats);
const words = (what: What, owner: Owner) => choicesOf(what, owner, sources).map((c) => c.words);

describe('what can be moved', () => {
  it('is offered whole: every target can be checked, is what it was chosen as, and is no other', () => {
    for (const owner of ['patch', 'song', 'rig'] as const)
      for (const what of all) {
        const choices = choicesOf(what, owner, sources);
        // Accompanists are a patch’s own.
        if (owner !== 'patch' && what in BAND_SETTINGS) continue;
        expect(choices.length, `${what} for ${owner}`).toBeGreaterThan(0);
        expect(new Set(choices.map(({ target }) => keyOfTarget(target))).size).toBe(choices.length);
        for (const { target } of choices) {
          expect(controlTargetSchema.parse(target)).toEqual(target);
          expect(whatOf(target)).toBe(what);
          const { min, max } = limitsOf(target);
          const { from, to } = usualTravel(target);
          expect(Math.min(from, to)).toBeGreaterThanOrEqual(min);
          expect(Math.max(from, to)).toBeLessThanOrEqual(max);
        }
      }
    expect(new Set(all.map(whatInWords)).size).toBe(all.length);
  });

  it('is a patch’s own layers, sounds and treatments, and letters for whoever has more than one patch', () => {
    expect(words('level', 'patch')).toEqual(['A Right tine', 'B Left tine', 'C Ebb bass']);
    // Two layers share a sound: it is one.
    expect(words('brightness', 'patch')).toEqual(['A Right tine', 'C Ebb bass']);
    expect(words('level', 'rig').slice(0, 4)).toEqual([
      'layer A: Right tine here',
      'layer B: Left tine here',
      'layer C: Ebb bass here',
      'layer D',
    ]);
    expect(words('treatment', 'patch')).toHaveLength(1);
    expect(words('treatment', 'song')[7]).toBe('treatment 8');
    // A trim belongs to the night and is known by letter alone.
    expect(words('trim', 'patch')[0]).toBe('layer A: Right tine here');
  });

  it('is what a chooser has, what is played with hands or feet, and every step of the show', () => {
    expect(words('choose', 'patch')).toEqual([
      'Right hand: the next',
      'Right hand: by its sectors',
      'Right hand: Right tine',
      'Right hand: Left tine',
      'Right hand: Ebb bass',
    ]);
    expect(words('choose', 'rig')).toContain('chooser 2: the next');
    expect(words('octave', 'rig')).toEqual(['upper keys', 'pedalboard', 'pads']);
    expect(words('goTo', 'song')).toEqual(['Saltglass', 'Saltglass: lift']);
    expect(choicesOf('choose', 'patch', { ...sources, patch })).toEqual([]);
    expect(choicesOf('level', 'patch', { ...sources, patch: null })).toEqual([]);
  });

  it('is for a song or a rig only what means something in every patch', () => {
    for (const what of all) {
      if (what in BAND_SETTINGS) continue;
      const [free] = choicesOf(what, 'rig', sources);
      const [own] = choicesOf(what, 'patch', sources);
      const tie = (target: Tie['target']): Tie => ({
        ...{ id: 'tie', place: 'knobs1', message: { kind: 'bend' }, from: 0, to: 1, target },
        ...usualManner({ kind: 'bend' }),
      });
      expect(freeTieSchema.safeParse(tie(free.target)).success).toBe(true);
      const isOwn = ['layer', 'sound', 'treatment'].includes(own.target.kind);
      expect(freeTieSchema.safeParse(tie(own.target)).success).toBe(!isOwn);
      expect(tieSchema.safeParse(tie(own.target)).success).toBe(true);
    }
  });
});

describe('what a control does, in words', () => {
  const called = (songId: string, cueId: string | null) => `${songId} ${cueId ?? ''}`.trim();

  it('names what is there, and what would be', () => {
    const told = (target: Parameters<typeof targetInWords>[0]) =>
      targetInWords(target, { ...patch, called });
    expect(told({ kind: 'letter', layer: 3, parameter: 'reverb' })).toBe('reverb send of layer D');
    expect(told({ kind: 'layer', layerId: 'bass', parameter: 'solo' })).toBe(
      'solo of Ebb bass on and off',
    );
    expect(told({ kind: 'layer', layerId: 'gone', parameter: 'level' })).toBe(
      'level of a layer that is gone',
    );
    expect(told({ kind: 'nthTreatment', treatment: 1 })).toBe('treatment 2 on and off');
    expect(told({ kind: 'octave', place: 'keys2' })).toBe('octave of lower keys');
    expect(told({ kind: 'show', action: 'tapTempo' })).toBe('tap the tempo');
    expect(told({ kind: 'goTo', songId: 'Saltglass', cueId: 'lift' })).toBe('go to Saltglass lift');
    expect(told({ kind: 'choose', chooser: 0, picks: 'position' })).toBe('chooser 1, by sector');
    expect(told({ kind: 'choose', chooser: 1, picks: 2 })).toBe('chooser 2: 3');
  });

  it('says what a press does as it is tied', () => {
    const mute = { kind: 'letter', layer: 0, parameter: 'mute' } as const;
    const level = { ...mute, parameter: 'level' } as const;
    const pad = { kind: 'pad', pad: 0 } as const;
    const knob = { kind: 'knob', knob: 0 } as const;
    const next = { kind: 'show', action: 'nextCue' } as const;
    const told = (acts: Tie['acts'], message: Tie['message'], target: Tie['target']) =>
      actsInWords(acts, { message, target });
    expect(told('usual', pad, mute)).toBe('each strike turns it over');
    expect(told('usual', pad, level)).toBe('as hard as it is struck');
    expect(told('usual', knob, mute)).toBe('on from the middle');
    expect(told('usual', knob, level)).toBe('follows');
    expect(told('usual', pad, next)).toBe('once for each press');
    expect(
      new Set((['turnsOver', 'holds', 'steps'] as const).map((a) => told(a, pad, level))),
    ).toHaveProperty('size', 3);
    for (const names of [OWNER_NAMES, CURVE_NAMES, READS_NAMES])
      expect(new Set(Object.values(names)).size).toBe(Object.keys(names).length);
  });

  it('covers controls of the show and of choosers', () => {
    const job = { owner: 'show', place: 'pads1', message: { kind: 'pad', pad: 0 } } as const;
    const rest = { target: null, sent: null, yieldsTo: null };
    const show = (control: object) =>
      jobInWords(
        { ...job, ...rest, task: { kind: 'show', control: { ...job, ...control } } } as never,
        { ...patch, called },
      );
    expect(show({ action: 'nextCue' })).toBe('next cue');
    expect(show({ action: 'trim', layer: 2 })).toBe('trim layer C');
    expect(show({ action: 'goTo', songId: 'Saltglass', cueId: null })).toBe('go to Saltglass');
    const [chooser] = choosing.choosers;
    const picks = (what: number | string) =>
      jobInWords(
        {
          ...job,
          ...rest,
          task: { kind: 'chooser', chooser, control: { ...job, picks: what } },
        } as never,
        patch,
      );
    expect([picks(1), picks('next'), picks('position'), picks(9)]).toEqual([
      'Right hand: picks Left tine',
      'Right hand: picks the next',
      'Right hand: picks by its sector',
      'Right hand: picks nothing',
    ]);
  });
});
