import { endpoints, noLoad, type ExpectedDelivery } from '@nemawashi/contract'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { burr, decideAll, inspect, refusal, startPlant, stock, type Plant } from '../../testing/plant'

const { attach, define, record, run, trace } = endpoints
let plant: Plant
let goods: Awaited<ReturnType<typeof stock>>
let papers = ''
let dock = ''
beforeAll(async () => {
  plant = await startPlant()
  goods = await stock(plant)
  papers = (await goods.plan('PL-PAPERS', [{ characteristicId: (await goods.characteristic('C-PAPERS', burr)).id }])).id
  dock = (await goods.plan('PL-DOCK', [{ characteristicId: (await goods.characteristic('C-TEMP', burr)).id }])).id
  const load = { partId: null, subject: 'load' as const }
  await goods.point(papers, { ...load, moment: 'announced', isGate: false, onFailure: 'note' })
  await goods.point(dock, { ...load, moment: 'registered' })
})
afterAll(() => plant.stop())

const clerk = () => plant.as('receivingClerk')
let number = 0
const body = (change: object = {}) => ({
  supplierId: goods.supplier.id,
  orderNumber: `PO-${(number += 1)}`,
  expectedOn: '2026-03-04',
  load: noLoad,
  lines: [{ partId: goods.part.id, quantity: 40, supplierLot: 'A' }],
  isHere: false,
  ...change,
})
const announced = async (change: object = {}): Promise<ExpectedDelivery> => (await clerk()).call(run.announce, { body: body(change) })
const registered = async ({ id, version }: ExpectedDelivery) =>
  (await clerk()).call(run.register, { params: { id }, body: { version, load: { ...noLoad, vehicle: 'XX 7', seal: '881' } } })
const received = async ({ id, orderNumber, supplierId }: ExpectedDelivery, change: object = {}) =>
  (await clerk()).call(run.receiveDelivery, {
    body: {
      supplierId,
      orderNumber,
      load: noLoad,
      lines: [{ partId: goods.part.id, supplierLot: 'A', quantity: 40, containers: [] }],
      expectedId: id,
      isAnother: true,
      ...change,
    },
  })
const plansOf = ({ load }: ExpectedDelivery) => load.inspections.map(({ planName, isGate }) => `${planName}${isGate ? ', gate' : ''}`)

