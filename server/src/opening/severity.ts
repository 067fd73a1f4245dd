import {
  advanceSeverity,
  beginSeverity,
  judgedLotOf,
  switches,
  switchingOf,
  type JudgedLot,
  type SamplingRule,
  type SchemeRule,
  type SeverityNow,
  type SeverityState,
  type SwitchEvent,
  type SwitchingOptions,
} from '@nemawashi/core'
import type { PastOccasions, StopHistory } from '@nemawashi/contract'
import type { Reader } from '../kernel/work/database'
import type { Connection } from '../kernel/database/connection'
import { inTurns } from '../kernel/work/inTurns'
import type { Work } from '../kernel/work/unitOfWork'
import type { InspectionRow } from '../inspections/entities'
import { LineSeverityEntity, type LineSeverityRow } from './severityEntities'
import { allKept, answersOf, historyOf, judgedBefore, judgedIn, judgedSince, switchingLines, type JudgedRow } from './severityRepository'

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
  const keyOf = ({ level, aqlPercent, form = 'single', counting = 'nonconforming' }: SchemeRule) => [level, aqlPercent, form, counting].join()
  return keyOf(rule) === keyOf(other)
}

function judged({ finding, position, sampling, lotSize }: JudgedRow): { rule: SamplingRule; lot: JudgedLot | null } | null {
  const rule = sampling === null ? null : (JSON.parse(sampling) as SamplingRule)
  const line = finding.lines[position]
  if (rule?.kind !== 'attributesScheme' || line === undefined) return null
  return { rule, lot: judgedLotOf(rule, lotSize, line) }
}

/** Lots of lines as the switching rules saw them since an instant, inspection by inspection; those that simply conformed are left out. */
export async function lotsJudgedSince(reader: Reader, at: string): Promise<Map<string, JudgedLine[]>> {
  const found = new Map<string, JudgedLine[]>()
  await inTurns(await judgedSince(reader, at), (row) => {
    const lot = judged(row)?.lot
    if (!lot) return
    const { isAccepted, isAcceptedTighter = false, isAcceptedEarly = false, isInGap = false } = lot
    const { planId, characteristicId, inspectionId } = row
    const line = { planId, characteristicId, isAccepted, isAcceptedTighter, isAcceptedEarly, isInGap }
    found.set(inspectionId, [...(found.get(inspectionId) ?? []), line])
  })
  return found
}
type JudgedLine = PastOccasions['occasions'][number]['judged'][number]

/** As many of the last lots of a line as a page of its stop shows. */
const maxShown = 60

/** Lots of a line in the order in which they were finished: under which inspection each was looked at, and whether it was accepted. */
export async function judgedLots(reader: Reader, history: LineHistory): Promise<StopHistory['lots']> {
  return (await judgedBefore(reader, history, maxShown)).flatMap((row) => {
    const lot = judged(row)?.lot
    const { inspectionId, inspectionCode, finishedAt, severity } = row
    return lot ? [{ inspectionId, inspectionCode, finishedAt, under: severity.state, isAccepted: lot.isAccepted }] : []
  })
}

/** The scheme of a rule, in words that tell it from every other: what makes lots of it bear on each other, and how it may switch. */
const schemeOf = ({ level, aqlPercent, form = 'single', counting = 'nonconforming', severity = 'normal', switching }: SchemeRule) =>
  [level, aqlPercent, form, counting, severity, switching ?? ''].join(' ')

const keyOf = ({ planId, operationId, partId, partnerId, characteristicId }: LineHistory, rule: SchemeRule) =>
  [planId, operationId, partId, partnerId ?? '', characteristicId, schemeOf(rule)].join('/')

/** All that happened on a line under a scheme, in its order: lots as they were finished, and answers to stops. */
async function eventsOf(reader: Pick<Reader, 'query'>, rule: SchemeRule, history: LineHistory): Promise<SwitchEvent[]> {
  const lots = (await judgedBefore(reader, history)).flatMap((row) => {
    const past = judged(row)
    return past?.lot && isSameScheme(rule, past.rule)
      ? [{ at: row.finishedAt, event: { ...past.lot, kind: 'lot', under: row.severity.state } satisfies SwitchEvent }]
      : []
  })
  const answers = (await answersOf(reader, history)).map((at) => ({ at, event: { kind: 'answered' } satisfies SwitchEvent }))
  return [...lots, ...answers].sort((a, b) => (a.at < b.at ? -1 : a.at > b.at ? 1 : 0)).map(({ event }) => event)
}

