import type { DueGroup, OwnGroup, QueueFilters, QueueState } from '@nemawashi/contract'
import type { Filter } from '../kernel/http/lists'
import { dayIn, startOfDay } from '../kernel/database/plantTime'

/** Who asks for the queue, and when: whose own day it is, and where a day begins. */
export interface QueueViewer {
  readonly personId: string
  readonly now: Date
  readonly timeZone: string
}

/** The calendar day of the plant, and when it ends and the week after it, as instants. */
export function daysFrom({ now, timeZone }: QueueViewer) {
  const today = dayIn(timeZone, now)
  const after = (days: number) => {
    const day = new Date(`${today}T12:00:00Z`)
    day.setUTCDate(day.getUTCDate() + days)
    return startOfDay(timeZone, day.toISOString().slice(0, 10)).toISOString()
  }
  return { today, tomorrow: after(1), inAWeek: after(7) }
}

/** Inspections that look at a lot, itself or with its load; asks for the lot's id twice. */
export const looksAtLot = `(i.lot_id = ? OR (i.subject_kind = 'load' AND i.subject_id = (SELECT origin_id FROM lot WHERE id = ?)))`

export const isOpenSql = `i.state IN ('toDo', 'started')`
/** Planned for somebody who may still come: what was planned for people who do not is planned for nobody. */
export const isPlannedSql = '(i.id IN (SELECT y.id FROM assignment y JOIN person z ON z.id = y.person_id WHERE z.is_active))'
/** Whoever took it has it; as long as nobody took it or put it back, whoever began it. */
export const holderSql = '(CASE WHEN a.held_at IS NULL THEN i.started_by_id ELSE a.holder_id END)'
const isHeldSql =
  '(i.id IN (SELECT id FROM assignment WHERE holder_id IS NOT NULL) OR (i.started_by_id IS NOT NULL AND i.id NOT IN (SELECT id FROM assignment WHERE held_at IS NOT NULL)))'

function ownFilter(own: OwnGroup, asking: QueueViewer): Filter {
  const { personId } = asking
  switch (own) {
    case 'begun':
      return {
        sql: `${isOpenSql} AND (i.id IN (SELECT id FROM assignment WHERE holder_id = ?) OR (i.started_by_id = ? AND i.id NOT IN (SELECT id FROM assignment WHERE held_at IS NOT NULL)))`,
        values: [personId, personId],
      }
    case 'planned':
      return {
        sql: `${isOpenSql} AND NOT ${isHeldSql} AND i.id IN (SELECT id FROM assignment WHERE person_id = ? AND (day IS NULL OR day <= ?))`,
        values: [personId, daysFrom(asking).today],
      }
    case 'free':
      return { sql: `${isOpenSql} AND NOT ${isHeldSql} AND NOT ${isPlannedSql}`, values: [] }
  }
}

/** The group that an inspection belongs to by its time, as SQL; takes now, tomorrow and in a week as values. */
export const dueSql = `(CASE WHEN i.due_at IS NULL THEN 'none' WHEN i.due_at < ? THEN 'late' WHEN i.due_at < ? THEN 'today' WHEN i.due_at < ? THEN 'week' ELSE 'later' END)`
export function dueBounds(asking: QueueViewer): string[] {
  const { tomorrow, inAWeek } = daysFrom(asking)
  return [asking.now.toISOString(), tomorrow, inAWeek]
}

function dueFilter(due: DueGroup, asking: QueueViewer): Filter {
  const [now, tomorrow, inAWeek] = dueBounds(asking) as [string, string, string]
  switch (due) {
    case 'late':
      return { sql: 'i.due_at < ?', values: [now] }
    case 'today':
      return { sql: 'i.due_at >= ? AND i.due_at < ?', values: [now, tomorrow] }
    case 'week':
      return { sql: 'i.due_at >= ? AND i.due_at < ?', values: [tomorrow, inAWeek] }
    case 'later':
      return { sql: 'i.due_at >= ?', values: [inAWeek] }
    case 'none':
      return { sql: 'i.due_at IS NULL', values: [] }
  }
}

/** A load that has brought nothing yet, or that leaves: there are no goods that its finding could decide on. */
const isWithoutGoods = `(i.subject_kind = 'load' AND NOT EXISTS (SELECT 1 FROM lot g WHERE g.origin_id = i.subject_id))`
export const isDecidingSql = `i.state = 'finished' AND NOT ${isWithoutGoods}`

/** States of the queue that are not just one of inspections. */
const ownStates: Partial<Readonly<Record<QueueState, string>>> = {
  open: isOpenSql,
  deciding: isDecidingSql,
  withoutGoods: `i.state = 'finished' AND ${isWithoutGoods}`,
}

function stateFilter(state: QueueState): Filter {
  const own = ownStates[state]
  return own === undefined ? { sql: 'i.state = ?', values: [state] } : { sql: own, values: [] }
}

/** How the queue is narrowed down. Each condition asks the inspection alone, so that counting need not join. */
export function queueFilters(
  query: Partial<QueueFilters> & {
    state?: QueueState | undefined
    finishedSince?: string | undefined
    verdict?: string | undefined
    recorded?: 'late' | undefined
  },
  asking: QueueViewer,
): Filter[] {
  const { state, finishedSince, verdict, recorded, due, operationId, partId, supplierId, responsible, gate, assignedTo, day, dayUntil, own, lotId } =
    query
  const filters: Filter[] = []
  const add = (sql: string, ...values: string[]) => void filters.push({ sql, values })
  if (state !== undefined) filters.push(stateFilter(state))
  if (finishedSince !== undefined) add('i.finished_at >= ?', finishedSince)
  if (recorded === 'late') filters.push({ sql: 'i.due_at IS NOT NULL AND i.finished_at > i.due_at', values: [] })
  if (verdict !== undefined) add('i.verdict = ?', verdict)
  if (due !== undefined) filters.push(dueFilter(due, asking))
  if (operationId !== undefined) add('i.operation_id = ?', operationId)
  if (partId !== undefined) add('i.lot_id IN (SELECT id FROM lot WHERE part_id = ?)', partId)
  if (supplierId !== undefined)
    add(
      `(i.lot_id IN (SELECT id FROM lot WHERE supplier_id = ?) OR (i.subject_kind = 'load' AND i.occasion_id IN (SELECT id FROM occasion WHERE partner_id = ?)))`,
      supplierId,
      supplierId,
    )
  if (responsible !== undefined) add('i.responsible = ?', responsible === '-' ? '' : responsible)
  if (gate !== undefined) add(gate === 'yes' ? 'i.is_gate' : 'NOT i.is_gate')
  if (assignedTo === '-') add(`NOT ${isPlannedSql}`)
  else if (assignedTo !== undefined) add('i.id IN (SELECT id FROM assignment WHERE person_id = ?)', assignedTo)
  if (day === 'before') add('i.id IN (SELECT id FROM assignment WHERE day < ?)', daysFrom(asking).today)
  else if (day !== undefined) add('i.id IN (SELECT id FROM assignment WHERE day = ?)', day)
  if (dayUntil !== undefined) add('i.id IN (SELECT id FROM assignment WHERE day <= ?)', dayUntil)
  if (own !== undefined) filters.push(ownFilter(own, asking))
  if (lotId !== undefined) add(looksAtLot, lotId, lotId)
  return filters
}
