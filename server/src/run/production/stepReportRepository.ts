import type { StepReport } from '@nemawashi/contract'
import type { Reader } from '../../kernel/work/database'
import { rowsOf, type Columns } from '../../kernel/database/rowsOf'

type Row = StepReport & { stepId: string; id: string }

const select = `SELECT r.id, r.step_id, r.kind, r.good, r.scrapped, r.set_aside, r.done, r.minutes, r.note, o.at, p.name AS by_name
  FROM step_report r JOIN occasion o ON o.id = r.id JOIN person p ON p.id = o.person_id`

const rowColumns: Columns<Row> = {
  id: 'text',
  kind: 'text',
  good: 'number',
  scrapped: 'number',
  setAside: 'number',
  done: 'number',
  minutes: 'number',
  note: 'text',
  at: 'text',
  byName: 'text',
  stepId: 'text',
}

/** Reports of a step, in their order. */
export async function reportsOf(reader: Reader, stepId: string): Promise<Row[]> {
  return rowsOf<Row>(reader, rowColumns, `${select} WHERE r.step_id = ? ORDER BY o.at, r.id`, [stepId])
}

/** Reports of all steps of an order, in their order. */
export async function reportsOfOrder(reader: Reader, orderId: string): Promise<Row[]> {
  return rowsOf<Row>(reader, rowColumns, `${select} JOIN order_step s ON s.id = r.step_id WHERE s.order_id = ? ORDER BY o.at, r.id`, [orderId])
}

/** When a step was started; null where it was not. */
export async function startedAt(reader: Reader, stepId: string): Promise<string | null> {
  const [row] = await rowsOf(reader, { at: 'text' }, 'SELECT o.at FROM order_step s JOIN occasion o ON o.id = s.start_id WHERE s.id = ?', [stepId])
  return row?.at ?? null
}

/** Steps that run now and have control points that ask by the clock, with who started them. */
export async function runningByTheClock(reader: Reader): Promise<{ stepId: string; orderId: string; personId: string }[]> {
  return rowsOf(
    reader,
    { stepId: 'text', orderId: 'text', personId: 'text' },
    `SELECT s.id AS step_id, s.order_id, o.person_id FROM order_step s JOIN occasion o ON o.id = s.start_id
     WHERE s.state = 'running' AND EXISTS (SELECT 1 FROM control_point c WHERE c.operation_id = s.operation_id AND c.moment = 'everyMinutes' AND c.state = 'active')
     ORDER BY s.id`,
    [],
  )
}
