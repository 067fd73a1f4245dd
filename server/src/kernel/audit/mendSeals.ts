import type { WritingConnection } from '../database/connection'
import { keySql, sealedTables, type RowSeals } from './rowSeals'

/** Tables whose rows a change may take out. */
const mayLose = ['session', 'open_stop', 'characteristic', 'characteristic_revision', 'plan', 'plan_revision', 'plan_line', 'routing_step']

/**
 * Seals of rows that an earlier release said stood though it had taken them out: it looked rows up by the number that the file has for them, which
 * is given again, so that a deleted row got the digits of the one that came in its place in the same change. Such a seal has the digits of another
 * row of its entry, and its row is gone; a row that was taken out past the chain has digits of its own, and stays a break.
 */
export async function falselySealed(connection: WritingConnection): Promise<RowSeals | null> {
  if (connection.kind !== 'sqlite') return null
  const tables = (await sealedTables(connection)).filter(({ name }) => mayLose.includes(name))
  /** By table and key, whether the last seal of it is one that another row of the same entry has, too. */
  const doubtful = new Map(tables.map(({ name }) => [name, new Map<string, boolean>()]))
  for await (const { rows } of connection.each('SELECT rows FROM audit WHERE rows IS NOT NULL ORDER BY seq')) {
    const seals = JSON.parse(String(rows)) as RowSeals
    for (const [name, known] of doubtful) {
      const entries = Object.entries(seals[name] ?? {})
      const times = new Map<unknown, number>()
      for (const [, digest] of entries) times.set(digest, (times.get(digest) ?? 0) + 1)
      for (const [key, digest] of entries) known.set(key, typeof digest === 'string' && (times.get(digest) ?? 0) > 1)
    }
  }
  const mended: RowSeals = {}
  for (const table of tables) {
    const keysNow = new Set(
      (await connection.rows(`SELECT ${keySql(table, 't.')} AS "key " FROM "${table.name}" t`)).map((row) => String(row['key '])),
    )
    for (const [key, isDoubtful] of doubtful.get(table.name) ?? [])
      if (isDoubtful && !keysNow.has(key)) mended[table.name] = { ...mended[table.name], [key]: 0 }
  }
  return Object.keys(mended).length === 0 ? null : mended
}
