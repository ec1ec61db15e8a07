import type { Keepsake } from '@pentachord/core/model';
import { fromJson, Json, type TableFamily } from './table-family.js';

/** What the player keeps. A keepsake is a copy, so its content is one value and not rows of its own. */
export const keepsakeTables: TableFamily<'keepsakes'> = {
  table: 'keepsakes',
  order: ['name', 'id'],
  parts: [],
  owner: '',
  fromRows: (row) => ({
    id: row['id'] as string,
    name: row['name'] as string,
    favourite: row['favourite'] === 1,
    content: fromJson(row['content']) as Keepsake['content'],
  }),
  toRows: ({ name, favourite, content }) => ({
    row: {
      name,
      favourite: favourite ? 1 : 0,
      kind: content.kind,
      content: new Json(content),
    },
    parts: {},
  }),
  missingIn: () => null,
};
