import { describeFrequencyRule, type FrequencyRule } from '@nemawashi/core'
import type { PointChange } from '@nemawashi/contract'
import type { Reader } from '../kernel/work/database'
import { changesOf, namesOf } from './repository'

type Said = Readonly<Record<string, unknown>>
const saidIn = (text: string | null): Said => (text === null ? {} : (JSON.parse(text) as Said))

/** What stands for the row itself, and says nothing of what it asks. */
const notCompared = new Set(['id', 'code', 'version', 'state'])

/** A value as a person reads it; ids by what they are called. */
function saying(names: ReadonlyMap<string, string>): (value: unknown) => string {
  return (value) => {
    if (value === null || value === undefined || value === '') return ''
    if (typeof value === 'boolean') return value ? 'yes' : 'no'
    if (Array.isArray(value)) return value.map((entry) => names.get(String(entry)) ?? String(entry)).join(', ')
    if (typeof value === 'object') return describeFrequencyRule(value as FrequencyRule)
    const text = String(value as string | number)
    return names.get(text) ?? text
  }
}

/** What a control point has said before, newest first: the chain is its memory, so that nothing is kept twice. */
export async function pastOf(reader: Reader, pointId: string): Promise<PointChange[]> {
  const rows = (await changesOf(reader, pointId)).map(({ before, after, ...row }) => ({ ...row, before: saidIn(before), after: saidIn(after) }))
  const ids = rows
    .flatMap(({ before, after }) => [...Object.values(before), ...Object.values(after)])
    .flat()
    .filter((value) => typeof value === 'string')
  const say = saying(await namesOf(reader, ids))
  return rows.map(({ at, byName, action, before, after }) => {
    const fields = [...new Set([...Object.keys(before), ...Object.keys(after)])]
      .filter((field) => !notCompared.has(field))
      .map((field) => ({ field, before: say(before[field]), after: say(after[field]) }))
    return { at, byName, action, fields: fields.filter((entry) => entry.before !== entry.after) }
  })
}
