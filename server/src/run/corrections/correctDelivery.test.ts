import { endpoints, type Correction, type Delivery } from '@nemawashi/contract'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { decideAll, inspect, receive, refusal, startPlant, stock, type Plant } from '../../testing/plant'

const { record, run, trace } = endpoints
let plant: Plant
let goods: Awaited<ReturnType<typeof stock>>
let planId = ''
beforeAll(async () => {
  plant = await startPlant()
  goods = await stock(plant, { kind: 'percentage', percent: 10, rounding: 'up', accept: 0 })
  planId = (await goods.plan('PL-C', [{ characteristicId: goods.judged.id }])).id
  await goods.point(planId, { supplierId: goods.supplier.id })
})
afterAll(() => plant.stop())

const correct = async ({ id }: Delivery, correction: Correction, reason = 'the note says otherwise') =>
  (await plant.as('receivingClerk')).call(run.correctDelivery, { params: { id }, body: { correction, reason } })
const effects = async ({ id }: Delivery, correction: Correction) =>
  (await (await plant.as('receivingClerk')).call(run.checkCorrection, { params: { id }, body: { correction } })).effects
const standings = ({ lots }: Delivery) => (lots[0]?.balances ?? []).map(({ standing, quantity }) => `${quantity} ${standing}`).sort()
const passport = async (delivery: Delivery) => (await plant.as('auditor')).call(trace.getPassport, { params: { id: delivery.lots[0]?.id ?? '' } })
const quantity = (delivery: Delivery, to: number, containerId: string | null = null): Correction => ({
  field: 'quantity',
  lotId: delivery.lots[0]?.id ?? '',
  containerId,
  quantity: to,
})

it('fewer pieces: those that never came are taken out in the ledger, what was entered stays to be read', async () => {
  const delivery = await receive(plant, goods, { quantity: 100 })
  expect(await effects(delivery, quantity(delivery, 40))).toMatchObject([{ effect: 'newSample', sampleSize: 10, sampleNow: 4 }])
  const corrected = await correct(delivery, quantity(delivery, 40), 'counted again')
  expect(standings(corrected)).toEqual(['40 onHold', '60 notArrived'])
  expect(corrected.corrections).toMatchObject([{ field: 'quantity', before: '100', after: '40', reason: 'counted again', byName: 'receivingClerk' }])
  const { events, movements, lot } = await passport(delivery)
  expect(lot.quantity).toBe(100)
  expect(events.find(({ kind }) => kind === 'corrected')).toMatchObject({
    title: 'Corrected: quantity 40 instead of 100',
    detail: 'counted again',
  })
  expect(movements.at(-1)).toMatchObject({ quantity: 60, kind: 'corrected' })
  // The decision has to add up to what is there.
  await decideAll(plant, await inspect(plant, delivery.lots[0]?.inspections[0]?.id ?? ''), 'release')
})

it('more pieces: taken back first, then booked in on hold with the rest; not once it is decided', async () => {
  const delivery = await receive(plant, goods, { quantity: 20 })
  await correct(delivery, quantity(delivery, 15))
  expect(standings(await correct(delivery, quantity(delivery, 18)))).toEqual(['18 onHold', '2 notArrived'])
  const more = await correct(delivery, quantity(delivery, 31))
  expect(standings(more)).toEqual(['31 onHold'])
  expect(more.lots[0]?.quantity).toBe(31)
  await decideAll(plant, await inspect(plant, delivery.lots[0]?.inspections[0]?.id ?? ''), 'release')
  expect((await refusal(correct(delivery, quantity(delivery, 32))))?.code).toBe('correction_too_late')
  expect(standings(await correct(delivery, quantity(delivery, 30)))).toEqual(['1 notArrived', '30 released'])
})

