import { endpoints, type Delivery, type Inspection, type ProductionOrder } from '@nemawashi/contract'
import fc from 'fast-check'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { schema } from '../app/areas'
import { verifyPlant } from '../kernel/verifyPlant'
import { decideAll, inspect, password, receive, refusal, startPlant, stock, type Plant } from '../testing/plant'

const { attach, contain, define, run, trace } = endpoints
let plant: Plant
let goods: Awaited<ReturnType<typeof stock>>
let boxes = ''
let whole = ''
let winch: { id: string }
let step: { id: string }
beforeAll(async () => {
  plant = await startPlant()
  goods = await stock(plant)
  boxes = (await goods.plan('PL-BOX', [{ characteristicId: goods.judged.id }])).id
  whole = (await goods.plan('PL-WHOLE', [{ characteristicId: goods.measured.id }])).id
  await goods.make(define.places, { code: 'LINE', name: 'LINE', purpose: 'production', countsForPlanning: false })
  step = await goods.make(define.operations, { code: 'TEST', name: 'Proof load', kind: 'production' })
  const of = { code: 'W-1', name: 'Winch', revision: 'A', unit: 'piece', tracking: 'serial', familyId: null, putAwayPlaceId: goods.places.store.id }
  winch = await goods.make(define.parts, { ...of, operationIds: [goods.receiving.id, step.id] })
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
      expect(failed).toEqual([{ containerId: bad }])
      const rows = balances.map(({ containerId, placeId, standing, quantity }) => {
        return { containerId, placeId, standing, quantity, disposition: 'release' as const, reason: 'sorted' }
      })
      const { problems } = await manager.call(contain.checkDecisionAgain, { params: { id }, body: { followsId: decisions.at(-1)?.id ?? '', rows } })
      expect(problems).toMatchObject([{ row: rows.findIndex(({ containerId }) => containerId === bad), code: 'release_is_concession' }])
    })
  })

  it('holds what fails of it also where it is no gate, and frees it again when it is called off', async () => {
    await goods.under([{ planId: boxes, change: { subject: 'container', isGate: false, onFailure: 'hold' } }], async () => {
      const delivery = await receive(plant, goods, { containers: three })
      expect(standings(delivery)).toEqual(['40 released', '40 released', '20 released'])
      await inspect(plant, nthBox(delivery, 2), 1)
      expect(standings(await now(delivery))?.sort()).toEqual(['20 onHold', '40 released', '40 released'])
    })
    await goods.under([{ ...perBox, planId: boxes }], async () => {
      const delivery = await receive(plant, goods, { containers: three })
      const { id, version } = await inspectHead(nthBox(delivery, 1))
      await (await plant.as('qualityManager')).call(endpoints.record.cancelInspection, { params: { id }, body: { version, reason: 'opened twice' } })
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
        { numRuns: 12 },
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
    const of = { code: 'P-OUT', name: 'Out', revision: 'A', unit: 'piece', tracking: 'lot', familyId: null, putAwayPlaceId: goods.places.store.id }
    const part = await goods.make(define.parts, { ...of, operationIds })
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

const inspectHead = async (id: string): Promise<Inspection> => (await plant.as('inspector')).call(endpoints.record.getInspection, { params: { id } })
const winches = async (serials: string[], quantity = serials.length): Promise<Delivery> =>
  (await clerk()).call(run.receiveDelivery, {
    body: {
      supplierId: goods.supplier.id,
      orderNumber: 'W',
      isAnother: true,
      lines: [{ partId: winch.id, supplierLot: 'S', quantity, containers: [], serials }],
    },
  })

describe('a part that is traced by serial numbers', () => {
  it('comes with one for each piece, none of which it had before', async () => {
    expect(await refusal(winches([], 2))).toMatchObject({ code: 'serials_missing', message: 'Line 1: 0 serial numbers for 2 pieces of W-1.' })
    expect((await refusal(winches(['A', 'A'])))?.code).toBe('already_exists')
    const twice = ['S1', 'S2'].map((supplierLot) => ({ partId: winch.id, supplierLot, quantity: 1, containers: [], serials: ['A'] }))
    const both = { supplierId: goods.supplier.id, orderNumber: 'W', isAnother: true, lines: twice }
    expect((await refusal((await clerk()).call(run.receiveDelivery, { body: both })))?.message).toBe(
      'Line 2: the serial number A stands on line 1, too.',
    )
    const delivery = await winches(['A', 'B'])
    expect(delivery.lots[0]?.balances).toMatchObject([
      { containerLabel: 'W-1 A', quantity: 1 },
      { containerLabel: 'W-1 B', quantity: 1 },
    ])
    expect(await refusal(winches(['B']))).toMatchObject({ code: 'already_exists', message: expect.stringContaining(delivery.lots[0]?.code ?? '?') })
  })

  it('is looked at piece by piece where a control point says so, and each is decided by itself', async () => {
    await goods.under([{ planId: boxes, change: { subject: 'serial', partId: winch.id } }], async () => {
      const delivery = await winches(['C', 'D'])
      expect(asked(delivery, 'Plan PL-BOX')).toMatchObject([
        { unitLabel: 'W-1 C', lines: [{ sampleSize: 1 }] },
        { unitLabel: 'W-1 D', lines: [{ sampleSize: 1 }] },
      ])
      await decideAll(plant, await inspect(plant, nthBox(delivery, 0)), 'release')
      const failed = await inspect(plant, nthBox(delivery, 1), 1)
      const rows = failed.balances.map(({ containerId }) => ({
        containerId,
        quantity: 1,
        disposition: 'returnToSupplier' as const,
        reason: 'a burr',
      }))
      const body = { version: failed.version, password, lotId: failed.lotId, rows }
      await (await plant.as('qualityManager')).call(contain.decide, { params: { id: failed.id }, body })
      expect((await now(delivery)).lots[0]?.balances).toMatchObject([
        { containerLabel: 'W-1 C', standing: 'released' },
        { containerLabel: 'W-1 D', standing: 'returned' },
      ])
    })
  })

  it('is numbered with its order: pieces that are lost are named, and what the step has made is looked at one by one', async () => {
    await goods.under(
      [{ planId: boxes, change: { subject: 'serial', partId: winch.id, operationId: step.id, moment: 'end', holdPlaceId: null } }],
      async () => {
        const hand = await plant.as('productionOperator')
        const plan = (quantity: number) => hand.call(run.createOrder, { body: { partId: winch.id, quantity, orderNumber: '', customerId: null } })
        const release = ({ id, version }: ProductionOrder, serials: string[] | null = null) =>
          hand.call(run.releaseOrder, { params: { id }, body: { version, serials } })
        const numbered = await release(await plan(2))
        expect(numbered.next).toMatchObject({ serials: [expect.stringMatching(/-001$/), expect.stringMatching(/-002$/)] })
        const planned = await plan(4)
        expect((await refusal(release(planned, ['M1'])))?.code).toBe('serials_missing')
        let order = await release(planned, ['M1', 'M2', 'M3', 'M4'])
        order = await hand.call(run.startStep, { params: { id: order.id }, body: { version: order.version } })
        const confirm = (scrappedSerials: string[]) =>
          hand.call(run.confirmStep, {
            params: { id: order.id },
            body: { version: order.version, good: 3, scrapped: 1, setAside: 0, scrappedSerials },
          })
        expect((await refusal(confirm([])))?.code).toBe('serials_missing')
        expect((await refusal(confirm(['X'])))?.message).toContain('X')
        order = await confirm(['M2'])
        expect(order.balances.map(({ containerLabel, standing }) => `${containerLabel} ${standing}`).sort()).toEqual([
          'W-1 M1 onHold',
          'W-1 M2 scrapped',
          'W-1 M3 onHold',
          'W-1 M4 onHold',
        ])
        expect(order.steps[0]?.checks).toHaveLength(3)
      },
    )
  })
})

describe('who it is for', () => {
  it('can be a group of suppliers, or a contract: narrower goods first, then the contract, the partner, the group', async () => {
    const { engineer } = goods
    const supplier = await engineer.call(define.partners.get, { params: { id: goods.supplier.id } })
    const { id: _, ...rest } = supplier
    await engineer.call(define.partners.update, { params: { id: supplier.id }, body: { ...rest, supplierGroup: 'forges' } })
    await (
      await plant.as('receivingClerk')
    ).call(run.createPurchaseOrder, {
      body: { supplierId: supplier.id, orderNumber: '4711', contract: 'K-9', lines: [{ partId: goods.part.id, quantity: 500, dueOn: null }] },
    })
    const points = [
      { planId: boxes, change: { supplierGroup: 'forges' } },
      { planId: boxes, change: { contract: 'K-9', isGate: false } },
      { planId: whole, change: { contract: 'K-10' } },
    ]
    await goods.under(points, async () => {
      const delivery = await receive(plant, goods)
      expect(delivery.lots[0]?.inspections).toMatchObject([{ planName: 'Plan PL-BOX', isGate: false }])
      expect(asked(await receive(plant, goods, { supplierId: goods.other.id }), 'Plan PL-BOX')).toHaveLength(0)
      const query = { operationId: goods.receiving.id, partId: goods.part.id, partnerId: supplier.id, quantity: 10 }
      const told = await engineer.call(attach.rehearse, { query })
      expect(told.lots[0]?.considered.map(({ level, opens, misses }) => [level, opens, misses])).toEqual([
        ['partOfGroup', true, []],
        ['partUnderContract', false, ['contract']],
        ['partUnderContract', false, ['contract']],
      ])
      const under = await engineer.call(attach.rehearse, { query: { ...query, contract: 'K-9' } })
      expect(under.lots[0]?.considered.map(({ opens, givesWayTo }) => [opens, givesWayTo])).toEqual([
        [false, 'partUnderContract'],
        [true, null],
        [false, null],
      ])
      const { stops } = await engineer.call(attach.getFlow, { params: { id: goods.part.id }, query: { partnerId: supplier.id } })
      expect(stops[0]?.points.map(({ why }) => why)).toEqual([
        'set for this part from this group of suppliers',
        'only under contract K-9',
        'only under contract K-10',
      ])
    })
  })

  it('is refused where it would never open', async () => {
    expect((await refusal(goods.point(boxes, { supplierGroup: 'nobody' })))?.code).toBe('reference_unknown')
    expect((await refusal(goods.point(boxes, { supplierGroup: 'forges', supplierId: goods.supplier.id })))?.code).toBe('input_invalid')
    expect((await refusal(goods.point(boxes, { contract: 'K-9', operationId: step.id, partId: winch.id, moment: 'end' })))?.code).toBe(
      'moment_not_there',
    )
    expect(await refusal(goods.point(boxes, { subject: 'container', operationId: step.id, partId: winch.id, moment: 'end' }))).toMatchObject({
      code: 'moment_not_there',
      message: expect.stringContaining('each container'),
    })
  })
})
