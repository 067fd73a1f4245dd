import { retryFrequency, type FrequencyRule } from '@nemawashi/core'
import type { FrequencyPast } from '@nemawashi/contract'
import type { Reader } from '../kernel/database'
import { historiesOf } from '../record/considerRepository'

/** Arrivals that are tried at most; the page says when there were more. */
const mostArrivals = 20_000
const dayMs = 86_400_000

interface Asked {
  readonly planId: string
  readonly operationId: string
  readonly partId: string | null
  readonly familyId: string | null
  readonly supplierId: string | null
  readonly customerId: string | null
  readonly frequency: FrequencyRule
  readonly days: number
}

/** The Monday of a calendar day. */
function mondayOf(day: string): string {
  const at = Date.parse(`${day}T00:00:00Z`)
  return new Date(at - ((new Date(at).getUTCDay() + 6) % 7) * dayMs).toISOString().slice(0, 10)
}

/** In order, with the weeks in which nothing came. */
function withoutGaps(weeks: ReadonlyMap<string, FrequencyPast['weeks'][number]>): FrequencyPast['weeks'] {
  const known = [...weeks.keys()].sort()
  const [first, last] = [known[0], known.at(-1)]
  if (first === undefined || last === undefined) return []
  const all: FrequencyPast['weeks'] = []
  for (let at = Date.parse(first); at <= Date.parse(last); at += 7 * dayMs) {
    const from = new Date(at).toISOString().slice(0, 10)
    all.push(weeks.get(from) ?? { from, arrivals: 0, before: 0, after: 0 })
  }
  return all
}

/**
 * The arrivals of the last days, by week: how many were looked at, and how many would have been under the rule. The rule sees everything
 * before them too, as it would have. Every part and partner has a history of its own.
 * @throws {CoreError} as `checkFrequencyRule`.
 */
export async function tryFrequency(reader: Reader, { supplierId, customerId, frequency, days, ...of }: Asked, now: Date): Promise<FrequencyPast> {
  const { histories, isCut } = await historiesOf(reader, { ...of, partnerId: supplierId ?? customerId }, mostArrivals)
  const since = now.getTime() / 3_600_000 - days * 24
  const weeks = new Map<string, FrequencyPast['weeks'][number]>()
  for (const history of histories) {
    for (const { arrival, wouldBe } of retryFrequency(frequency, history)) {
      if (arrival.atHours < since) continue
      const from = mondayOf(arrival.day)
      const week = weeks.get(from) ?? { from, arrivals: 0, before: 0, after: 0 }
      weeks.set(from, {
        from,
        arrivals: week.arrivals + 1,
        before: week.before + (arrival.isInspected ? 1 : 0),
        after: week.after + (wouldBe ? 1 : 0),
      })
    }
  }
  return { days, weeks: withoutGaps(weeks), isCut }
}