describe('a delivery before its receipt', () => {
  it('is asked about when it is announced and when it stands at the dock, and becomes the delivery under the same number', async () => {
    const first = await announced()
    expect([first.state, plansOf(first), first.gateReasons]).toEqual(['announced', ['Plan PL-PAPERS'], []])
    expect(first.lines).toMatchObject([{ partId: goods.part.id, quantity: 40, supplierLot: 'A' }])
    const there = await registered(first)
    expect([there.state, plansOf(there), there.load.vehicle]).toEqual(['registered', ['Plan PL-PAPERS', 'Plan PL-DOCK, gate'], 'XX 7'])

    const gate = there.load.inspections.find(({ isGate }) => isGate)
    expect(there.gateReasons).toEqual([`Plan PL-DOCK (${gate?.code}) is still to do`])
    expect(await refusal(received(there))).toMatchObject({ code: 'gate_closed', facts: { inspectionId: gate?.id } })
    const { rows } = await (await plant.as('inspector')).call(record.listInspections, { query: { supplierId: goods.supplier.id } })
    expect(rows.map(({ lotCode }) => lotCode)).toEqual([`load ${first.code}`, `load ${first.code}`])

    expect(await inspect(plant, gate?.id ?? '')).toMatchObject({ state: 'decided', toDecide: [], lotCode: `load ${first.code}` })
    const delivery = await received(there)
    expect([delivery.id, delivery.code]).toEqual([first.id, first.code])
    expect(delivery.lots.map(({ balances }) => balances.map(({ standing }) => standing))).toEqual([['released']])
    expect((await (await clerk()).call(run.getExpected, { params: { id: first.id } })).state).toBe('received')
    expect(await refusal(received(there))).toMatchObject({ code: 'not_expected', status: 409 })
  })

  it('is held against what came, after corrections; what was not announced is named', async () => {
    const { make, engineer } = goods
    const part = { code: 'P-NEW', name: 'Not announced', revision: 'A', unit: 'piece', tracking: 'lot', familyId: null, putAwayPlaceId: null }
    const other = await make(define.parts, {
      ...part,
      operationIds: [(await engineer.call(define.parts.get, { params: { id: goods.part.id } })).operationIds[0]],
    })
    const lines = [40, 20].map((quantity) => ({ partId: goods.part.id, quantity, supplierLot: '' }))
    const first = await announced({ lines })
    expect([first.lines.map(({ came }) => came), first.alsoCame]).toEqual([[null, null], []])
    const there = await registered(first)
    await inspect(plant, there.load.inspections.find(({ isGate }) => isGate)?.id ?? '')
    const goodsOf = (partId: string, supplierLot: string, quantity: number) => ({ partId, supplierLot, quantity, containers: [] })
    const came = { lines: [goodsOf(goods.part.id, 'A', 55), goodsOf(other.id, 'B', 7)] }
    // Other goods than were announced are mostly a slip.
    expect(await refusal(received(there, came))).toMatchObject({ code: 'not_as_ordered', facts: { field: 'lines.1.partId', received: 'P-NEW' } })
    const delivery = await received(there, { ...came, isUnusual: true })
    const now = async () => (await clerk()).call(run.getExpected, { params: { id: first.id } })
    expect([(await now()).lines.map(({ came }) => came), (await now()).alsoCame]).toMatchObject([[40, 15], [{ partCode: 'P-NEW', quantity: 7 }]])
    const correction = { field: 'quantity' as const, lotId: delivery.lots[0]?.id ?? '', containerId: null, quantity: 60 }
    await (await clerk()).call(run.correctDelivery, { params: { id: delivery.id }, body: { correction, reason: 'counted again' } })
    expect((await now()).lines.map(({ came }) => came)).toEqual([40, 20])
  })

  it('that was not acceptable at the dock comes in on hold, lot by lot, until somebody decides', async () => {
    const there = await registered(await announced())
    const gate = there.load.inspections.find(({ isGate }) => isGate)
    expect(await inspect(plant, gate?.id ?? '', 1)).toMatchObject({ state: 'finished', finding: { verdict: 'notAcceptable' } })
    const delivery = await received(there)
    const [lot] = delivery.lots
    expect(lot?.balances).toMatchObject([{ standing: 'onHold', quantity: 40 }])
    expect(lot?.gateReasons).toEqual([`Plan PL-DOCK (${gate?.code}) waits for a decision`])
    const inspection = await (
      await plant.as('qualityManager')
    ).call(record.getInspection, { params: { id: gate?.id ?? '' }, query: { lotId: lot?.id } })
    await decideAll(plant, inspection, 'concession')
    const passport = await (await clerk()).call(trace.getPassport, { params: { id: lot?.id ?? '' } })
    expect(passport.balances).toMatchObject([{ standing: 'released', quantity: 40 }])
    expect(passport.events.filter(({ kind }) => kind === 'announced').map(({ title, detail }) => [title, detail])).toEqual([
      ['Announced', `order ${there.orderNumber}`],
      ['Registered at the dock', `order ${there.orderNumber}`],
    ])
  })

  it('stands at the dock unannounced, and is refused with a reason: what was open is cancelled, and it is not received any more', async () => {
    const here = await announced({ isHere: true, expectedOn: null })
    expect([here.state, here.announcedAt, plansOf(here)]).toEqual(['registered', null, ['Plan PL-DOCK, gate']])
    const { id, version } = here
    const gone = await (await clerk()).call(run.refuseDelivery, { params: { id }, body: { version, reason: 'Seal broken' } })
    expect([gone.state, gone.reason, gone.load.inspections.map(({ state }) => state)]).toEqual(['turnedAway', 'Seal broken', ['cancelled']])
    expect((await refusal(received(gone)))?.code).toBe('not_expected')
    expect((await refusal(registered(gone)))?.code).toBe('not_expected')
  })

  it('is received in one step, too, and from nobody but who announced it', async () => {
    const first = await announced()
    const { other } = goods
    expect(await refusal(received(first, { supplierId: other.id }))).toMatchObject({ code: 'not_expected', facts: { field: 'supplierId' } })
    expect((await received(first)).code).toBe(first.code)
  })

  it('comes from its list, by what is still to come', async () => {
    const first = await announced()
    const { rows } = await (await clerk()).call(run.listExpected, { query: { state: 'toCome', sort: 'expectedOn', dir: 'asc' } })
    expect(rows.map(({ code, state, expectedOn, openInspections }) => [code, state, expectedOn, openInspections])).toContainEqual([
      first.code,
      'announced',
      '2026-03-04',
      1,
    ])
  })

  it('is rehearsed with its moments, and a lot cannot be looked at before there is one', async () => {
    const { rows } = await goods.engineer.call(attach.listControlPoints, { query: {} })
    const operationId = rows[0]?.operationId ?? ''
    const query = { operationId, partId: goods.part.id, partnerId: goods.supplier.id, quantity: 40, lots: 1 }
    const { lots } = await goods.engineer.call(attach.rehearse, { query })
    expect(lots[0]?.considered.map(({ planName, moment, blocks }) => [planName, moment, blocks])).toEqual([
      ['Plan PL-PAPERS', 'announced', null],
      ['Plan PL-DOCK', 'registered', 'receive'],
    ])
    expect((await refusal(goods.point(papers, { moment: 'registered', subject: 'lot' })))?.code).toBe('moment_not_there')
  })

  it('counts in the played past at its moments', async () => {
    const query = { partId: goods.part.id, days: 365 }
    const { occasions } = await goods.engineer.call(attach.getPastOccasions, { query })
    expect(new Set(occasions.map(({ moment }) => moment))).toEqual(new Set(['announced', 'registered', 'arrival']))
  })
})

