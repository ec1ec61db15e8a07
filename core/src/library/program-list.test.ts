import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { soundSchema } from '../model/library/sound.js';
import { MOST_PROGRAMS, readPrograms, soundsOfPrograms } from './program-list.js';

const rows = (text: string) => text.split('\n').map((line) => line.split(','));

describe('a list of programs', () => {
  it('is read with its heading, its banks or none, and names that hold commas', () => {
    const read = readPrograms(
      rows(
        'Bank MSB,Bank LSB,Program,Name\n0,3,1,Harbour reeds\n, ,5,Fog horn, far away\n\n1,0,128,Last',
      ),
      1,
    );
    expect(read).toEqual({
      odd: [],
      programs: [
        { bank: { msb: 0, lsb: 3 }, program: 0, name: 'Harbour reeds' },
        { bank: null, program: 4, name: 'Fog horn, far away' },
        { bank: { msb: 1, lsb: 0 }, program: 127, name: 'Last' },
      ],
    });
  });

  it('says of every line that it cannot read why, and reads the others', () => {
    const { programs, odd } = readPrograms(
      rows(
        '0,0,0,Counted from 0\n0,0,7\n200,0,1,Bank\n0,x,1,Bank\n0,0,128,Program\n0,0,2,\n0,0,0,Twice',
      ),
      0,
    );
    expect(programs.map(({ name }) => name)).toEqual(['Counted from 0']);
    expect(odd.map(({ line, why }) => [line, why])).toEqual([
      [2, 'it has 3 of four columns: bank msb, bank lsb, program, name'],
      [3, 'bank msb “200” is no number from 0 to 127'],
      [4, 'bank lsb “x” is no number from 0 to 127'],
      [5, 'program “128” is no number from 0 to 127'],
      [6, 'it has no name'],
      [7, 'that program stands above already'],
    ]);
  });

  it('loses no line, whatever stands there, and makes sounds that can be saved', () => {
    let count = 0;
    fc.assert(
      fc.property(
        fc.array(
          fc.array(fc.oneof(fc.string(), fc.integer({ min: -5, max: 300 }).map(String)), {
            maxLength: 6,
          }),
          {
            maxLength: 30,
          },
        ),
        fc.constantFrom<0 | 1>(0, 1),
        (lines, firstProgram) => {
          const list = readPrograms(lines, firstProgram);
          const empty = lines.filter((row) => row.every((cell) => cell.trim() === '')).length;
          const heading = lines.length - empty - list.programs.length - list.odd.length;
          expect([0, 1]).toContain(heading);
          for (const sound of soundsOfPrograms(
            list.programs,
            'module1',
            3,
            () => `sound-${++count}`,
          ))
            expect(soundSchema.safeParse(sound).error).toBeUndefined();
        },
      ),
    );
    const many = Array.from({ length: MOST_PROGRAMS + 2 }, (_, at) => [
      ...[String(at >> 14), String((at >> 7) & 127), String(at & 127)],
      'x',
    ]);
    expect(readPrograms(many, 0).programs).toHaveLength(MOST_PROGRAMS);
    expect(readPrograms(many, 0).odd).toHaveLength(2);
  });
});
