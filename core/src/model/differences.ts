/** One difference between two versions of a thing. */
export interface Difference {
  /** The part that differs: `layers · Felt piano · level`. */
  what: string;
  mine: string;
  theirs: string;
}

/** What differs between two versions of a thing, by the names of the parts, in words. */
export function differencesOf(mine: unknown, theirs: unknown): Difference[] {
  const found: Difference[] = [];
  const compare = (path: string, a: unknown, b: unknown) => {
    if (JSON.stringify(a) === JSON.stringify(b)) return;
    if (isPlain(a) && isPlain(b)) {
      for (const key of new Set([...Object.keys(a), ...Object.keys(b)])) {
        const label = labelOf(key in a ? a : b, key);
        compare(path ? `${path} · ${label}` : label, a[key], b[key]);
      }
    } else found.push({ what: path, mine: asText(a), theirs: asText(b) });
  };
  compare('', mine, theirs);
  return found;
}

function isPlain(value: unknown): value is Record<string, unknown> {
  return typeof value === 'object' && value !== null;
}

/** The name of a list's member where it has one, else its key. */
function labelOf(parent: Record<string, unknown>, key: string): string {
  const child = parent[key];
  return isPlain(child) && typeof child['name'] === 'string' ? child['name'] : key;
}

function asText(value: unknown): string {
  if (value === undefined) return '—';
  if (isPlain(value))
    return typeof value['name'] === 'string' ? value['name'] : JSON.stringify(value);
  return typeof value === 'string' ? value : JSON.stringify(value);
}