/** Where the rules stand on a line, played through from its beginning. */
async function replayed(reader: Pick<Reader, 'query'>, rule: SchemeRule, history: LineHistory): Promise<SeverityState> {
  const options = switchingOf(rule) as SwitchingOptions
  return (await eventsOf(reader, rule, history)).reduce((state, event) => advanceSeverity(state, event, options), beginSeverity(options))
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
  const kept = await reader.findOneBy(LineSeverityEntity, { id: keyOf(history, rule) })
  const state = kept?.kept ?? (await replayed(reader, rule, history))
  return played.reduce((now, event) => advanceSeverity(now, event, options), state).now
}

/** Keeps where the rules stand on a line: one event further than before, or played through where nothing is kept of it, or its past changed. */
async function keep(work: Work, rule: SchemeRule, history: LineHistory, event: SwitchEvent | null): Promise<void> {
  const options = switchingOf(rule) as SwitchingOptions
  const id = keyOf(history, rule)
  const before = await work.manager.findOneBy(LineSeverityEntity, { id })
  if (before && event) await work.manager.update(LineSeverityEntity, { id }, { kept: advanceSeverity(before.kept, event, options) })
  else {
    const kept = await replayed(work.manager, rule, history)
    if (before) await work.manager.update(LineSeverityEntity, { id }, { kept })
    else await work.manager.insert(LineSeverityEntity, { id, ...history, rule, kept })
  }
}

/** Goes on with the lines of an inspection that was judged; of a line with several schemes each lot counts for its own. */
export async function keepSeverity(work: Work, { inspection }: { readonly inspection: Pick<InspectionRow, 'id'> }): Promise<void> {
  const about = await historyOf(work.manager, inspection.id)
  if (about === null) return
  for (const { characteristicId, sampling } of await switchingLines(work.manager, inspection.id)) {
    const rule = JSON.parse(sampling) as SamplingRule
    if (!switches(rule)) continue
    const history = { ...about, characteristicId }
    const [row] = await judgedIn(work.manager, inspection.id, characteristicId)
    const lot = row && judged(row)?.lot
    if (row && lot) await keep(work, rule, history, { ...lot, kind: 'lot', under: row.severity.state })
  }
}

/** A person let acceptance of a line begin again: every scheme that is kept of it goes on from there. */
export async function keepAnswer(work: Work, history: LineHistory): Promise<void> {
  for (const { rule, ...kept } of await keptOf(work, history)) await keep(work, rule, lineOf(kept), { kind: 'answered' })
}

/** What happened on the lines of an inspection is another than it was: it was opened again, called off, or belongs to another supplier. */
export async function replaySeverity(work: Work, inspectionId: string, partnerIds: readonly (string | null)[] = []): Promise<void> {
  const history = await historyOf(work.manager, inspectionId)
  if (history === null) return
  for (const { characteristicId } of await switchingLines(work.manager, inspectionId))
    for (const partnerId of new Set([history.partnerId, ...partnerIds]))
      for (const { rule, ...kept } of await keptOf(work, { ...history, characteristicId, partnerId })) await keep(work, rule, lineOf(kept), null)
}

const lineOf = ({ planId, operationId, partId, partnerId, characteristicId }: LineHistory): LineHistory => ({
  planId,
  operationId,
  partId,
  partnerId,
  characteristicId,
})

const keptOf = async (work: Work, { planId, operationId, partId, partnerId, characteristicId }: LineHistory): Promise<LineSeverityRow[]> =>
  (await work.manager.findBy(LineSeverityEntity, { planId, operationId, partId, characteristicId })).filter((row) => row.partnerId === partnerId)

/** Lines whose kept inspection is not the one that their whole history leads to, in words. */
export async function verifySeverity(connection: Connection): Promise<string[]> {
  const breaks: string[] = []
  for (const { rule, kept, ...row } of await allKept(connection)) {
    const { now } = await replayed(connection, rule, row)
    if (now.state !== kept.now.state || now.score !== kept.now.score)
      breaks.push(
        `the inspection kept for a line of plan ${row.planCode} is ${kept.now.state} (score ${kept.now.score}), its history says ${now.state} (score ${now.score})`,
      )
    if (breaks.length >= 20) break
  }
  return breaks
}
