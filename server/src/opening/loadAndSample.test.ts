import { endpoints, type Delivery, type Inspection } from '@nemawashi/contract'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { burr, decideAll, inspect, password, receive, refusal, startPlant, stock, type Plant } from '../testing/plant'

const { attach, contain, record, run, trace } = endpoints
let plant: Plant
let goods: Awaited<ReturnType<typeof stock>>
let lotPlan = ''
let loadPlan = ''
beforeAll(async () => {
  plant = await startPlant()
  goods = await stock(plant)
  lotPlan = (await goods.plan('PL-LOT', [{ characteristicId: goods.judged.id }])).id
  loadPlan = (await goods.plan('PL-LOAD', [{ characteristicId: (await goods.characteristic('C-SEAL', burr)).id }])).id
})
afterAll(() => plant.stop())

const load = { carrier: 'Own lorry', vehicle: 'XX 100', driver: '', seal: '00417', loadNumber: '' }
async function twoLines(supplierId = goods.supplier.id): Promise<Delivery> {
  const clerk = await plant.as('receivingClerk')
  const lines = ['A', 'B'].map((supplierLot) => ({ partId: goods.part.id, supplierLot, quantity: 40, containers: [] }))
  return clerk.call(run.receiveDelivery, { body: { supplierId, orderNumber: '7', isAnother: true, load, lines } })
}
const putAway = async (lotId: string, quantity: number, fromPlaceId = goods.places.bay.id) =>
  (await plant.as('receivingClerk')).call(run.putAway, {
    params: { id: lotId },
    body: { containerId: null, fromPlaceId, quantity, toPlaceId: goods.places.store.id },
  })
const seen = async (id: string, lotId?: string): Promise<Inspection> =>
  (await plant.as('qualityManager')).call(record.getInspection, { params: { id }, query: lotId === undefined ? {} : { lotId } })
const standings = ({ balances }: { balances: readonly { standing: string; quantity: number }[] }) =>
  balances.map(({ standing, quantity }) => `${quantity} ${standing}`).sort()

it('a load is looked at once, and holds all its lots although the goods conform; it is decided lot by lot', async () => {
  await goods.under([{ planId: lotPlan }, { planId: loadPlan, change: { subject: 'load', partId: null } }], async () => {
    const delivery = await twoLines()
    expect(delivery.load).toMatchObject({
      vehicle: 'XX 100',
      seal: '00417',
      inspections: [{ planName: 'Plan PL-LOAD', holds: 'all', lines: [{ sampleSize: 1 }] }],
    })
    const [first, second] = delivery.lots
    for (const lot of delivery.lots) await decideAll(plant, await inspect(plant, lot.inspections[0]?.id ?? ''), 'release')
    const held = await (await plant.as('receivingClerk')).call(run.getDelivery, { params: { id: delivery.id } })
    expect(held.lots.map(standings)).toEqual([['40 onHold'], ['40 onHold']])
    const loadInspection = delivery.load.inspections[0]?.id ?? ''
    expect(held.lots[0]?.gateReasons).toEqual([`Plan PL-LOAD (${delivery.load.inspections[0]?.code}) is still to do`])
    expect((await refusal(putAway(first?.id ?? '', 40)))?.code).toBe('gate_closed')

    expect(await seen(loadInspection)).toMatchObject({ subjectKind: 'load', lotId: null, lotCode: `load ${delivery.code}`, supplierName: 'Supplier' })
    const inspector = await plant.as('inspector')
    const { rows } = await inspector.call(record.listInspections, { query: { state: 'toDo' } })
    expect(rows).toMatchObject([{ id: loadInspection, lotCode: `load ${delivery.code}`, partCode: '' }])
    await inspect(plant, loadInspection)
    const { rows: waiting } = await inspector.call(contain.listHeld, { query: {} })
    expect(waiting).toMatchObject([{ inspectionId: loadInspection, waitsFor: 'decisionAcceptable' }, { inspectionId: loadInspection }])

    await decideAll(plant, await seen(loadInspection, first?.id), 'release')
    expect((await refusal(decideAll(plant, await seen(loadInspection, first?.id), 'release')))?.code).toBe('already_decided')
    expect((await refusal(putAway(second?.id ?? '', 40)))?.code).toBe('gate_closed')
    expect(standings(await putAway(first?.id ?? '', 40))).toEqual(['40 released'])
    expect(await seen(loadInspection)).toMatchObject({ state: 'finished', toDecide: [{ id: second?.id }] })
    await decideAll(plant, await seen(loadInspection, second?.id), 'release')
    expect(await seen(loadInspection)).toMatchObject({ state: 'decided', toDecide: [] })
    const headers = { cookie: inspector.cookies }
    const report = await fetch(`${plant.base}/api/v1/inspections/${loadInspection}/report.json`, { headers })
    expect(await report.json()).toMatchObject({ inspection: { subjectKind: 'load', lotCode: `load ${delivery.code}` } })
    expect((await fetch(`${plant.base}/api/v1/inspections/${loadInspection}/report.pdf`, { headers })).status).toBe(200)
    await putAway(second?.id ?? '', 40)
    const { events } = await inspector.call(trace.getPassport, { params: { id: second?.id ?? '' } })
    expect(events.filter(({ inspectionId }) => inspectionId === loadInspection).map(({ kind }) => kind)).toContain('inspectionFinished')
  })
})

