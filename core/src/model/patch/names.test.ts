import fc from 'fast-check';
import { expect, it } from 'vitest';
import { keys } from '../../testing/fixtures.js';
import { nameSchema } from '../identity.js';
import { compareNames, freeName, nextName, partName } from './names.js';

it('numbers copies on from the first free number', () => {
  expect(nextName('Reed piano', ['Reed piano'])).toBe('Reed piano 2');
  expect(nextName('Reed piano 2', ['Reed piano', 'Reed piano 2'])).toBe('Reed piano 3');
  expect(nextName('Reed piano', ['Reed piano', 'Reed piano 2', 'Reed piano 3'])).toBe(
    'Reed piano 4',
  );
  expect(freeName('Bells', ['Pad'])).toBe('Bells');
  expect(freeName('Bells', ['Bells'])).toBe('Bells 2');
});

it('names the parts of a split by their keys, and not twice', () => {
  expect(partName('Piano', keys(0, 59), 4)).toBe('Piano up to B3');
  expect(partName('Piano up to B3', keys(28, 40), 4)).toBe('Piano E1–E2');
  expect(partName('Piano E1–E2', keys(34, 127), 3)).toBe('Piano from B♭0');
});

it('never makes a name that is too long', () => {
  const anyName = fc
    .string({ minLength: 1, maxLength: 120, unit: 'grapheme' })
    .filter((name) => nameSchema.safeParse(name).success);
  fc.assert(
    fc.property(anyName, fc.nat(127), (name, low) => {
      nameSchema.parse(nextName(name, [name]));
      nameSchema.parse(partName(name, keys(low, 127), 4));
    }),
  );
});

it('puts L2 before L10', () => {
  expect(['L10', 'L2', 'bells', 'Äther', 'L1'].sort(compareNames)).toEqual([
    'Äther',
    'bells',
    'L1',
    'L2',
    'L10',
  ]);
});
