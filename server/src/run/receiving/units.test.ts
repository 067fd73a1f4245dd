import { endpoints, type Delivery, type Inspection } from '@nemawashi/contract'
import fc from 'fast-check'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { schema } from '../../app/areas'
import { verifyPlant } from '../../kernel/verify/verifyPlant'
import { decideAll, inspect, receive, refusal, startPlant, stock, type Plant } from '../../testing/plant'
import { runs } from '../../testing/database'

const { contain, define, record, run, trace } = endpoints
let plant: Plant
let goods: Awaited<ReturnType<typeof stock>>
let boxes = ''
let whole = ''
beforeAll(async () => {
  plant = await startPlant()
  goods = await stock(plant)
  boxes = (await goods.plan('PL-BOX', [{ characteristicId: goods.judged.id }])).id
  whole = (await goods.plan('PL-WHOLE', [{ characteristicId: goods.measured.id }])).id
})
afterAll(async () => {
  expect((await verifyPlant(plant.kernel.database.address, schema)).breaks).toEqual([])
  await plant.stop()
})

const three = [40, 40, 20].map((quantity) => ({ label: null, quantity }))
const perBox = { planId: '', change: { subject: 'container' } }
const clerk = () => plant.as('receivingClerk')
const now = async ({ id }: Delivery) => (await clerk()).call(run.getDelivery, { params: { id } })
const standings = ({ lots }: Delivery) => lots[0]?.balances.map(({ standing, quantity }) => `${quantity} ${standing}`)
const asked = ({ lots }: Delivery, planName: string) => (lots[0]?.inspections ?? []).filter((entry) => entry.planName === planName)
const nthBox = (delivery: Delivery, i: number) => asked(delivery, 'Plan PL-BOX')[i]?.id ?? ''

const inspectHead = async (id: string): Promise<Inspection> => (await plant.as('inspector')).call(record.getInspection, { params: { id } })

