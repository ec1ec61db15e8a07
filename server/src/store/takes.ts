import { promisify } from 'node:util';
import { deflate, inflate } from 'node:zlib';
import { MOST_RECORDS, RECORD_BYTES, rollProblem, type WholeTake } from '@pentachord/core/logbook';
import {
  takeInShort,
  takeInShortSchema,
  takeSchema,
  takeWordsSchema,
  type TakeInShort,
  type TakeWords,
} from '@pentachord/core/model';
import type { Knex } from 'knex';
import type { Condition } from './condition.js';

interface Row {
  id: string;
  name: string;
  stretches: string;
  played_where: string;
  began: number;
  seconds: number;
  show_id: string | null;
  show: string;
  songs: string;
  keys: number;
  cues: number;
  heading: string;
  roll: Buffer;
}

const packed = promisify<Buffer | Uint8Array, Buffer>(deflate);
const unpacked = promisify(inflate);

/** What was played and is kept for good. */
export class Takes {
  constructor(
    private readonly knex: Knex,
    private readonly condition: Condition,
  ) {}

  /** All that can be read, in short, the latest first. */
  async inShort(): Promise<TakeInShort[]> {
    const rows = await this.knex<Row>('takes')
      .select(
        ...['id', 'name', 'stretches', 'played_where', 'began', 'seconds', 'show_id', 'show'],
        ...['songs', 'keys', 'cues'],
      )
      .orderBy([{ column: 'began', order: 'desc' }, 'id']);
    return (rows as Row[]).flatMap((row) => {
      const read = takeInShortSchema.safeParse(inShortOf(row));
      return read.success ? [read.data] : [];
    });
  }

  /** A take with its roll; null when there is none of that id, or it cannot be read any more. */
  async find(id: string): Promise<WholeTake | null> {
    const row = await this.knex<Row>('takes').where({ id }).first();
    if (!row) return null;
    try {
      const heading = JSON.parse(row.heading) as object;
      const take = takeSchema.parse({ ...heading, ...inShortOf(row) });
      const most = { maxOutputLength: MOST_RECORDS * RECORD_BYTES };
      const roll = new Uint8Array(await unpacked(row.roll, most));
      return rollProblem(roll, take) === null ? { take, roll } : null;
    } catch {
      return null;
    }
  }

  /** Keeps a take; of one that is there already its words and its roll are replaced: it may have gone on since. */
  async keep({ take, roll }: WholeTake): Promise<'kept' | 'already'> {
    this.mayWrite();
    const { senders, layers, steps, tempos, nights, long, lost } = take;
    const short = takeInShort(take);
    const row: Row = {
      ...wordsIn(short),
      ...{ id: short.id, played_where: short.where, began: short.began, seconds: short.seconds },
      ...{ show_id: short.showId, show: short.show, songs: JSON.stringify(short.songs) },
      ...{ keys: short.keys, cues: short.cues },
      heading: JSON.stringify({ senders, layers, steps, tempos, nights, long, lost }),
      roll: await packed(roll),
    };
    const there = await this.knex<Row>('takes').where({ id: take.id }).select('id').first();
    await this.knex<Row>('takes').insert(row).onConflict('id').merge();
    this.condition.writes++;
    return there ? 'already' : 'kept';
  }

  /** Takes over what a player says of a take; false when it is not there. */
  async say(id: string, words: TakeWords): Promise<boolean> {
    this.mayWrite();
    const changed = await this.knex<Row>('takes').where({ id }).update(wordsIn(words));
    if (changed > 0) this.condition.writes++;
    return changed > 0;
  }

  /** Removes a take; false when it was not there. */
  async remove(id: string): Promise<boolean> {
    this.mayWrite();
    const removed = await this.knex<Row>('takes').where({ id }).delete();
    if (removed > 0) this.condition.writes++;
    return removed > 0;
  }

  private mayWrite(): void {
    const { readOnly } = this.condition;
    if (readOnly) throw new Error(readOnly);
  }
}

function wordsIn(words: TakeWords): Pick<Row, 'name' | 'stretches'> {
  const { name, stretches } = takeWordsSchema.parse({
    name: words.name,
    stretches: words.stretches,
  });
  return { name, stretches: JSON.stringify(stretches) };
}

function inShortOf({ id, name, stretches, began, seconds, show, songs, keys, cues, ...row }: Row) {
  return {
    ...{ id, name, began, seconds, show, keys, cues },
    ...{ where: row.played_where, showId: row.show_id },
    ...{ stretches: JSON.parse(stretches) as unknown, songs: JSON.parse(songs) as unknown },
  };
}
