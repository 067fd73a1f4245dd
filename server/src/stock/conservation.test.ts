import { dispositions, standings } from '@nemawashi/core'
import { endpoints, type Passport } from '@nemawashi/contract'
import fc from 'fast-check'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { inspect, password, receive, refusal, startPlant, stock, type Plant, type Stock } from '../testing/plant'
import { verifyLedger } from './ledgerRepository'

const { run, contain, trace } = endpoints
let plant: Plant
let goods: Stock
beforeAll(async () => {
  plant = await startPlant()
  goods = await stock(plant, { kind: 'fixedNumber', sampleSize: 1, accept: 0 })
  await goods.point((await goods.plan('PL-1', [{ characteristicId: goods.measured.id }])).id)
})
afterAll(() => plant.stop())

const passportOf = async (lotId: string): Promise<Passport> => (await plant.as('auditor')).call(trace.getPassport, { params: { id: lotId } })
function sums(passport: Passport): number {
  return passport.balances.reduce((sum, balance) => sum + balance.quantity, 0)
}

/** Whatever people ask for, in whatever order, sensible or not. */
const wish = fc.oneof(
  fc.record({
    kind: fc.constant('putAway' as const),
    quantity: fc.integer({ min: -5, max: 140 }),
    from: fc.constantFrom('bay', 'store', 'cage', 'dock'),
  }),
  fc.record({
    kind: fc.constant('decide' as const),
    cuts: fc.array(fc.record({ quantity: fc.integer({ min: -3, max: 130 }), disposition: fc.constantFrom(...dispositions) }), { maxLength: 4 }),
  }),
  fc.constant({ kind: 'fairDecision' as const }),
  fc.record({ kind: fc.constant('correct' as const), quantity: fc.integer({ min: -2, max: 150 }) }),
)

describe('the quantity of a lot', () => {
  it('is the same at every moment, whatever is asked for, and nothing is ever below zero', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.integer({ min: 1, max: 120 }),
        fc.array(wish, { minLength: 1, maxLength: 8 }),
        fc.boolean(),
        async (quantity, wishes, isGood) => {
          const delivery = await receive(plant, goods, { quantity })
          const lot = delivery.lots[0]
          const inspection = await inspect(plant, lot?.inspections[0]?.id ?? '', isGood ? 0 : 1)
          const manager = await plant.as('qualityManager')
          const clerk = await plant.as('receivingClerk')
          const decide = (rows: { quantity: number; disposition: (typeof dispositions)[number] }[]) =>
            manager.call(contain.decide, {
              params: { id: inspection.id },
              body: { version: inspection.version, password, rows: rows.map((row) => ({ ...row, containerId: null, reason: 'because' })) },
            })
          for (const asked of wishes) {
            const answer =
              asked.kind === 'putAway'
                ? clerk.call(run.putAway, {
                    params: { id: lot?.id ?? '' },
                    body: {
                      containerId: null,
                      fromPlaceId: goods.places[asked.from as 'bay'].id,
                      quantity: asked.quantity,
                      toPlaceId: goods.places.store.id,
                    },
                  })
                : asked.kind === 'correct'
                  ? clerk.call(run.correctDelivery, {
                      params: { id: delivery.id },
                      body: {
                        correction: { field: 'quantity', lotId: lot?.id ?? '', containerId: null, quantity: asked.quantity },
                        reason: 'counted',
                      },
                    })
                  : decide(asked.kind === 'decide' ? asked.cuts : [{ quantity, disposition: isGood ? 'release' : 'quarantine' }])
            const found = await refusal(answer)
            if (found) expect(found.status).toBeLessThan(500)
            const passport = await passportOf(lot?.id ?? '')
            expect(sums(passport)).toBe(passport.lot.quantity)
            expect(passport.lot.quantity).toBeGreaterThanOrEqual(quantity)
            expect(passport.balances.every((balance) => balance.quantity > 0 && standings.includes(balance.standing))).toBe(true)
          }
          const passport = await passportOf(lot?.id ?? '')
          for (const { standingsAfter } of passport.events)
            expect(Object.values(standingsAfter).reduce((sum, part) => sum + part, 0)).toBeGreaterThanOrEqual(quantity)
        },
      ),
      { numRuns: 25 },
    )
    expect(await verifyLedger(plant.kernel.database.writer.connection)).toEqual([])
  }, 120_000)

  it('is moved by one of two clerks who take the same pieces at the same time', async () => {
    const delivery = await receive(plant, goods, { quantity: 80 })
    const lot = delivery.lots[0]
    const inspection = await inspect(plant, lot?.inspections[0]?.id ?? '')
    const manager = await plant.as('qualityManager')
    await manager.call(contain.decide, {
      params: { id: inspection.id },
      body: { version: inspection.version, password, rows: [{ containerId: null, quantity: 80, disposition: 'release', reason: '' }] },
    })
    const clerk = await plant.as('receivingClerk')
    const take = () =>
      refusal(
        clerk.call(run.putAway, {
          params: { id: lot?.id ?? '' },
          body: { containerId: null, fromPlaceId: goods.places.bay.id, quantity: 50, toPlaceId: goods.places.store.id },
        }),
      )
    const outcomes = await Promise.all([take(), take()])
    expect(outcomes.filter((outcome) => outcome === null)).toHaveLength(1)
    expect(outcomes.find((outcome) => outcome !== null)).toMatchObject({ code: 'movement_exceeds_balance', facts: { received: 50, available: 30 } })
  })
})
