import { endpoints } from '@nemawashi/contract'
import type { Attempts } from '../kernel/attempts'
import type { Kernel } from '../kernel/kernel'
import type { ListSpec } from '../kernel/lists'
import type { Routes } from '../kernel/routes'
import { ServerError } from '../kernel/serverError'
import { checkPassword } from '../people/checkPassword'
import { decide } from './decide'

const { contain } = endpoints

/** Lots that something holds: an undecided gate, or a decision that quarantined a part of them. Only these are summed up. */
export const heldCandidates = `SELECT lotId FROM inspection WHERE isGate = 1 AND state IN ('toDo', 'started', 'finished')
  UNION SELECT i.lotId FROM decision_part q JOIN decision d ON d.id = q.decisionId JOIN inspection i ON i.id = d.inspectionId WHERE q.disposition = 'quarantine'`

const inStanding = (standing: string) =>
  `IFNULL(SUM(CASE WHEN m.toStanding = '${standing}' THEN m.quantity ELSE 0 END) - SUM(CASE WHEN m.fromStanding = '${standing}' THEN m.quantity ELSE 0 END), 0)`

const heldList: ListSpec = {
  from: `(SELECT m.lotId, ${inStanding('onHold')} AS onHold, ${inStanding('quarantined')} AS quarantined, MIN(m.at) AS heldSince
          FROM movement m WHERE m.lotId IN (${heldCandidates}) GROUP BY m.lotId HAVING onHold > 0 OR quarantined > 0) h
         JOIN lot l ON l.id = h.lotId JOIN part t ON t.id = l.partId JOIN partner s ON s.id = l.supplierId
         LEFT JOIN inspection i ON i.id = (SELECT n.id FROM inspection n WHERE n.lotId = l.id ORDER BY n.state = 'finished' DESC, n.state <> 'decided' DESC, n.code LIMIT 1)`,
  id: 'l.id',
  columns: {
    id: { sql: 'l.id' },
    lotId: { sql: 'l.id' },
    lotCode: { sql: 'l.code' },
    partCode: { sql: 't.code' },
    partName: { sql: 't.name' },
    supplierName: { sql: 's.name' },
    unit: { sql: 't.unit' },
    onHold: { sql: 'h.onHold', kind: 'number' },
    quarantined: { sql: 'h.quarantined', kind: 'number' },
    heldSince: { sql: 'h.heldSince' },
    inspectionId: { sql: 'i.id', isNullable: true },
    waitsFor: {
      sql: `CASE WHEN i.state = 'finished' AND i.verdict = 'notAcceptable' THEN 'a decision: not acceptable' WHEN i.state = 'finished' THEN 'a decision: acceptable'
            WHEN i.state = 'started' THEN 'the bench: started' WHEN i.state = 'toDo' THEN 'the bench' ELSE 'quarantined' END`,
    },
  },
  search: ['l.code', 't.code', 't.name', 's.name', 'l.supplierLot'],
  sort: ['heldSince', 'asc'],
}

export function containRoutes(routes: Routes, kernel: Kernel, attempts: Attempts): void {
  routes.list(contain.listHeld, heldList)

  routes.changeAfter(
    contain.decide,
    async ({ body, person, request }) => {
      if (!person) throw new ServerError('signed_out', 'Nobody is signed in.')
      const row = await checkPassword(kernel.database.reader.manager, attempts, person.signInName, body.password, request.ip ?? '')
      if (row?.id !== person.id) throw new ServerError('password_wrong', 'The password is wrong; nothing was decided.', { field: 'password' })
      return person
    },
    async (work, { params, body }, person) => ({ decision: await decide(work, person, params.id, body.version, body.rows) }),
  )
}
