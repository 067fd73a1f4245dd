import { endpoints, type Person } from '@nemawashi/contract'
import type { House } from '../people/house'
import type { ListSpec } from '../kernel/lists'
import type { Routes } from '../kernel/routes'
import { ServerError } from '../kernel/serverError'
import { checkSeal } from '../people/checkPassword'
import { decidable, decide, decisionProblems, refuse } from './decide'
import { againProblems, decideAgain, decisionBefore, hasLotFailed } from './decideAgain'
import { loadDecisions } from '../stock/decisions'

const { contain } = endpoints

const inStanding = (standing: string) => `SUM(CASE WHEN b.standing = '${standing}' THEN b.quantity ELSE 0 END)`

const heldList: ListSpec = {
  from: `(SELECT b.lot_id, ${inStanding('onHold')} AS on_hold, ${inStanding('quarantined')} AS quarantined,
            (SELECT MIN(m.at) FROM movement m WHERE m.lot_id = b.lot_id) AS held_since
          FROM balance b WHERE b.standing IN ('onHold', 'quarantined') AND b.quantity > 0 GROUP BY b.lot_id) h
         JOIN lot l ON l.id = h.lot_id JOIN part t ON t.id = l.part_id LEFT JOIN partner s ON s.id = l.supplier_id
         LEFT JOIN inspection i ON i.id = (SELECT n.id FROM inspection n WHERE n.lot_id = l.id AND n.state <> 'cancelled'
           ORDER BY n.state = 'finished' DESC, n.state <> 'decided' DESC, n.code LIMIT 1)`,
  id: 'l.id',
  columns: {
    id: { sql: 'l.id' },
    lotId: { sql: 'l.id' },
    lotCode: { sql: 'l.code' },
    partCode: { sql: 't.code' },
    partName: { sql: 't.name' },
    supplierName: { sql: `COALESCE(s.name, '')` },
    unit: { sql: 't.unit' },
    onHold: { sql: 'h.on_hold', kind: 'number' },
    quarantined: { sql: 'h.quarantined', kind: 'number' },
    heldSince: { sql: 'h.held_since' },
    inspectionId: { sql: 'i.id', isNullable: true },
    waitsFor: {
      sql: `CASE WHEN i.state = 'finished' AND i.verdict = 'notAcceptable' THEN 'decisionNotAcceptable' WHEN i.state = 'finished' THEN 'decisionAcceptable'
            WHEN i.state = 'started' THEN 'benchStarted' WHEN i.state = 'toDo' THEN 'bench' ELSE 'decisionAnew' END`,
    },
  },
  search: ['l.code', 't.code', 't.name', 's.name', 'l.supplier_lot'],
  sort: ['heldSince', 'asc'],
}

export function containRoutes(routes: Routes, kernel: House): void {
  const { attempts } = kernel
  const { reader } = kernel.database
  const signer = async (person: Person | null, password: string): Promise<Person> => {
    if (!person) throw new ServerError('signed_out', 'Nobody is signed in.')
    await checkSeal(reader, attempts, person, password)
    return person
  }
  routes.list(contain.listHeld, heldList)

  routes.read(contain.checkDecision, async (_db, { params, body, person }) => ({
    problems: await decisionProblems(reader, person as Person, await decidable(reader, params.id), body.rows),
  }))

  routes.changeAfter(
    contain.decide,
    async ({ params, body, person }) => {
      // Everything is checked before the signature.
      refuse(await decisionProblems(reader, person as Person, await decidable(reader, params.id), body.rows))
      return signer(person, body.password)
    },
    async (work, { params, body }, person) => ({ decision: await decide(work, person, params.id, body.version, body.rows) }),
  )

  routes.read(contain.listDecisions, async (db, { params }) => ({
    decisions: await loadDecisions(db, params.id),
    hasFailed: await hasLotFailed(db, params.id),
  }))

  routes.read(contain.checkDecisionAgain, async (db, { params, body, person }) => {
    await decisionBefore(db, params.id, body.followsId)
    return { problems: await againProblems(db, person as Person, params.id, body.rows) }
  })

  routes.changeAfter(
    contain.decideAgain,
    async ({ params, body, person }) => {
      await decisionBefore(reader, params.id, body.followsId)
      refuse(await againProblems(reader, person as Person, params.id, body.rows))
      return signer(person, body.password)
    },
    async (work, { params, body }, person) => ({ decision: await decideAgain(work, person, params.id, body.followsId, body.rows) }),
  )
}
