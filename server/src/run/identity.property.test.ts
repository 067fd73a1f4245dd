import { CoreError, dispositions, holdReaches, isOfEvent, type Disposition, type PiecesMeant, type PlacePurpose } from '@nemawashi/core'
import { endpoints, type Person } from '@nemawashi/contract'
import fc from 'fast-check'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { decide } from '../contain/decisions/decide'
import { decideAgain } from '../contain/decisions/decideAgain'
import { ServerError } from '../kernel/base/serverError'
import type { Work } from '../kernel/work/unitOfWork'
import { InspectionEntity, InspectionLineEntity, type InspectionRow } from '../inspections/entities'
import { finishInspection } from '../record/bench/finish'
import { loadInspection } from '../inspections/inspections'
import { LineCache, recordReadings } from '../record/bench/recordReadings'
import { piecesLookedAt } from '../inspections/unit'
import { LotEntity } from '../stock/ledger/entities'
import { verifyLedger } from '../stock/ledger/ledgerRepository'
import { loadDecisions } from '../stock/ledger/decisionRepository'
import { namedBalances } from '../stock/ledger/repository'
import { openHolds } from '../stock/ledger/holdRepository'
import { reading, startPlant, stock, type Plant, type Stock } from '../testing/plant'
import { runs } from '../testing/database'
import { correctDelivery } from './corrections/correctDelivery'
import { cancelDispatch } from './shipping/cancelDispatch'
import { pickDispatch } from './shipping/pickDispatch'
import { sendDispatch } from './shipping/sendDispatch'
import { receiveReturn } from './shipping/receiveReturn'
import { DispatchEntity } from './shipping/entities'
import { putAway } from './moving/putAway'
import { bookDelivery } from './receiving/receive'
import { transfer } from './moving/transfers'

const { define, people } = endpoints
let plant: Plant
let goods: Stock
let customerId = ''
let door = ''
let manager: Person
let partId = ''

beforeAll(async () => {
  plant = await startPlant()
  goods = await stock(plant, { kind: 'fixedNumber', sampleSize: 1, accept: 0 })
  door = (await goods.make(define.places, { code: 'DOOR', name: 'DOOR', purpose: 'shipping', countsForPlanning: false })).id
  customerId = (await goods.make(define.partners, { code: 'CUS', name: 'Customer', kind: 'customer', isActive: true })).id
  const step = async (code: string, kind: string) => (await goods.make(define.operations, { code, name: code, kind })).id
  const [move, ship, back] = [await step('MOVE', 'transfer'), await step('SHIP', 'shipping'), await step('BACK', 'return')]
  partId = (
    await goods.make(define.parts, {
      code: 'P-2',
      name: 'Part on its way',
      revision: 'A',
      unit: 'piece',
      tracking: 'lot',
      familyId: null,
      putAwayPlaceId: goods.places.store.id,
      operationIds: [goods.receiving.id, move, ship, back],
    })
  ).id
  const plan = async (code: string) => (await goods.plan(code, [{ characteristicId: goods.judged.id }])).id
  const at = async (operationId: string, moment: string, change: object) =>
    goods.point(await plan(`PL-${operationId.slice(-6)}-${moment}-${JSON.stringify(change).length}`), { operationId, moment, partId, ...change })
  // Gates of all and of a sample, and ones that hold when they fail only, at every event that tells pieces apart.
  await at(goods.receiving.id, 'arrival', {})
  await at(goods.receiving.id, 'arrival', { holds: 'sample', isGate: true, holdPlaceId: goods.places.dock.id })
  await at(move, 'arrival', { isGate: false, onFailure: 'hold', holdPlaceId: null })
  await at(ship, 'beforeDispatch', { holdPlaceId: null })
  await at(ship, 'beforeDispatch', { isGate: false, onFailure: 'hold', holdPlaceId: null, responsible: 'x' })
  await at(back, 'arrival', { holdPlaceId: null })
  const by = await plant.as('qualityManager')
  manager = (await by.call(people.getSession, {})).person as Person
})
afterAll(() => plant.stop())

const change = <T>(act: (work: Work) => Promise<T>): Promise<T> => plant.kernel.work.run({ personId: manager.id, key: null, content: '' }, act)
const reader = () => plant.kernel.database.reader

