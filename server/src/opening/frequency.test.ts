import { describeApplied, describeDue, type FrequencyRule } from '@nemawashi/core'
import { endpoints, type Considered } from '@nemawashi/contract'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { decideAll, inspect, refusal, startPlant, stock, type Plant } from '../testing/plant'

const { attach, run } = endpoints
let plant: Plant
let goods: Awaited<ReturnType<typeof stock>>
let planId = ''
beforeAll(async () => {
  plant = await startPlant()
  goods = await stock(plant)
  planId = (await goods.plan('PL-F', [{ characteristicId: goods.judged.id }])).id
})
afterAll(() => plant.stop())

let orders = 0
/** One lot from a supplier; gives its inspections, and settles them as told. */
async function arrive(supplierId: string, failing: number | null = 0) {
  const clerk = await plant.as('receivingClerk')
  const lines = [{ partId: goods.part.id, supplierLot: `S-${++orders}`, quantity: 20, containers: [] }]
  const delivery = await clerk.call(run.receiveDelivery, { body: { supplierId, orderNumber: `O-${orders}`, lines } })
  const inspections = delivery.lots[0]?.inspections ?? []
  if (failing !== null) for (const { id } of inspections) await decideAll(plant, await inspect(plant, id, failing), failing ? 'scrap' : 'release')
  return { delivery, inspections }
}
const rehearsed = async (partnerId: string, lots = 4): Promise<Considered[][]> => {
  const query = { operationId: goods.receiving.id, partId: goods.part.id, partnerId, quantity: 20, lots }
  return (await goods.engineer.call(attach.rehearse, { query })).lots.map(({ considered }) => considered)
}
async function under(frequency: FrequencyRule, work: (supplierId: string) => Promise<void>): Promise<void> {
  const point = await goods.point(planId, { frequency, isGate: true, responsible: 'Lab', dueHours: 4 })
  await work(goods.supplier.id)
  await goods.engineer.call(attach.retireControlPoint, { params: { id: point.id }, body: { version: point.version } })
}

it('one in three opens at the first arrival and every third after it; what passes by is free, and both are remembered', async () => {
  await under({ kind: 'oneIn', k: 3 }, async (supplierId) => {
    const told = (await rehearsed(supplierId, 5)).map(([entry]) => entry?.opens)
    const seen = []
    for (let i = 0; i < 5; i++) {
      const { delivery, inspections } = await arrive(supplierId)
      seen.push(inspections.length === 1)
      if (i !== 1) continue
      const [lot] = delivery.lots
      expect(lot?.balances).toMatchObject([{ standing: 'released', placeName: 'DOCK' }])
      expect(lot?.skippedByRule).toMatchObject([{ planName: 'Plan PL-F', due: { isDue: false, because: { kind: 'interval', since: 1, k: 3 } } }])
      const passport = await (await plant.as('auditor')).call(endpoints.trace.getPassport, { params: { id: lot?.id ?? '' } })
      expect(passport.events).toContainEqual(expect.objectContaining({ kind: 'skippedByRule', detail: '1 of 3 since the last one' }))
    }
    expect(seen).toEqual([true, false, false, true, false])
    expect(told).toEqual(seen)
    const kept = await plant.kernel.database.reader.query('SELECT is_due FROM consideration ORDER BY at, id')
    expect(kept).toHaveLength(5)
  })
})

it('once for an order line looks at its first part delivery; the next order is looked at again', async () => {
  await under({ kind: 'oncePerOrder' }, async (supplierId) => {
    expect((await rehearsed(supplierId, 3)).map(([entry]) => entry?.opens)).toEqual([true, false, false])
    const seen = []
    for (const orderNumber of ['A', 'A', 'B', 'A']) {
      const lines = [{ partId: goods.part.id, supplierLot: `S-${++orders}`, quantity: 20, containers: [] }]
      const { lots } = await (await plant.as('receivingClerk')).call(run.receiveDelivery, { body: { supplierId, orderNumber, lines } })
      const [passed] = lots[0]?.skippedByRule ?? []
      seen.push([lots[0]?.inspections.length, passed ? describeDue(passed.due) : ''])
    }
    expect(seen).toEqual([
      [1, ''],
      [0, 'one of order A was inspected'],
      [1, ''],
      [0, 'one of order A was inspected'],
    ])
  })
})

it('another supplier has a history of its own', async () => {
  await under({ kind: 'oneIn', k: 3 }, async () => {
    expect((await arrive(goods.other.id)).inspections).toHaveLength(1)
  })
})

