import {
  judgedLotOf,
  severityNow,
  switches,
  switchingOf,
  type JudgedLot,
  type SamplingRule,
  type SchemeRule,
  type SeverityNow,
  type SwitchEvent,
} from '@nemawashi/core'
import type { StopHistory } from '@nemawashi/contract'
import type { Reader } from '../kernel/database'
import { answersOf, judgedBefore, type JudgedRow } from './severityRepository'

/** Where a line has its history: the plan at an operation, for a part with a partner. */
export interface LineHistory {
  readonly planId: string
  readonly operationId: string
  readonly partId: string
  readonly partnerId: string | null
  readonly characteristicId: string
}

/** Another level, AQL, form or way of counting is another scheme: its lots say nothing of this one's switching. */
function isSameScheme(rule: SchemeRule, other: SamplingRule): other is SchemeRule {
  if (other.kind !== 'attributesScheme') return false
  const of = ({ level, aqlPercent, form = 'single', counting = 'nonconforming' }: SchemeRule) => [level, aqlPercent, form, counting].join()
  return of(rule) === of(other)
}

function judged({ finding, position, sampling, lotSize }: JudgedRow): { rule: SamplingRule; lot: JudgedLot | null } | null {
  const rule = sampling === null ? null : (JSON.parse(sampling) as SamplingRule)
  const line = finding.lines[position]
  if (rule?.kind !== 'attributesScheme' || line === undefined) return null
  return { rule, lot: judgedLotOf(rule, lotSize, line) }
}

/** Lots of a line in the order in which they were finished: under which inspection each was looked at, and whether it was accepted. */
export async function judgedLots(reader: Reader, history: LineHistory): Promise<StopHistory['lots']> {
  return (await judgedBefore(reader, history)).flatMap((row) => {
    const lot = judged(row)?.lot
    const { inspectionId, inspectionCode, finishedAt, severity } = row
    return lot ? [{ inspectionId, inspectionCode, finishedAt, under: severity.state, isAccepted: lot.isAccepted }] : []
  })
}

/**
 * Which inspection the next lot of a line gets by what was found on the ones before, and why; null where its rule does not switch.
 * @param played lots of a rehearsal that came after them
 */
export async function severityOf(
  reader: Reader,
  rule: SamplingRule,
  history: LineHistory,
  played: readonly SwitchEvent[] = [],
): Promise<SeverityNow | null> {
  const options = switchingOf(rule)
  if (options === null || !switches(rule)) return null
  const rows = await judgedBefore(reader, history)
  const lots = rows.flatMap((row) => {
    const past = judged(row)
    return past?.lot && isSameScheme(rule, past.rule)
      ? [{ at: row.finishedAt, event: { ...past.lot, kind: 'lot', under: row.severity.state } satisfies SwitchEvent, severity: row.severity }]
      : []
  })
  const first = lots[0]
  const answers = (await answersOf(reader, history))
    .filter((at) => first !== undefined && at >= first.at)
    .map((at) => ({ at, event: { kind: 'answered' } satisfies SwitchEvent }))
  const events = [...lots, ...answers].sort((a, b) => (a.at < b.at ? -1 : a.at > b.at ? 1 : 0)).map(({ event }) => event)
  return severityNow([...events, ...played], first === undefined ? options : { ...options, start: first.severity.state })
}