/** What people ask for, in whatever order, sensible or not; a number chooses among what there is. */
const share = fc.double({ min: 0.05, max: 1, noNaN: true })
const wish = fc.oneof(
  fc.record({ kind: fc.constant('finish' as const), nth: fc.nat(9), isGood: fc.boolean() }),
  fc.record({
    kind: fc.constant('decide' as const),
    nth: fc.nat(9),
    first: fc.constantFrom(...dispositions),
    then: fc.constantFrom(...dispositions),
    share,
  }),
  fc.record({ kind: fc.constant('pick' as const), share }),
  fc.record({ kind: fc.constant('send' as const), nth: fc.nat(3) }),
  fc.record({ kind: fc.constant('callOff' as const), nth: fc.nat(3) }),
  fc.record({ kind: fc.constant('takeBack' as const), nth: fc.nat(3), share }),
  fc.record({
    kind: fc.constant('move' as const),
    nth: fc.nat(9),
    share,
    to: fc.constantFrom('dock' as const, 'bay' as const, 'store' as const, 'cage' as const),
  }),
  fc.record({ kind: fc.constant('putAway' as const), nth: fc.nat(9), share }),
  fc.record({ kind: fc.constant('decideAny' as const), nth: fc.nat(9), share, as: fc.constantFrom(...dispositions) }),
  fc.record({ kind: fc.constant('correct' as const), by: fc.integer({ min: -5, max: 5 }) }),
)
type Wish = typeof wish extends fc.Arbitrary<infer W> ? W : never

interface Lot {
  readonly id: string
  readonly deliveryId: string
}
type Spots = Awaited<ReturnType<typeof namedBalances>>
const pieces = (quantity: number, share: number) => Math.max(1, Math.round(quantity * share))
const nth = <T>(all: readonly T[], at: number): T | undefined => (all.length === 0 ? undefined : all[at % all.length])

async function inspectionsOf(lotId: string, states: readonly string[]): Promise<InspectionRow[]> {
  return (await reader().findBy(InspectionEntity, { lotId }))
    .filter(({ state }) => states.includes(state))
    .sort((a, b) => a.code.localeCompare(b.code))
}
async function dispatchesOf(lotId: string) {
  const rows = (await reader().query('SELECT DISTINCT dispatch_id AS id FROM dispatch_pick WHERE lot_id = ? ORDER BY 1', [lotId])) as { id: string }[]
  const found = []
  for (const { id } of rows) found.push(await reader().findOneByOrFail(DispatchEntity, { id }))
  return found
}

