import { endpoints, type Delivery, type ProductionOrder } from '@nemawashi/contract'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { inspect, password, receive, refusal, startPlant, stock, type Plant, type Stock } from '../../testing/plant'

const { attach, contain, define, run, record, trace } = endpoints
let plant: Plant
let goods: Stock
let powder: { id: string; code: string; version: number }
beforeAll(async () => {
  plant = await startPlant({ NEMAWASHI_WEBHOOK: 'http://127.0.0.1:1/', NEMAWASHI_WEBHOOK_SECRET: 'a secret of sixteen and more' })
  // MIL-STD-105E, table I and II-A: 251 units are letter G, 32 pieces; 25 050 would be letter M, 315.
  goods = await stock(plant, { kind: 'attributesScheme', level: 'II', aqlPercent: 1.5 })
  await goods.make(define.places, { code: 'LINE', name: 'Line', purpose: 'production', countsForPlanning: false })
  powder = await goods.make(define.parts, {
    code: 'POWDER',
    name: 'Powder',
    revision: 'A',
    unit: '0.01 kg',
    tracking: 'lot',
    familyId: null,
    putAwayPlaceId: goods.places.store.id,
    operationIds: [goods.receiving.id, goods.assembly.id],
  })
})
afterAll(() => plant.stop())

const deliver = (quantity: number, containers: { label: string | null; quantity: number }[] = []): Promise<Delivery> =>
  receive(plant, { ...goods, part: powder }, { quantity, containers })