it('a load that fails without being a gate holds every lot of it that is still there', async () => {
  await goods.under([{ planId: loadPlan, change: { subject: 'load', isGate: false } }], async () => {
    const delivery = await twoLines()
    expect(delivery.lots.map(standings)).toEqual([['40 released'], ['40 released']])
    const inspectionId = delivery.load.inspections[0]?.id ?? ''
    const finished = await inspect(plant, inspectionId, 1)
    const held = await (await plant.as('receivingClerk')).call(run.getDelivery, { params: { id: delivery.id } })
    expect(held.lots.map(standings)).toEqual([['40 onHold'], ['40 onHold']])
    const manager = await plant.as('qualityManager')
    await manager
      .call(record.reopenInspection, { params: { id: inspectionId }, body: { version: finished.version, reason: 'the wrong seal was read' } })
      .catch(() => null)
    for (const { id } of delivery.lots) await decideAll(plant, await seen(inspectionId, id), 'concession')
    expect(await seen(inspectionId)).toMatchObject({ state: 'decided' })
  })
})

it('a load that is cancelled frees what it held; its frequency has a history of its own', async () => {
  await goods.under([{ planId: loadPlan, change: { subject: 'load', frequency: { kind: 'oneIn', k: 2 } } }], async () => {
    const twice = () => twoLines(goods.other.id)
    const delivery = await twice()
    const inspection = await seen(delivery.load.inspections[0]?.id ?? '')
    const manager = await plant.as('qualityManager')
    await manager.call(record.cancelInspection, { params: { id: inspection.id }, body: { version: inspection.version, reason: 'twice' } })
    const freed = await manager.call(run.getDelivery, { params: { id: delivery.id } })
    expect(freed.lots.map(standings)).toEqual([['40 released'], ['40 released']])
    expect((await twice()).load.inspections).toHaveLength(1)
    expect((await twice()).load.inspections).toHaveLength(0)
    const query = { operationId: goods.receiving.id, partId: goods.part.id, partnerId: goods.other.id, quantity: 40 }
    const { lots } = await goods.engineer.call(attach.rehearse, { query })
    expect(lots[0]?.considered).toMatchObject([{ subject: 'load', opens: true, lines: [{ sampleSize: 1 }] }])
  })
})

it('a gate that holds no more than the sample leaves the rest free, and a failure holds it', async () => {
  await goods.under([{ planId: lotPlan, change: { holds: 'sample' } }], async () => {
    const [lot] = (await receive(plant, goods, { quantity: 50 })).lots
    expect(standings(lot ?? { balances: [] })).toEqual(['3 onHold', '47 released'])
    expect(lot?.gateReasons).toEqual([])
    expect(standings(await putAway(lot?.id ?? '', 7, goods.places.dock.id))).toEqual(['3 onHold', '40 released', '7 released'])
    expect((await refusal(putAway(lot?.id ?? '', 3)))?.code).toBe('movement_exceeds_balance')
    const failed = await inspect(plant, lot?.inspections[0]?.id ?? '', 1)
    expect(standings(failed)).toEqual(['3 onHold', '40 onHold', '7 onHold'])
    await decideAll(plant, failed, 'scrap')

    const [next] = (await receive(plant, goods, { containers: [2, 60, 38].map((quantity) => ({ label: null, quantity })) })).lots
    expect(standings(next ?? { balances: [] })).toEqual(['1 onHold', '2 onHold', '38 released', '59 released'])
    const passed = await inspect(plant, next?.inspections[0]?.id ?? '')
    await decideAll(plant, passed, 'release')
    expect(standings(await seen(passed.id))).toEqual(['1 released', '2 released', '38 released', '59 released'])
  })
})

it('two gates on one part in one place: closing one leaves the other, and a concession stays one', async () => {
  await goods.under([{ planId: lotPlan }, { planId: loadPlan }], async () => {
    const [lot] = (await receive(plant, goods, { quantity: 10 })).lots
    const [one, two] = lot?.inspections ?? []
    await decideAll(plant, await inspect(plant, one?.id ?? '', 1), 'concession')
    expect(standings(await seen(one?.id ?? ''))).toEqual(['10 onHold'])
    await decideAll(plant, await inspect(plant, two?.id ?? ''), 'release')
    const { events } = await (await plant.as('auditor')).call(trace.getPassport, { params: { id: lot?.id ?? '' } })
    expect(events.filter(({ kind }) => kind === 'decided').map(({ title }) => title)).toEqual(['Decided: concession', 'Decided: released'])
    const moved = (await plant.kernel.database.reader.query(`SELECT kind FROM movement ORDER BY seq DESC LIMIT 1`)) as { kind: string }[]
    expect(moved).toEqual([{ kind: 'concession' }])
  })
})

it('what makes no sense is refused: a sample of a load, a load on the line, a lot that is not of the load', async () => {
  for (const [field, said] of [
    ['holds', { holds: 'sample' }],
    ['setsAside', { setsAside: true }],
    ['keepsFrom', { keepsFrom: 'use', isGate: false }],
  ] as const)
    expect(await refusal(goods.point(loadPlan, { subject: 'load', ...said }))).toMatchObject({ code: 'input_invalid', facts: { field } })
  expect((await refusal(goods.point(loadPlan, { subject: 'load', operationId: goods.assembly.id, moment: 'start' })))?.code).toBe('moment_not_there')
  await goods.under([{ planId: loadPlan, change: { subject: 'load' } }], async () => {
    const [delivery, other] = [await twoLines(), await twoLines()]
    const inspectionId = delivery.load.inspections[0]?.id ?? ''
    const strange = other.lots[0]?.id ?? ''
    expect((await refusal(seen(inspectionId, strange)))?.code).toBe('not_found')
    const finished = await inspect(plant, inspectionId)
    const body = { version: finished.version, password, lotId: strange, rows: [] }
    expect((await refusal((await plant.as('qualityManager')).call(contain.decide, { params: { id: inspectionId }, body })))?.code).toBe('not_found')
  })
})
