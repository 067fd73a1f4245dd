import { endpoints, type Person } from '@nemawashi/contract'
import { failuresOn } from '../../inspections/repository'
import type { App } from '../../people/app'
import type { Routes } from '../../kernel/routes'
import { ServerError } from '../../kernel/base/serverError'
import { checkSeal } from '../../people/checkPassword'
import { decidable, decide, decisionProblems, refuse } from './decide'
import { againProblems, decideAgain, decisionBefore } from './decideAgain'
import { heldFilters, heldList } from './repository'
import { giveStanding } from '../../stock/restrictions/finerStandings'
import { loadDecisions } from '../../stock/ledger/decisionRepository'

const { contain } = endpoints

export function decisionRoutes(routes: Routes, kernel: App): void {
  const { attempts } = kernel
  const { reader } = kernel.database
  const signer = async (person: Person | null, password: string): Promise<Person> => {
    if (!person) throw new ServerError('signed_out', 'Nobody is signed in.')
    await checkSeal(reader, attempts, person, password)
    return person
  }
  routes.list(contain.listHeld, heldList, (query) => heldFilters(query, kernel.clock.now()))

  routes.read(contain.checkDecision, async (_db, { params, body, person }) => ({
    problems: await decisionProblems(reader, person as Person, await decidable(reader, params.id, body.lotId), body.rows),
  }))

  routes.changeAfter(
    contain.decide,
    async ({ params, body, person }) => {
      // Everything is checked before the signature.
      refuse(await decisionProblems(reader, person as Person, await decidable(reader, params.id, body.lotId), body.rows))
      return signer(person, body.password)
    },
    async (work, { params, body }, person) => ({
      decision: await decide(work, person, { inspectionId: params.id, lotId: body.lotId }, body.version, body.rows),
    }),
  )

  routes.change(contain.giveStanding, async (work, { params, body }) => ({ balances: await giveStanding(work, params.id, body) }))

  routes.read(contain.listDecisions, async (db, { params }) => ({
    decisions: await loadDecisions(db, params.id),
    failed: await failuresOn(db, params.id),
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