it('certificate only is earned, said with its reason, and lost by a failure', async () => {
  await under({ kind: 'certificateOnly', clearance: 2, fullAfterFailure: 2 }, async (supplierId) => {
    const [[entry]] = (await rehearsed(supplierId, 1)) as [[Considered]]
    expect(describeApplied(entry)).toBe('set for this part')
    expect(entry.due && describeDue(entry.due)).toBe('in good standing, 2 accepted in a row: the certificate is enough')
    expect((await arrive(supplierId)).inspections).toHaveLength(0)
    // Nothing is judged while it passes by: full inspection comes back with a failure elsewhere in its history only.
    expect((await arrive(supplierId)).inspections).toHaveLength(0)
  })
  await under({ kind: 'everyArrival' }, async (supplierId) => void (await arrive(supplierId, 1)))
  await under({ kind: 'certificateOnly', clearance: 2, fullAfterFailure: 2 }, async (supplierId) => {
    const due = (await rehearsed(supplierId, 5)).map(([entry]) => entry?.due)
    expect(due.map((entry) => entry?.isDue)).toEqual([true, true, false, false, false])
    expect(due[0]?.because).toEqual({ kind: 'afterFailure', lots: 2 })
  })
})

it('a random share can be drawn again from what was kept', async () => {
  await under({ kind: 'randomShare', percent: 50 }, async (supplierId) => {
    const opened = []
    for (let i = 0; i < 12; i++) opened.push((await arrive(supplierId, null)).inspections.length === 1)
    const kept = (await plant.kernel.database.reader.query(`SELECT is_due FROM consideration WHERE because LIKE '%drawn%' ORDER BY at, id`)) as {
      isDue: number
    }[]
    expect(kept.map(({ isDue }) => isDue === 1)).toEqual(opened)
    expect(new Set(opened).size).toBe(2)
  })
})

it('what only the booking will draw is told as a chance, with what it would ask and where it would go, whatever a draw would say now', async () => {
  const clerk = await plant.as('receivingClerk')
  const told = async (supplierId: string) =>
    (await clerk.call(run.previewDelivery, { body: { supplierId, lines: [{ partId: goods.part.id, quantity: 20 }] } })).lines[0]
  await under({ kind: 'randomShare', percent: 50 }, async (supplierId) => {
    const first = await told(supplierId)
    expect(first).toMatchObject({ placeName: 'DOCK', placeIfDrawn: 'BAY', asked: [{ isByChance: true, lines: [{ sampleSize: 3 }] }] })
    for (let i = 0; i < 12; i++) expect(await told(supplierId)).toEqual(first)
    // A question that is asked for certain stays its own, whatever is drawn beside it.
    const certain = await goods.point((await goods.plan('PL-SURE', [{ characteristicId: goods.judged.id }])).id)
    const both = (await told(supplierId))?.asked
    expect(both?.map((entry) => [entry.isByChance, entry.lines[0]?.askedBy ?? null])).toEqual([
      [true, 'Plan PL-SURE'],
      [false, null],
    ])
    await goods.engineer.call(attach.retireControlPoint, { params: { id: certain.id }, body: { version: certain.version } })
  })
  await under({ kind: 'randomShare', percent: 100 }, async (supplierId) =>
    expect(await told(supplierId)).toMatchObject({ placeName: 'BAY', placeIfDrawn: null, asked: [{ isByChance: false }] }),
  )
})

it('a rehearsal says what does not apply and which condition failed, and writes nothing', async () => {
  const narrow = await goods.point(planId, { supplierId: goods.supplier.id, responsible: 'Lab', dueHours: 4 })
  const wide = await goods.point(planId, { partId: null, familyId: null })
  const before = await plant.kernel.database.reader.query('SELECT COUNT(*) AS n FROM audit')
  const [[first, second]] = (await rehearsed(goods.supplier.id, 1)) as [[Considered, Considered]]
  expect([first.opens, second.opens]).toEqual([true, false])
  expect(first).toMatchObject({ blocks: 'putAway', responsible: 'Lab', lines: [{ sampleSize: 3, accept: 0, reject: 1 }] })
  expect(Date.parse(first.dueAt ?? '')).toBeGreaterThan(0)
  expect(describeApplied(second)).toBe('set for every part; the one for this part with this partner goes before it')
  const [[other]] = (await rehearsed(goods.other.id, 1)) as [[Considered]]
  expect(describeApplied(other)).toBe('only for another supplier')
  expect(await plant.kernel.database.reader.query('SELECT COUNT(*) AS n FROM audit')).toEqual(before)
  for (const point of [narrow, wide])
    await goods.engineer.call(attach.retireControlPoint, { params: { id: point.id }, body: { version: point.version } })
})

it('a control point on an operation that nothing of its reach passes, or with a rule that could never be carried out, is refused', async () => {
  const apart = await goods.make(endpoints.define.operations, { code: 'WEL', name: 'Welding', kind: 'production' })
  expect((await refusal(goods.point(planId, { operationId: apart.id, moment: 'end' })))?.code).toBe('not_on_the_way')
  expect((await refusal(goods.point(planId, { frequency: { kind: 'oneIn', k: 0 } })))?.code).toBe('input_invalid')
})