describe('a part that is counted in hundredths of a kilogram', () => {
  it('is sampled by whole kilograms, and a gate holds as many of them as the sample has', async () => {
    const plan = await goods.plan('PL-KG', [{ characteristicId: goods.judged.id }])
    await goods.under([{ planId: plan.id, change: { partId: powder.id, holds: 'sample' } }], async () => {
      const { lots } = await deliver(25_050)
      const [lot] = lots
      expect(lot).toMatchObject({ quantity: 25_050, unit: '0.01 kg' })
      const { lotSize, lines, held } = await (
        await plant.as('inspector')
      ).call(record.getInspection, { params: { id: lot?.inspections[0]?.id ?? '' } })
      expect([lotSize, lines[0]?.sampleSize, held[0]?.quantity]).toEqual([251, 32, 3200])
    })
  })

  it('is decided to the hundredth, with what was found set aside in whole kilograms', async () => {
    const plan = await goods.plan('PL-ALL', [{ characteristicId: goods.judged.id }])
    await goods.under([{ planId: plan.id, change: { partId: powder.id } }], async () => {
      const { lots } = await deliver(950)
      const inspection = await inspect(plant, lots[0]?.inspections[0]?.id ?? '', 2)
      const manager = await plant.as('qualityManager')
      const decide = (quantities: number[]) =>
        manager.call(contain.decide, {
          params: { id: inspection.id },
          body: {
            version: inspection.version,
            password,
            lotId: inspection.lotId,
            rows: quantities.map((quantity, i) => ({
              containerId: null,
              quantity,
              disposition: i === 0 ? ('concession' as const) : ('scrap' as const),
              reason: 'said in a test',
            })),
          },
        })
      expect((await refusal(decide([700, 200])))?.message).toContain('9.50 are on hold, 9.00 were decided on: 0.50 are left without a decision')
      expect((await refusal(decide([700.5, 249.5])))?.message).toContain('steps of 0.01 kg')
      await decide([725, 225])
      const passport = await manager.call(trace.getPassport, { params: { id: inspection.lotId ?? '' } })
      expect(passport.events.map(({ title }) => title)).toContain('Received, 9.50 kg')
      expect(passport.events.find(({ kind }) => kind === 'decided')?.detail).toBe(
        'use as is (concession) 7.25: said in a test · scrap 2.25: said in a test',
      )
    })
  })

  it('comes up every so many whole kilograms, in a run and in its rehearsal', async () => {
    const plan = await goods.plan('PL-RUN', [{ characteristicId: goods.judged.id }])
    const point = { partId: powder.id, operationId: goods.assembly.id, moment: 'everyPieces', every: 5, isGate: false, holdPlaceId: null }
    await goods.under([{ planId: plan.id, change: point }], async () => {
      const query = { operationId: goods.assembly.id, partId: powder.id, quantity: 1250, lots: 1 }
      const { lots } = await goods.engineer.call(attach.rehearse, { query })
      expect(lots[0]?.considered).toMatchObject([{ opens: true, times: 2 }])
      const operator = await plant.as('productionOperator')
      const at = (order: ProductionOrder) => ({ params: { id: order.id }, body: { version: order.version } })
      let order = await operator.call(run.createOrder, { body: { partId: powder.id, quantity: 1250, orderNumber: '', customerId: null } })
      for (const act of [run.releaseOrder, run.startStep]) order = await operator.call(act, at(order))
      const tell = async (good: number) => {
        const report = { kind: 'pieces' as const, good, scrapped: 0, setAside: 0 }
        order = await operator.call(run.reportStep, { params: { id: order.id }, body: { version: order.version, report } })
        return order.steps[0]?.checks.length
      }
      expect([await tell(499), await tell(2), await tell(498), await tell(1)]).toEqual([0, 1, 1, 2])
      const [first] = order.steps[0]?.checks ?? []
      const { lotSize } = await (await plant.as('inspector')).call(record.getInspection, { params: { id: first?.id ?? '' } })
      expect(lotSize).toBe(5)
    })
  })

  it('is told with its decimals in a file of a list, and in whole steps over the wire', async () => {
    const { lots } = await deliver(1205)
    const clerk = await plant.as('receivingClerk')
    const { rows } = await clerk.call(trace.listLots, { query: { q: lots[0]?.code } })
    expect(rows).toMatchObject([{ quantity: 1205, unit: '0.01 kg' }])
    const csv = await (await fetch(`${plant.base}/api/v1/lots.csv?q=${lots[0]?.code}`, { headers: { cookie: clerk.cookies } })).text()
    expect(csv).toContain('12.05,kg')
  })

  it('adds up with parts of other units in the unit itself', async () => {
    const clerk = await plant.as('receivingClerk')
    const lines = [
      { partId: powder.id, quantity: 1250, dueOn: null },
      { partId: goods.part.id, quantity: 40, dueOn: null },
    ]
    await clerk.call(run.createPurchaseOrder, { body: { supplierId: goods.supplier.id, orderNumber: 'MIXED', contract: '', lines } })
    const { rows } = await clerk.call(run.listPurchaseOrders, { query: { q: 'MIXED' } })
    expect(rows[0]).toMatchObject({ ordered: 52.5, received: 0 })
  })

  it('is refused in words of its unit where a quantity is finer, in containers and on orders alike', async () => {
    expect((await refusal(deliver(250.5)))?.message).toBe(
      'Line 1: Received a quantity of 2.505 kg. It is at least 0.01 kg, in steps of that, and at most 10000000 kg.',
    )
    expect((await refusal(deliver(1000, [{ label: null, quantity: 400 }])))?.message).toContain(
      'the containers hold 4.00, the delivery note says 10.00 kg',
    )
  })

  it('keeps its unit once there are lots of it; one by one are counted what has serial numbers', async () => {
    const { id: _, ...now } = await goods.engineer.call(define.parts.get, { params: { id: powder.id } })
    const change = (fields: object) =>
      refusal(goods.engineer.call(define.parts.update, { params: { id: powder.id }, body: { ...now, ...fields } as never }))
    expect(await change({ unit: 'kg' })).toMatchObject({ code: 'still_in_use', facts: { field: 'unit' } })
    expect(await change({ tracking: 'serial' })).toMatchObject({ code: 'input_invalid', facts: { field: 'unit' } })
  })

  it('comes over the feed in kilograms', async () => {
    const feed = await plant.as('orderFeed')
    const event = (key: string, quantity: number) => ({
      key,
      kind: 'purchaseOrder' as const,
      body: { supplier: 'SUP', number: key, lines: [{ part: 'POWDER', quantity }] },
    })
    const { answers } = await feed.call(run.sendEvents, { body: { events: [event('F-1', 12.34), event('F-2', 12.345)] } })
    expect(answers).toMatchObject([
      { state: 'taken' },
      { state: 'aside', code: 'quantity_invalid', message: 'Received a quantity of 12.345 kg. It is counted in steps of 0.01 kg.' },
    ])
    const clerk = await plant.as('receivingClerk')
    const { rows } = await clerk.call(run.listPurchaseOrders, { query: { q: 'F-1' } })
    expect(rows[0]).toMatchObject({ ordered: 12.34 })
  })

  it('has so many whole kilograms set aside as were found nonconforming, held and kept from being released', async () => {
    const line = {
      characteristicId: goods.judged.id,
      sampling: { kind: 'fixedNumber', sampleSize: 5, accept: 1 } as const,
      isRequired: true,
      isDecisive: false,
    }
    const draft = await goods.engineer.call(define.createPlan, { body: { code: 'PL-APART', name: 'Apart', lines: [line] } })
    const plan = await goods.engineer.call(define.releasePlan, { params: { id: draft.id }, body: { version: draft.version } })
    await goods.under([{ planId: plan.id, change: { partId: powder.id, isGate: false, holdPlaceId: null, setsAside: true } }], async () => {
      const { lots } = await deliver(950)
      const found = await inspect(plant, lots[0]?.inspections[0]?.id ?? '', 1)
      expect(found).toMatchObject({ finding: { verdict: 'acceptable' }, setAside: 1, held: [{ quantity: 100 }] })
      const manager = await plant.as('qualityManager')
      const rows = [
        { containerId: null, quantity: 60, disposition: 'release' as const, reason: 'said in a test' },
        { containerId: null, quantity: 40, disposition: 'scrap' as const, reason: 'said in a test' },
      ]
      const body = { version: found.version, password, lotId: found.lotId, rows }
      expect(await refusal(manager.call(contain.decide, { params: { id: found.id }, body }))).toMatchObject({
        code: 'set_aside',
        message: expect.stringContaining('Of 1.00 on hold, 0.00 can be released'),
      })
    })
  })

  it('is sampled anew by whole kilograms when more came than was entered, and its gate holds as many', async () => {
    const plan = await goods.plan('PL-GROW', [{ characteristicId: goods.judged.id }])
    await goods.under([{ planId: plan.id, change: { partId: powder.id, holds: 'sample' } }], async () => {
      const delivery = await deliver(1_000)
      const clerk = await plant.as('receivingClerk')
      const seen = async () => {
        const { lotSize, lines, held } = await clerk.call(record.getInspection, { params: { id: delivery.lots[0]?.inspections[0]?.id ?? '' } })
        return [lotSize, lines[0]?.sampleSize, held[0]?.quantity]
      }
      // MIL-STD-105E, level II at AQL 1.5: 10 units are letter B, which leads to C and 8 pieces; 251 are letter G and 32.
      expect(await seen()).toEqual([10, 8, 800])
      const correction = { field: 'quantity' as const, lotId: delivery.lots[0]?.id ?? '', containerId: null, quantity: 25_050 }
      const params = { id: delivery.id }
      const corrected = await clerk.call(run.correctDelivery, { params, body: { correction, reason: 'weighed again' } })
      expect(await seen()).toEqual([251, 32, 3_200])
      expect(corrected.corrections).toMatchObject([{ before: '1000', after: '25050' }])
      const { events } = await clerk.call(trace.getPassport, { params: { id: delivery.lots[0]?.id ?? '' } })
      expect(events.map(({ title }) => title)).toContain('Corrected: quantity 250.50 instead of 10.00')
    })
  })

  it('is counted by whole kilograms where a check comes once per number of them, in earnest and in the past that is played', async () => {
    const plan = await goods.plan('PL-PER', [{ characteristicId: goods.judged.id }])
    const point = { partId: powder.id, isGate: false, holdPlaceId: null, frequency: { kind: 'perPieces', pieces: 50 } }
    await goods.under([{ planId: plan.id, change: point }], async () => {
      const opened: (number | undefined)[] = []
      for (const quantity of [3_000, 2_990, 2_010]) opened.push((await deliver(quantity)).lots[0]?.inspections.length)
      expect(opened).toEqual([1, 0, 1])
      const { occasions } = await goods.engineer.call(attach.getPastOccasions, { query: { partId: powder.id } })
      expect(occasions.slice(-3).map(({ quantity }) => quantity)).toEqual([30, 30, 21])
    })
  })

  it('is inspected by hand by whole kilograms', async () => {
    const plan = await goods.plan('PL-HAND', [{ characteristicId: goods.judged.id }])
    const { lots } = await deliver(1_205)
    const body = { planId: plan.id, operationId: goods.receiving.id, containerId: null, isHolding: false, reason: 'the customer asked' }
    const inspector = await plant.as('inspector')
    expect((await inspector.call(record.openByHand, { params: { id: lots[0]?.id ?? '' }, body })).lotSize).toBe(13)
  })

  it('is told of to the other system in kilograms', async () => {
    const { code } = await deliver(1_205)
    const rows = (await plant.kernel.database.reader.query('SELECT body FROM notice WHERE about = ?', [code])) as { body: string }[]
    expect(rows.map(({ body }) => (JSON.parse(body) as { lots: unknown }).lots)).toMatchObject([[{ quantity: 12.05, released: 12.05 }]])
  })
})
