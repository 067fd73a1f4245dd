/** The code that the database gave, of an error of any layer above it: SQLite's name of it, or PostgreSQL's SQLSTATE; empty for other errors. */
export function errorCode(error: unknown): string {
  const { code, driverError } = error as { code?: unknown; driverError?: { code?: unknown } }
  const found = driverError?.code ?? code
  return typeof found === 'string' && (/^SQLITE_|^(?=.*\d)[0-9A-Z]{5}$/.test(found) || lostCodes.has(found)) ? found : ''
}

/** What the network says when a server is not there any more. */
const lostCodes = new Set(['ECONNREFUSED', 'ECONNRESET', 'EPIPE', 'ENOTFOUND', 'ETIMEDOUT'])

const causes: readonly [RegExp, string][] = [
  [/^SQLITE_FULL|^53100/, 'the disk is full'],
  [/^SQLITE_IOERR|^58/, 'the disk answered with an error'],
  [/^SQLITE_(READONLY|CANTOPEN|PERM)|^25006|^42501/, 'the database cannot be written'],
  [/^SQLITE_(CORRUPT|NOTADB)|^XX00[12]/, 'the database is damaged'],
  [/^SQLITE_NOMEM|^53200/, 'the memory is used up'],
  [/^08|^57P|^E(CONN|PIPE|NOT|TIMED)/, 'the database server does not answer'],
]

/** What stops the storage, in words; null for an error that has nothing to do with it. */
export function storageCause(error: unknown): string | null {
  const code = errorCode(error)
  return causes.find(([pattern]) => pattern.test(code))?.[1] ?? null
}

/** Whether the database refused a row because another one has the same in one of these columns. */
export function isTaken(error: unknown, columns: readonly string[]): boolean {
  const { driverError } = error as { driverError?: unknown }
  const { message, detail } = (driverError ?? error) as { message?: string; detail?: string }
  const code = errorCode(error)
  if (code === 'SQLITE_CONSTRAINT_UNIQUE') return columns.some((column) => message?.endsWith(`.${column}`))
  return code === '23505' && columns.some((column) => detail?.startsWith(`Key (${column})=`))
}

/** Whether the database refused a row for a rule of its own: a key that is taken, a reference to nothing, a check, a guard. */
export function isConstraint(error: unknown): boolean {
  return /^SQLITE_CONSTRAINT|^23|^P0001/.test(errorCode(error))
}
