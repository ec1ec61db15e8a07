/** The code that SQLite gives an error, or none. */
export function sqliteCode(error: unknown): string {
  return error instanceof Error && 'code' in error && typeof error.code === 'string'
    ? error.code
    : '';
}

/** True when a row points to one that is not there, or is pointed to. */
export function isForeignKeyFault(error: unknown): boolean {
  return sqliteCode(error).startsWith('SQLITE_CONSTRAINT_FOREIGNKEY');
}

/** What went wrong on the disk, as far as it is the disk. */
export type DiskFault = 'no-room' | 'unwritable' | 'damaged';

/** What kind of trouble with the disk an error tells of; null when it is another one. */
export function diskFaultOf(error: unknown): DiskFault | null {
  const code = sqliteCode(error);
  if (code === 'SQLITE_FULL' || code === 'ENOSPC' || code === 'EDQUOT') return 'no-room';
  if (/^SQLITE_(READONLY|IOERR|CANTOPEN|PERM)/.test(code) || /^E(ROFS|ACCES|PERM|IO)$/.test(code))
    return 'unwritable';
  return /^SQLITE_(CORRUPT|NOTADB)/.test(code) ? 'damaged' : null;
}