it('a quantity in one container; not more than is still there', async () => {
  const delivery = await receive(plant, goods, { quantity: 30, containers: [10, 20].map((quantity) => ({ label: null, quantity: quantity })) })
  const [first] = delivery.lots[0]?.balances ?? []
  const corrected = await correct(delivery, quantity(delivery, 9, first?.containerId ?? null))
  expect(standings(corrected)).toEqual(['1 notArrived', '20 onHold', '9 onHold'])
  await decideAll(plant, await inspect(plant, delivery.lots[0]?.inspections[0]?.id ?? ''), 'scrap')
  expect(await refusal(correct(delivery, quantity(delivery, 8, first?.containerId ?? null)))).toMatchObject({
    code: 'movement_exceeds_balance',
    facts: { received: 1, available: 0 },
  })
})

it("the supplier's lot and the order number are read right from then on, with what was entered beside them", async () => {
  const delivery = await receive(plant, goods)
  await correct(delivery, { field: 'supplierLot', lotId: delivery.lots[0]?.id ?? '', supplierLot: 'S-77' })
  const done = await correct(delivery, { field: 'orderNumber', orderNumber: '4712' })
  expect(done).toMatchObject({ orderNumber: '4712', lots: [{ supplierLot: 'S-77' }] })
  expect((await passport(delivery)).events.filter(({ kind }) => kind === 'corrected').map(({ title }) => title)).toEqual([
    "Corrected: supplier's lot S-77 instead of S-1",
    'Corrected: order number 4712 instead of 4711',
  ])
})

it('the supplier: what is asked of the right one opens, what is not is said, and the histories are those of the right one', async () => {
  const delivery = await receive(plant, goods, { supplierId: goods.other.id })
  expect(standings(delivery)).toEqual(['100 released'])
  const right: Correction = { field: 'supplier', supplierId: goods.supplier.id }
  expect(await effects(delivery, right)).toMatchObject([{ effect: 'opens', planName: 'Plan PL-C', inspectionId: null }])
  const corrected = await correct(delivery, right)
  expect(corrected).toMatchObject({ supplierName: 'Supplier', lots: [{ inspections: [{ planName: 'Plan PL-C' }] }] })
  expect(standings(corrected)).toEqual(['100 onHold'])
  const wrong: Correction = { field: 'supplier', supplierId: goods.other.id }
  expect(await effects(delivery, wrong)).toMatchObject([{ effect: 'noLonger', inspectionCode: corrected.lots[0]?.inspections[0]?.code }])
  await correct(delivery, wrong)
  const inspection = await (await plant.as('inspector')).call(record.getInspection, { params: { id: corrected.lots[0]?.inspections[0]?.id ?? '' } })
  expect(inspection).toMatchObject({ state: 'toDo', supplierName: 'Other supplier' })
  const rows = await plant.kernel.database.reader.query('SELECT partner_id FROM consideration WHERE lot_id = ?', [delivery.lots[0]?.id])
  expect(rows).toEqual([{ partnerId: goods.other.id }])
})

it('what changes nothing, or names something that is not there, is refused and nothing is written', async () => {
  const delivery = await receive(plant, goods, { quantity: 50 })
  const other = await receive(plant, goods)
  const before = await plant.kernel.database.reader.query('SELECT COUNT(*) AS n FROM audit')
  expect(await refusal(correct(delivery, quantity(delivery, 50)))).toMatchObject({ code: 'nothing_corrected', facts: { field: 'quantity' } })
  expect((await refusal(correct(delivery, quantity(other, 5))))?.code).toBe('reference_unknown')
  expect((await refusal(correct(delivery, quantity(delivery, -1))))?.code).toBe('input_invalid')
  expect((await refusal(correct(delivery, quantity(delivery, 40), ' ')))?.code).toBe('input_invalid')
  const strange = { id: goods.part.id } as Delivery
  expect((await refusal(correct(strange, { field: 'orderNumber', orderNumber: '1' })))?.code).toBe('not_found')
  expect((await refusal(effects(delivery, { field: 'supplier', supplierId: goods.part.id })))?.code).toBe('reference_unknown')
  const inspector = await plant.as('inspector')
  const body = { correction: { field: 'orderNumber', orderNumber: '1' } as const, reason: 'as I like' }
  expect((await refusal(inspector.call(run.correctDelivery, { params: { id: delivery.id }, body })))?.code).toBe('role_missing')
  expect(await plant.kernel.database.reader.query('SELECT COUNT(*) AS n FROM audit')).toEqual(before)
})
