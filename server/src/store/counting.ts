import { KINDS } from '@pentachord/core/model';
import type BetterSqlite3 from 'better-sqlite3';
import { FAMILIES } from './families.js';
import { prepared } from './prepared.js';

/** How far a database has come. */
export interface Count {
  /** The highest revision that anything bears or bore. */
  highest: number;
  /** Rises with everything that is saved or removed, and never falls. */
  weight: number;
}

const ALL = KINDS.map((kind) => `select revision from ${FAMILIES[kind].table}`).join(' union all ');

/** Sum and highest of the revisions that are there. */
function present(connection: BetterSqlite3.Database): { sum: number; most: number } {
  return prepared(
    connection,
    `select ifnull(sum(revision), 0) as sum, ifnull(max(revision), 0) as most from (${ALL})`,
  ).get() as { sum: number; most: number };
}

/** How far a database has come; one from before it was counted by what it holds alone. */
export function countOf(connection: BetterSqlite3.Database): Count {
  const { sum, most } = present(connection);
  const columns = prepared(connection, "select name from pragma_table_info('about')").all();
  if (!columns.some((column) => (column as { name: string }).name === 'spent'))
    return { highest: most, weight: sum };
  const { highest, spent } = prepared(connection, 'select highest, spent from about').get() as {
    highest: number;
    spent: number;
  };
  return { highest: Math.max(highest, most), weight: sum + spent };
}

/** The highest revision that anything removed bore: what is made anew begins behind it. */
export function highestRemoved(connection: BetterSqlite3.Database): number {
  const found = prepared(connection, 'select highest from about').get() as { highest: number };
  return found.highest;
}

/** Carries out a removal, with all that goes along, so that none of its revisions comes again. */
export function removing<T>(connection: BetterSqlite3.Database, work: () => T): T {
  const before = present(connection);
  const done = work();
  const gone = before.sum - present(connection).sum;
  if (gone > 0)
    prepared(connection, 'update about set highest = max(highest, ?), spent = spent + ? + 1').run(
      before.most,
      gone,
    );
  return done;
}

/** Has a database go on behind another one that it takes the place of. */
export function goOnBehind(connection: BetterSqlite3.Database, { highest, weight }: Count): void {
  prepared(connection, 'update about set highest = max(highest, ?), spent = max(spent, ? + 1)').run(
    highest,
    weight,
  );
}
