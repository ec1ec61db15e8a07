import { recordingSchema, type Recording } from '@pentachord/core/model';
import type { Knex } from 'knex';
import type { Condition } from './condition.js';
import { withConnection } from './database.js';
import { inTransaction, prepared } from './prepared.js';

interface Row {
  id: string;
  name: string;
  format: string;
  bytes: number;
  sample_rate: number;
  channels: number;
  bits: number;
  frames: number;
  heard: string;
  claims: string;
}

/** A recording that sounds need, and which. */
export interface NeededRecording {
  id: string;
  /** Names of the sounds. */
  sounds: string[];
}

/** What the database knows of recordings; their bytes lie beside it, see `RecordingFiles`. */
export class RecordingRows {
  constructor(
    private readonly knex: Knex,
    private readonly condition: Condition,
  ) {}

  /** All that can be read. */
  async all(): Promise<Recording[]> {
    const rows = await this.knex<Row>('recordings').orderBy(['name', 'id']);
    return rows.flatMap((row) => {
      const recording = fromRow(row);
      return recording ? [recording] : [];
    });
  }

  /** Enters recordings that are not known; one that is known stays as it is. Gives back how many were new. */
  async enter(recordings: readonly Recording[]): Promise<number> {
    const { readOnly } = this.condition;
    if (readOnly) throw new Error(readOnly);
    const entered = await withConnection(this.knex, (connection) => {
      const statement = prepared(
        connection,
        'insert into recordings (id, name, format, bytes, sample_rate, channels, bits, frames, heard, claims) values (?,?,?,?,?,?,?,?,?,?) on conflict (id) do nothing',
      );
      return recordings.filter((recording) => statement.run(values(recording)).changes > 0).length;
    });
    if (entered > 0) this.condition.writes++;
    return entered;
  }

  /**
   * Forgets those that no sound needs at this very moment, whoever has asked for what in between; gives them back, with those that
   * were not known.
   */
  async forget(ids: readonly string[]): Promise<string[]> {
    return withConnection(this.knex, (connection) =>
      inTransaction(connection, () => {
        const needed = new Set(
          prepared(connection, 'select distinct recording_id from sound_zones').pluck().all(),
        );
        const going = ids.filter((id) => !needed.has(id));
        const statement = prepared(connection, 'delete from recordings where id = ?');
        for (const id of going) statement.run(id);
        if (going.length > 0) this.condition.writes++;
        return going;
      }),
    );
  }

  /** The recordings that sounds need. */
  async needed(): Promise<NeededRecording[]> {
    const rows = await this.knex('sound_zones')
      .join('sounds', 'sounds.id', 'sound_zones.sound_id')
      .distinct<{ id: string; name: string }[]>({ id: 'recording_id', name: 'sounds.name' })
      .orderBy(['id', 'name']);
    const needed = new Map<string, NeededRecording>();
    for (const { id, name } of rows) {
      const there = needed.get(id) ?? { id, sounds: [] };
      there.sounds.push(name);
      needed.set(id, there);
    }
    return [...needed.values()];
  }
}

function values(recording: Recording): (string | number)[] {
  const { id, name, format, bytes, sampleRate, channels, bits, frames } = recording;
  return [
    ...[id, name, format, bytes, sampleRate, channels, bits, frames],
    JSON.stringify(recording.heard),
    JSON.stringify(recording.claims),
  ];
}

/** What a row says; null for one that cannot be read any more, which can be brought in again. */
function fromRow({ sample_rate, heard, claims, ...row }: Row): Recording | null {
  try {
    const parsed = { heard: JSON.parse(heard) as unknown, claims: JSON.parse(claims) as unknown };
    return recordingSchema.parse({ ...row, sampleRate: sample_rate, ...parsed });
  } catch {
    return null;
  }
}