/** Does what is asked for, and says which pieces it may touch; null where there is nothing to ask for. */
async function asked(wish: Wish, lot: Lot, spots: Spots): Promise<{ act: () => Promise<unknown>; reach: (spot: Spots[number]) => boolean } | null> {
  const meant = (pieces: PiecesMeant) => (spot: Spots[number]) => holdReaches(pieces, spot)
  switch (wish.kind) {
    case 'finish': {
      const inspection = nth(await inspectionsOf(lot.id, ['toDo', 'started']), wish.nth)
      if (!inspection) return null
      const [line] = await reader().findBy(InspectionLineEntity, { inspectionId: inspection.id })
      const act = () =>
        change(async (work) => {
          const { version } = await recordReadings(work, new LineCache(), inspection.id, [reading(line?.id ?? '', 1, wish.isGood ? 'O' : 'X')])
          await finishInspection(work, inspection.id, version, [])
        })
      return { act, reach: meant(await piecesLookedAt(reader(), inspection)) }
    }
    case 'decide': {
      const inspection = nth(await inspectionsOf(lot.id, ['finished']), wish.nth)
      if (!inspection) return null
      const { held } = await loadInspection(reader(), inspection.id)
      const row = (quantity: number, disposition: Disposition) => ({ containerId: null, quantity, disposition, reason: 'because' })
      const rows = held.flatMap(({ quantity }) => {
        const first = pieces(quantity, wish.share)
        return [row(first, wish.first), ...(first < quantity ? [row(quantity - first, wish.then)] : [])]
      })
      const act = () => change((work) => decide(work, manager, { inspectionId: inspection.id, lotId: lot.id }, inspection.version, rows))
      return { act, reach: meant(await piecesLookedAt(reader(), inspection)) }
    }
    case 'pick': {
      const free = spots.filter(({ standing, placePurpose }) => standing === 'released' && placePurpose === 'store')
      const quantity = free.reduce((sum, spot) => sum + spot.quantity, 0)
      const picks = [{ lotId: lot.id, containerId: null, placeId: goods.places.store.id, quantity: pieces(quantity, wish.share) }]
      return { act: () => change((work) => pickDispatch(work, { customerId, orderNumber: '1', picks })), reach: (spot) => free.includes(spot) }
    }
    case 'send':
    case 'callOff': {
      const dispatch = nth(await dispatchesOf(lot.id), wish.nth)
      if (!dispatch) return null
      const { id, version } = dispatch
      const act = () => change((work) => (wish.kind === 'send' ? sendDispatch(work, id, version) : cancelDispatch(work, id, version)))
      return { act, reach: meant({ containerId: null, eventId: id }) }
    }
    case 'takeBack': {
      const dispatch = nth(await dispatchesOf(lot.id), wish.nth)
      if (!dispatch) return null
      const [pick] = (await reader().query('SELECT id, quantity FROM dispatch_pick WHERE dispatch_id = ?', [dispatch.id])) as {
        id: string
        quantity: number
      }[]
      const body = { pickId: pick?.id ?? '', quantity: pieces(pick?.quantity ?? 1, wish.share), reason: 'not wanted' }
      return { act: () => change((work) => receiveReturn(work, dispatch.id, body)), reach: meant({ containerId: null, eventId: dispatch.id }) }
    }
    case 'move':
    case 'putAway':
    case 'decideAny': {
      const spot = nth(spots, wish.nth)
      if (!spot || (wish.kind === 'putAway' && spot.standing !== 'onHold' && spot.standing !== 'released')) return null
      const quantity = pieces(spot.quantity, wish.share)
      const { placeId, standing, sublot } = spot
      const from = { containerId: null, standing, sublot, quantity }
      const act = {
        move: () =>
          change((work) =>
            transfer(work, {
              ...from,
              lotId: lot.id,
              fromPlaceId: placeId,
              toPlaceId: goods.places[wish.kind === 'move' ? wish.to : 'dock'].id,
              ruleId: null,
            }),
          ),
        putAway: () =>
          change((work) =>
            putAway(work, lot.id, {
              ...from,
              standing: standing === 'onHold' ? 'onHold' : 'released',
              fromPlaceId: placeId,
              toPlaceId: goods.places.store.id,
            }),
          ),
        decideAny: async () => {
          const last = (await loadDecisions(reader(), lot.id)).at(-1)?.id ?? null
          const row = { ...from, placeId, disposition: wish.kind === 'decideAny' ? wish.as : ('scrap' as const), reason: 'because' }
          return change((work) => decideAgain(work, manager, lot.id, last, [row]))
        },
      }[wish.kind]
      return { act, reach: (at) => at === spot }
    }
    case 'correct': {
      const quantity = spots.filter(({ standing }) => standing !== 'notArrived').reduce((sum, spot) => sum + spot.quantity, 0) + wish.by
      const correction = { field: 'quantity' as const, lotId: lot.id, containerId: null, quantity: Math.max(0, quantity) }
      const act = () => change((work) => correctDelivery(work, lot.deliveryId, correction, 'counted'))
      return { act, reach: ({ placePurpose }) => placePurpose !== 'shipping' }
    }
  }
}

/** Two inspections are finished, and what they hold is let go. */
const judged = (isGood: boolean): Wish[] => [
  ...[0, 0].map(() => ({ kind: 'finish' as const, nth: 0, isGood })),
  ...[0, 0].map(() => ({ kind: 'decide' as const, nth: 0, first: 'release' as const, then: 'release' as const, share: 1 })),
]
const keyOf = ({ placeId, standing, sublot }: Spots[number]) => `${placeId} ${standing} ${sublot}`
const sum = (spots: Spots) => spots.reduce((all, { quantity }) => all + quantity, 0)

