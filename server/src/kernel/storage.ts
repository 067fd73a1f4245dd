/** The code that SQLite gave, of an error of any layer above it; empty for other errors. */
export function sqliteCode(error: unknown): string {
  const { code, driverError } = error as { code?: unknown; driverError?: { code?: unknown } }
  const found = driverError?.code ?? code
  return typeof found === 'string' && found.startsWith('SQLITE_') ? found : ''
}

const causes: readonly [RegExp, string][] = [
  [/^SQLITE_FULL/, 'the disk is full'],
  [/^SQLITE_IOERR/, 'the disk answered with an error'],
  [/^SQLITE_(READONLY|CANTOPEN|PERM)/, 'the database file cannot be written'],
  [/^SQLITE_(CORRUPT|NOTADB)/, 'the database file is damaged'],
  [/^SQLITE_NOMEM/, 'the memory is used up'],
]

/** What stops the storage, in words; null for an error that has nothing to do with it. */
export function storageCause(error: unknown): string | null {
  const code = sqliteCode(error)
  return causes.find(([pattern]) => pattern.test(code))?.[1] ?? null
}
