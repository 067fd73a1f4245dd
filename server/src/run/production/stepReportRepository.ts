import type { StepReport } from '@nemawashi/contract'
import type { Reader } from '../../kernel/work/database'

type Row = StepReport & { stepId: string; id: string }

const select = `SELECT r.id, r.step_id, r.kind, r.good, r.scrapped, r.set_aside, r.done, r.minutes, r.note, o.at, p.name AS by_name
  FROM step_report r JOIN occasion o ON o.id = r.id JOIN person p ON p.id = o.person_id`

/** Reports of a step, in their order. */
export async function reportsOf(reader: Reader, stepId: string): Promise<Row[]> {
  return (await reader.query(`${select} WHERE r.step_id = ? ORDER BY o.at, r.id`, [stepId])) as Row[]
}

/** Reports of all steps of an order, in their order. */
export async function reportsOfOrder(reader: Reader, orderId: string): Promise<Row[]> {
  return (await reader.query(`${select} JOIN order_step s ON s.id = r.step_id WHERE s.order_id = ? ORDER BY o.at, r.id`, [orderId])) as Row[]
}

/** When a step was started; null where it was not. */
export async function startedAt(reader: Reader, stepId: string): Promise<string | null> {
  const [row] = (await reader.query('SELECT o.at FROM order_step s JOIN occasion o ON o.id = s.start_id WHERE s.id = ?', [stepId])) as {
    at: string
  }[]
  return row?.at ?? null
}

/** Steps that run now and have control points that ask by the clock, with who started them. */
export async function runningByTheClock(reader: Reader): Promise<{ stepId: string; orderId: string; personId: string }[]> {
  return (await reader.query(
    `SELECT s.id AS step_id, s.order_id, o.person_id FROM order_step s JOIN occasion o ON o.id = s.start_id
     WHERE s.state = 'running' AND EXISTS (SELECT 1 FROM control_point c WHERE c.operation_id = s.operation_id AND c.moment = 'everyMinutes' AND c.state = 'active')
     ORDER BY s.id`,
    [],
  )) as { stepId: string; orderId: string; personId: string }[]
}
