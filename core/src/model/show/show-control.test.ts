import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { devices } from '../../testing/small-show.js';
import type { Place } from '../rig/place.js';
import { goingSchema, USUAL_GOING } from './going.js';
import { nightSchema, newNight } from './night.js';
import {
  ACTION_NAMES,
  canTie,
  controlInWords,
  sameMessage,
  showControlSchema,
  type ShowAction,
} from './show-control.js';
import type { ShowMessage } from './show-message.js';

const messages: ShowMessage[] = [
  { kind: 'pad', pad: 1 },
  { kind: 'knob', knob: 1 },
  { kind: 'pedal' },
  { kind: 'note', note: 39 },
  { kind: 'controller', controller: 20 },
  { kind: 'program', program: 4 },
  { kind: 'programs' },
  { kind: 'songSelect' },
];

describe('a control of the show', () => {
  it('is pressed, moved, or bears a number: each action takes what it can use', () => {
    const takes = (action: ShowAction) =>
      messages.filter((message) => canTie(action, message)).map(({ kind }) => kind);
    expect(takes('trim')).toEqual(['knob', 'pedal', 'controller']);
    expect(takes('chooseSong')).toEqual(['programs', 'songSelect']);
    for (const action of Object.keys(ACTION_NAMES) as ShowAction[])
      if (action !== 'trim' && action !== 'chooseSong')
        expect(takes(action)).toEqual(['pad', 'knob', 'pedal', 'note', 'controller', 'program']);
  });

  it('is told in a player’s words, counted as players count', () => {
    const words = (place: Place, message: ShowMessage) =>
      controlInWords({ place, message }, devices);
    expect(messages.map((message) => words('pads1', message))).toEqual([
      'pad 2',
      'knob 2',
      'pads',
      'Pads note 39',
      'Pads CC 20',
      'Pads program 5',
      'program changes of Pads',
      'song select of Pads',
    ]);
    expect(words('pedal3', { kind: 'pedal' })).toBe('right pedal');
    expect(words('pads2', { kind: 'pad', pad: 0 })).toBe('pad 1 of pads 2');
    expect(words('keys1', { kind: 'note', note: 39 })).toBe('Upper note 39');
    expect(words('keys9', { kind: 'note', note: 39 })).toBe('keys 9 note 39');
  });

  it('is the same as another only by kind and number', () => {
    for (const a of messages) for (const b of messages) expect(sameMessage(a, b)).toBe(a === b);
    expect(sameMessage({ kind: 'note', note: 39 }, { kind: 'controller', controller: 39 })).toBe(
      false,
    );
    expect(sameMessage({ kind: 'program', program: 1 }, { kind: 'program', program: 2 })).toBe(
      false,
    );
  });

  it('says where it goes or what it trims, and nothing that is not its own', () => {
    const control = { place: 'pads1', message: messages[0] };
    const holds = (more: object) => showControlSchema.safeParse({ ...control, ...more }).success;
    expect(holds({ action: 'nextCue' })).toBe(true);
    expect(holds({ action: 'goTo', songId: 'song', cueId: null })).toBe(true);
    expect(holds({ action: 'goTo' })).toBe(false);
    expect(holds({ action: 'trim', layer: 15 })).toBe(true);
    expect(holds({ action: 'trim', layer: 16 })).toBe(false);
    expect(holds({ action: 'nextCue', songId: 'song' })).toBe(false);
    expect(holds({ action: 'jump' })).toBe(false);
  });
});

describe('how a show is gone through', () => {
  it('keeps to what makes sense', () => {
    const { clock } = USUAL_GOING;
    const holds = (more: object) => goingSchema.safeParse({ ...USUAL_GOING, ...more }).success;
    expect(holds({})).toBe(true);
    expect(holds({ guardSeconds: 2.1 })).toBe(false);
    expect(holds({ atEnd: 'repeat' })).toBe(false);
    expect(holds({ clock: { ...clock, countInBars: 5 } })).toBe(false);
    expect(holds({ clock: { ...clock, leader: '' } })).toBe(false);
    expect(holds({ clock: { ...clock, click: { ...clock.click, output: '9-10' } } })).toBe(false);
  });

  it('and what a night remembers is bounded, whatever is written into it', () => {
    const trim = { entryId: 'e', cueId: null, patchId: 'p', layerId: 'l' };
    fc.assert(
      fc.property(fc.double(), (by) => {
        const night = { ...newNight('show'), trims: [{ ...trim, by }] };
        expect(nightSchema.safeParse(night).success).toBe(by >= -24 && by <= 12);
      }),
    );
  });
});