/** What must hold of a lot whatever was done. */
async function requireWhole(lotId: string, spots: Spots): Promise<void> {
  // What is held whole is free nowhere.
  for (const hold of await openHolds(reader(), lotId, null))
    if (hold.quantity === null) expect(spots.filter((spot) => spot.standing === 'released' && holdReaches(hold, spot))).toEqual([])
  const purposes: PlacePurpose[] = ['store', 'shipping']
  expect(spots.filter(({ standing, placePurpose }) => ['quarantined', 'scrapped'].includes(standing) && purposes.includes(placePurpose))).toEqual([])
  for (const { id, state } of await dispatchesOf(lotId)) {
    const [row] = (await reader().query('SELECT SUM(quantity) AS picked FROM dispatch_pick WHERE dispatch_id = ?', [id])) as { picked: number }[]
    const own = sum(spots.filter(({ sublot }) => isOfEvent(sublot, id)))
    // A dispatch that waits has the pieces that were picked for it, in whatever standing; none is another's, none is lost.
    if (state === 'picked') expect(own).toBe(row?.picked)
    else expect(own).toBeLessThanOrEqual(row?.picked ?? 0)
    if (state !== 'sent') expect(spots.filter(({ standing, sublot }) => standing === 'shipped' && isOfEvent(sublot, id))).toEqual([])
  }
}

it('no piece is freed, scrapped or shipped by what is about another one, in whatever order people do what', async () => {
  const done = new Map<Wish['kind'], number>()
  const times = Number(process.env['NEMAWASHI_FUZZ'] ?? runs(500))
  await fc.assert(
    fc.asyncProperty(fc.array(wish, { minLength: 4, maxLength: 16 }), fc.integer({ min: 0, max: 5 }), async (wishes, begun) => {
      const lines = [{ partId, supplierLot: 'S', quantity: 40, containers: [], serials: [] }]
      const load = { carrier: '', vehicle: '', driver: '', seal: '', loadNumber: '' }
      const said = { supplierId: goods.supplier.id, orderNumber: '1', load, expectedId: null, isAnother: true, isUnusual: false, lines }
      const { id: deliveryId } = await change((work) => bookDelivery(work, said))
      const lot = { id: (await reader().findOneByOrFail(LotEntity, { originId: deliveryId })).id, deliveryId }
      // Some begin where most of what happens later begins: free in the store, at the door, at the customer's.
      const way: Wish[] = [
        ...judged(true),
        ...[0, 1].map((at) => ({ kind: 'putAway' as const, nth: at, share: 1 })),
        { kind: 'pick', share: 0.5 },
        ...judged(true),
        { kind: 'send', nth: 0 },
      ]
      for (const step of [...way.slice(0, [0, 4, 6, 7, 11, 12][begun]), ...wishes]) {
        const before = await namedBalances(reader(), lot.id)
        const next = await asked(step, lot, before)
        if (!next) continue
        try {
          await next.act()
          done.set(step.kind, (done.get(step.kind) ?? 0) + 1)
        } catch (error) {
          if (!(error instanceof ServerError) && !(error instanceof CoreError)) throw error
          expect(await namedBalances(reader(), lot.id)).toEqual(before)
          continue
        }
        const after = await namedBalances(reader(), lot.id)
        const now = new Map(after.map((spot) => [keyOf(spot), spot.quantity]))
        // Pieces that the act is not about lie where they lay, in the standing that they had.
        const touched = before.filter((spot) => !next.reach(spot) && (now.get(keyOf(spot)) ?? 0) < spot.quantity)
        expect(touched.map((spot) => `${step.kind}: ${spot.quantity} ${spot.standing} ${spot.placeName} ${spot.sublotCode ?? ''}`)).toEqual([])
        if (step.kind !== 'correct') expect(sum(after)).toBe(sum(before))
        await requireWhole(lot.id, after)
      }
    }),
    { numRuns: times },
  )
  for (const kind of ['finish', 'decide', 'pick', 'send', 'callOff', 'takeBack', 'move', 'putAway', 'decideAny', 'correct'] as const)
    expect([kind, (done.get(kind) ?? 0) > 0]).toEqual([kind, true])
  expect(door).not.toBe('')
  expect(await verifyLedger(plant.kernel.database.writer.connection)).toEqual([])
}, 3_600_000)