describe('a control point that looks at each container', () => {
  it('opens one for each, of the pieces in it; a decision frees that container, and put-away waits for the others alone', async () => {
    await goods.under([{ ...perBox, planId: boxes }], async () => {
      const delivery = await receive(plant, goods, { containers: three })
      const found = asked(delivery, 'Plan PL-BOX')
      expect(found.map(({ unitLabel }) => unitLabel)).toEqual(delivery.lots[0]?.balances.map(({ containerLabel }) => containerLabel))
      const first = await inspect(plant, nthBox(delivery, 0))
      expect(first).toMatchObject({
        subjectKind: 'container',
        lotSize: 40,
        balances: [{ quantity: 40, standing: 'onHold' }],
        otherOpenInspections: [],
      })
      await decideAll(plant, first, 'release')
      const after = await now(delivery)
      expect(standings(after)?.sort()).toEqual(['20 onHold', '40 onHold', '40 released'])
      const free = after.lots[0]?.balances.find(({ standing }) => standing === 'released')
      const body = { containerId: free?.containerId ?? null, fromPlaceId: free?.placeId ?? '', quantity: 40, toPlaceId: goods.places.store.id }
      const other = after.lots[0]?.balances.find(({ standing }) => standing === 'onHold')
      const params = { id: after.lots[0]?.id ?? '' }
      expect((await refusal((await clerk()).call(run.putAway, { params, body: { ...body, containerId: other?.containerId ?? null } })))?.code).toBe(
        'gate_closed',
      )
      await (await clerk()).call(run.putAway, { params, body })
    })
  })

  it('and one of the lot hold each its own: a container is free when nothing is open on it or on all of the lot', async () => {
    await goods.under([{ ...perBox, planId: boxes }, { planId: whole }], async () => {
      const delivery = await receive(plant, goods, { containers: three })
      await decideAll(plant, await inspect(plant, nthBox(delivery, 0)), 'release')
      expect(standings(await now(delivery))).toEqual(['40 onHold', '40 onHold', '20 onHold'])
      const lot = await inspect(plant, asked(delivery, 'Plan PL-WHOLE')[0]?.id ?? '')
      expect(lot.otherOpenInspections).toHaveLength(2)
      await decideAll(plant, lot, 'release')
      expect(standings(await now(delivery))?.sort()).toEqual(['20 onHold', '40 onHold', '40 released'])
      // One that fails keeps its own pieces, and a concession on it stays one.
      await decideAll(plant, await inspect(plant, nthBox(delivery, 1), 1), 'quarantine')
      await decideAll(plant, await inspect(plant, nthBox(delivery, 2), 1), 'concession')
      expect(standings(await now(delivery))?.sort()).toEqual(['20 released', '40 quarantined', '40 released'])
      const passport = await (await plant.as('auditor')).call(trace.getPassport, { params: { id: delivery.lots[0]?.id ?? '' } })
      expect(passport.underConcession).toBe(20)
    })
  })

  it('that fails says nothing of the others: only its own pieces cannot simply be released when they are decided anew', async () => {
    await goods.under([{ ...perBox, planId: boxes }], async () => {
      const delivery = await receive(plant, goods, { containers: three })
      for (const [i, bad] of [0, 1, 0].entries()) await decideAll(plant, await inspect(plant, nthBox(delivery, i), bad), 'quarantine')
      const { balances, id } = (await now(delivery)).lots[0] as Delivery['lots'][number]
      const manager = await plant.as('qualityManager')
      const { decisions, failed } = await manager.call(contain.listDecisions, { params: { id } })
      const bad = asked(delivery, 'Plan PL-BOX')[1]?.containerId
      expect(failed).toEqual([{ containerId: bad, eventId: null }])
      const rows = balances.map(({ containerId, placeId, standing, sublot, quantity }) => {
        return { containerId, placeId, standing, sublot, quantity, disposition: 'release' as const, reason: 'sorted' }
      })
      const { problems } = await manager.call(contain.checkDecisionAgain, { params: { id }, body: { followsId: decisions.at(-1)?.id ?? '', rows } })
      expect(problems).toMatchObject([{ row: rows.findIndex(({ containerId }) => containerId === bad), code: 'release_is_concession' }])
    })
  })

  it('holds what fails of it also where it is no gate, and frees it again when it is cancelled', async () => {
    await goods.under([{ planId: boxes, change: { subject: 'container', isGate: false, onFailure: 'hold' } }], async () => {
      const delivery = await receive(plant, goods, { containers: three })
      expect(standings(delivery)).toEqual(['40 released', '40 released', '20 released'])
      await inspect(plant, nthBox(delivery, 2), 1)
      expect(standings(await now(delivery))?.sort()).toEqual(['20 onHold', '40 released', '40 released'])
    })
    await goods.under([{ ...perBox, planId: boxes }], async () => {
      const delivery = await receive(plant, goods, { containers: three })
      const { id, version } = await inspectHead(nthBox(delivery, 1))
      await (await plant.as('qualityManager')).call(record.cancelInspection, { params: { id }, body: { version, reason: 'opened twice' } })
      expect(standings(await now(delivery))?.sort()).toEqual(['20 onHold', '40 onHold', '40 released'])
    })
  })

  it('counts containers in its frequency, and looks at a lot without any as one', async () => {
    await goods.under(
      [{ planId: boxes, change: { subject: 'container', frequency: { kind: 'oneIn', k: 2 }, supplierId: goods.other.id } }],
      async () => {
        const supplierId = goods.other.id
        const delivery = await receive(plant, goods, { containers: three, supplierId })
        expect(asked(delivery, 'Plan PL-BOX')).toHaveLength(2)
        expect(standings(delivery)?.sort()).toEqual(['20 onHold', '40 onHold', '40 released'])
        // The fourth passes by, the fifth, which is loose, is due.
        expect(asked(await receive(plant, goods, { quantity: 10, supplierId }), 'Plan PL-BOX')).toHaveLength(0)
        expect(asked(await receive(plant, goods, { quantity: 10, supplierId }), 'Plan PL-BOX')).toMatchObject([{ unitLabel: null, holds: 'all' }])
      },
    )
  })

  it('leaves no piece free that something holds, and none on hold that nothing does, in whatever order they are decided', async () => {
    await goods.under([{ ...perBox, planId: boxes }, { planId: whole }], async () => {
      const found = fc.constantFrom('release' as const, 'concession' as const, 'quarantine' as const, 'scrap' as const)
      await fc.assert(
        fc.asyncProperty(
          fc.shuffledSubarray([0, 1, 2, 3], { minLength: 4 }),
          fc.array(found, { minLength: 4, maxLength: 4 }),
          async (order, said) => {
            const delivery = await receive(plant, goods, { containers: three })
            const all = delivery.lots[0]?.inspections ?? []
            const open = new Set(all)
            for (const [i, at] of order.entries()) {
              const next = all[at] as (typeof all)[number]
              const disposition = said[i] as (typeof said)[number]
              await decideAll(plant, await inspect(plant, next.id, disposition === 'release' ? 0 : 1), disposition)
              open.delete(next)
              const { balances } = (await now(delivery)).lots[0] as Delivery['lots'][number]
              expect(balances.reduce((sum, { quantity }) => sum + quantity, 0)).toBe(100)
              for (const spot of balances) {
                const isHeld = [...open].some(({ containerId }) => containerId === null || containerId === spot.containerId)
                if (spot.standing === 'released') expect(isHeld).toBe(false)
                if (spot.standing === 'onHold') expect(isHeld).toBe(true)
              }
            }
          },
        ),
        { numRuns: runs(12) },
      )
    })
  })

  it('is told before the delivery is booked in: how often it opens, and with which sample', async () => {
    await goods.under([{ ...perBox, planId: boxes }], async () => {
      const line = { partId: goods.part.id, quantity: 100, containers: [40, 40, 20] }
      const told = await (await clerk()).call(run.previewDelivery, { body: { supplierId: goods.supplier.id, lines: [line] } })
      expect(told.lines[0]?.asked).toMatchObject([{ subject: 'container', times: 3, lines: [{ sampleSize: 3 }] }])
    })
  })

  it('looks at what leaves and at what comes back, too', async () => {
    const operationIds = [goods.receiving.id, (await goods.make(define.operations, { code: 'OUT', name: 'OUT', kind: 'shipping' })).id]
    const outPart = {
      code: 'P-OUT',
      name: 'Out',
      revision: 'A',
      unit: 'piece',
      tracking: 'lot',
      familyId: null,
      putAwayPlaceId: goods.places.store.id,
    }
    const part = await goods.make(define.parts, { ...outPart, operationIds })
    const customer = await goods.make(define.partners, { code: 'CU', name: 'CU', kind: 'customer', isActive: true })
    for (const purpose of ['shipping', 'outside'])
      await goods.make(define.places, { code: purpose, name: purpose, purpose, countsForPlanning: false })
    const point = { subject: 'container', operationId: operationIds[1], moment: 'beforeDispatch', partId: part.id }
    await goods.under([{ planId: boxes, change: point }], async () => {
      const delivery = await receive(plant, { ...goods, part }, { containers: three })
      const lotId = delivery.lots[0]?.id ?? ''
      const spots = delivery.lots[0]?.balances ?? []
      for (const { containerId, placeId, quantity } of spots)
        await (
          await clerk()
        ).call(run.putAway, { params: { id: lotId }, body: { containerId, fromPlaceId: placeId, quantity, toPlaceId: goods.places.store.id } })
      const picks = spots.slice(0, 2).map(({ containerId, quantity }) => ({ lotId, containerId, placeId: goods.places.store.id, quantity }))
      const picked = await (await clerk()).call(run.pickDispatch, { body: { customerId: customer.id, orderNumber: '1', picks } })
      expect(picked.checks).toHaveLength(2)
      expect(picked.gates).toHaveLength(2)
    })
  })
})