describe('a purchase order', () => {
  const order = async (change: object = {}) =>
    (await clerk()).call(run.createPurchaseOrder, {
      body: {
        supplierId: goods.supplier.id,
        orderNumber: `PO-${(number += 1)}`,
        contract: 'K-1',
        lines: [{ partId: goods.part.id, quantity: 100, dueOn: '2026-04-01' }],
        ...change,
      },
    })

  it('has open what was ordered and has not come; what is put right on a delivery is put right here', async () => {
    const { id, orderNumber, supplierId, lines } = await order()
    expect(lines).toMatchObject([{ received: 0, open: 100, dueOn: '2026-04-01' }])
    const here = await received(await announced({ orderNumber }))
    const now = async () => (await clerk()).call(run.getPurchaseOrder, { params: { id } })
    expect(await now()).toMatchObject({ lines: [{ received: 40, open: 60 }], deliveries: [{ code: here.code }] })
    const correction = { field: 'quantity' as const, lotId: here.lots[0]?.id ?? '', containerId: null, quantity: 30 }
    await (await clerk()).call(run.correctDelivery, { params: { id: here.id }, body: { correction, reason: 'Counted again' } })
    expect((await now()).lines).toMatchObject([{ received: 30, open: 70 }])
    const open = async () =>
      (await (await clerk()).call(run.listPurchaseOrders, { query: { supplierId, state: 'open', q: orderNumber, sort: 'dueOn', dir: 'asc' } })).rows
    expect(await open()).toMatchObject([{ ordered: 100, received: 30, dueOn: '2026-04-01', isClosed: false }])
    // What has come whole is not open any more, though nobody closed it.
    await received(await announced({ orderNumber }), { lines: [{ partId: goods.part.id, supplierLot: 'B', quantity: 70, containers: [] }] })
    expect((await now()).lines).toMatchObject([{ received: 100, open: 0 }])
    expect(await open()).toEqual([])
  })

  it('is there once under its number, and is closed and opened again', async () => {
    const { orderNumber, id, version } = await order()
    expect(await refusal(order({ orderNumber }))).toMatchObject({ code: 'already_exists', facts: { field: 'orderNumber' } })
    expect((await refusal(order({ lines: [{ partId: goods.part.id, quantity: 0 }] })))?.facts).toMatchObject({ field: 'lines.0.quantity' })
    const closed = await (await clerk()).call(run.closePurchaseOrder, { params: { id }, body: { version, isClosed: true } })
    expect(closed.isClosed).toBe(true)
    const open = await (await clerk()).call(run.closePurchaseOrder, { params: { id }, body: { version: closed.version, isClosed: false } })
    expect(open.isClosed).toBe(false)
  })
})

describe('papers', () => {
  it('stay with the delivery or one of its lots, and are read on the passport', async () => {
    const delivery = await received(await announced())
    const [lot] = delivery.lots
    const content = Buffer.from('%PDF-1.4 melt 7').toString('base64')
    const { id: documentId } = await (await clerk()).call(define.addDocument, { body: { name: 'melt.pdf', mediaType: 'application/pdf', content } })
    const add = async (body: { documentId: string; kind: 'certificate'; lotId?: string }) =>
      (await clerk()).call(run.addPaper, { params: { id: delivery.id }, body })
    const { papers } = await add({ documentId, kind: 'certificate', lotId: lot?.id ?? '' })
    expect(papers).toMatchObject([{ documentId, kind: 'certificate', lotCode: lot?.code, byName: 'receivingClerk' }])
    const passport = await (await plant.as('auditor')).call(trace.getPassport, { params: { id: lot?.id ?? '' } })
    expect(passport.events).toContainEqual(
      expect.objectContaining({ kind: 'paper', title: "Supplier's certificate", detail: 'melt.pdf', documentId }),
    )
    const strange = '01900000-0000-7000-8000-000000000000'
    expect((await refusal(add({ documentId: strange, kind: 'certificate' })))?.facts).toMatchObject({ field: 'documentId' })
    expect((await refusal(add({ documentId, kind: 'certificate', lotId: strange })))?.facts).toMatchObject({ field: 'lotId' })
    await expect(plant.kernel.database.writer.query('UPDATE delivery_paper SET kind = ?', ['other'])).rejects.toThrow(/append-only/)
  })
})
