import type { Snapshot } from '../work/database'
import type { Connection } from '../database/connection'

/**
 * What does not fit in the list of migrations that a database says it has had: each has to be one of the release, in its order and at its
 * time, and those that the chain says were run have to be in it. Nothing is said of a plant of an earlier release, which has had fewer.
 */
export async function migrationBreaks(connection: Connection, { migrations: known }: Pick<Snapshot, 'migrations'>): Promise<string[]> {
  const had = (await connection.rows('SELECT timestamp, name FROM migrations ORDER BY id')) as { timestamp: number | string; name: string }[]
  const timeOf = (name: string) => /\d{13}$/.exec(name)?.[0]
  const breaks: string[] = []
  const seen = new Set<string>()
  for (const { name, timestamp } of had) {
    if (!known.includes(name)) breaks.push(`the migration ${name} is none of this release`)
    else if (seen.has(name)) breaks.push(`the migration ${name} is there twice`)
    else if (String(timestamp) !== timeOf(name)) breaks.push(`the migration ${name} is not as it was written: it says ${timestamp}`)
    seen.add(name)
  }
  const words = (await connection.rows(`SELECT why FROM audit WHERE action = 'sealed' AND subject = 'plant' GROUP BY why`)).map(({ why }) =>
    String(why),
  )
  const last = known.findLastIndex((name) => seen.has(name))
  for (const [at, name] of known.entries()) {
    if (seen.has(name)) continue
    if (words.some((said) => said.includes(name))) breaks.push(`the migration ${name}, which the chain says was run, is missing`)
    else if (at < last) breaks.push(`the migration ${name} is missing, and later ones are there`)
  }
  return breaks
}
