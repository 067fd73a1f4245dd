import { endpoints } from '@nemawashi/contract'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { receive, refusal, startPlant, stock, type Plant, type Stock } from '../../testing/plant'

const { define, run, attach } = endpoints
let plant: Plant
let goods: Stock
let customer: { id: string }
beforeAll(async () => {
  plant = await startPlant()
  goods = await stock(plant)
  customer = await goods.make(define.partners, { code: 'CUS', name: 'Customer', kind: 'customer', isActive: true })
})
afterAll(() => plant.stop())

/** Changes some fields of a record; the rest stays. */
async function change(
  area: typeof define.places | typeof define.operations | typeof define.partners | typeof define.parts,
  id: string,
  fields: object,
) {
  const { id: _, ...now } = (await goods.engineer.call(area.get, { params: { id } })) as unknown as { id: string }
  return goods.engineer.call(area.update as typeof define.places.update, { params: { id }, body: { ...now, ...fields } as never })
}

describe('what stock, rules and orders rest on', () => {
  it('is free as long as nothing does', async () => {
    const place = await goods.make(define.places, { code: 'SPARE', name: 'Spare', purpose: 'dock', countsForPlanning: false })
    expect(await change(define.places, place.id, { purpose: 'store' })).toMatchObject({ purpose: 'store' })
    const operation = await goods.make(define.operations, { code: 'SPARE', name: 'Spare', kind: 'production' })
    expect(await change(define.operations, operation.id, { kind: 'transfer' })).toMatchObject({ kind: 'transfer' })
    const partner = await goods.make(define.partners, { code: 'SPARE', name: 'Spare', kind: 'customer', isActive: true })
    expect(await change(define.partners, partner.id, { kind: 'supplier' })).toMatchObject({ kind: 'supplier' })
    expect(await change(define.parts, goods.part.id, { tracking: 'bulk' })).toMatchObject({ tracking: 'bulk' })
    await change(define.parts, goods.part.id, { tracking: 'lot' })
  })

  it('stays: the purpose of a place, the kind of an operation, how a part is traced, the kind of a partner', async () => {
    await receive(plant, goods, { quantity: 10 })
    const refused = async (area: Parameters<typeof change>[0], id: string, fields: object) => {
      const found = await refusal(change(area, id, fields))
      return [found?.code, found?.facts['field']]
    }
    expect(await refused(define.places, goods.places.dock.id, { purpose: 'scrap' })).toEqual(['still_in_use', 'purpose'])
    expect(await refused(define.places, goods.places.store.id, { purpose: 'scrap' })).toEqual(['still_in_use', 'purpose'])
    expect(await refused(define.operations, goods.receiving.id, { kind: 'production' })).toEqual(['still_in_use', 'kind'])
    expect(await refused(define.parts, goods.part.id, { tracking: 'serial' })).toEqual(['still_in_use', 'tracking'])
    expect(await refused(define.partners, goods.supplier.id, { kind: 'customer' })).toEqual(['still_in_use', 'kind'])
    // Everything else may change.
    expect(await change(define.places, goods.places.dock.id, { name: 'Dock 2' })).toMatchObject({ name: 'Dock 2' })
    expect(await change(define.partners, goods.supplier.id, { isActive: false })).toMatchObject({ isActive: false })
    await change(define.partners, goods.supplier.id, { isActive: true })
  })
})

describe('a partner', () => {
  it('passes as what it is alone: goods come from suppliers, and go to customers', async () => {
    const clerk = await plant.as('receivingClerk')
    const said = async (call: Promise<unknown>) => (await refusal(call))?.message
    expect(await said(receive(plant, goods, { supplierId: customer.id }))).toBe('Customer is a customer, and no supplier.')
    const goodsLines = [{ partId: goods.part.id, quantity: 5, supplierLot: '' }]
    expect(await said(clerk.call(run.announce, { body: { supplierId: customer.id, orderNumber: '1', lines: goodsLines } }))).toContain('no supplier')
    const order = { supplierId: customer.id, orderNumber: '1', lines: [{ partId: goods.part.id, quantity: 5, dueOn: null }] }
    expect(await said(clerk.call(run.createPurchaseOrder, { body: order }))).toContain('no supplier')
    const plan = { customerId: goods.supplier.id, orderNumber: '1', lines: [{ partId: goods.part.id, quantity: 5 }] }
    expect(await said(clerk.call(run.planDispatch, { body: plan }))).toBe('Supplier is a supplier, and no customer.')
    const made = { partId: goods.part.id, quantity: 5, orderNumber: '1', customerId: goods.supplier.id }
    expect(await said((await plant.as('productionOperator')).call(run.createOrder, { body: made }))).toContain('no customer')
    const { id: planId } = await goods.plan('PL-PARTNER', [{ characteristicId: goods.judged.id }])
    expect(await said(goods.point(planId, { supplierId: customer.id }))).toContain('no supplier')
    expect((await clerk.call(attach.listControlPoints, { query: {} })).total).toBe(0)
  })

  it('out of use takes part in nothing new', async () => {
    const { id } = await goods.make(define.partners, { code: 'OLD', name: 'Old supplier', kind: 'supplier', isActive: false })
    expect((await refusal(receive(plant, goods, { supplierId: id })))?.message).toBe('Old supplier is out of use.')
  })
})

describe('a purchase order', () => {
  it('is meant by its number in whatever case, counts what came on it, and is asked about when it is closed', async () => {
    const clerk = await plant.as('receivingClerk')
    const order = await clerk.call(run.createPurchaseOrder, {
      body: { supplierId: goods.other.id, orderNumber: 'Po-7', contract: 'C-1', lines: [{ partId: goods.part.id, quantity: 50, dueOn: null }] },
    })
    const again = { supplierId: goods.other.id, orderNumber: 'PO-7', lines: [{ partId: goods.part.id, quantity: 1, dueOn: null }] }
    expect((await refusal(clerk.call(run.createPurchaseOrder, { body: again })))?.code).toBe('already_exists')
    const book = (more: object = {}) =>
      clerk.call(run.receiveDelivery, {
        body: {
          supplierId: goods.other.id,
          orderNumber: 'PO-7',
          isAnother: true,
          lines: [{ partId: goods.part.id, supplierLot: 'S-9', quantity: 20, containers: [] }],
          ...more,
        },
      })
    const { id: planId } = await goods.plan('PL-CONTRACT', [{ characteristicId: goods.judged.id }])
    await goods.under([{ planId, change: { contract: 'C-1' } }], async () => {
      const delivery = await book()
      expect(delivery).toMatchObject({ orderNumber: 'Po-7' })
      expect(delivery.lots[0]?.inspections).toHaveLength(1)
    })
    const now = await clerk.call(run.getPurchaseOrder, { params: { id: order.id } })
    expect(now.lines[0]).toMatchObject({ received: 20, open: 30 })
    await clerk.call(run.closePurchaseOrder, { params: { id: order.id }, body: { version: now.version, isClosed: true } })
    expect(await refusal(book())).toMatchObject({ code: 'not_as_ordered', message: expect.stringContaining('is closed') })
    expect((await book({ isUnusual: true })).orderNumber).toBe('Po-7')
  })

  it('is announced once for the same goods, unless they come in addition', async () => {
    const clerk = await plant.as('receivingClerk')
    const announce = (more: object = {}) =>
      clerk.call(run.announce, {
        body: { supplierId: goods.other.id, orderNumber: '88', lines: [{ partId: goods.part.id, quantity: 5, supplierLot: '' }], ...more },
      })
    const first = await announce()
    expect(await refusal(announce())).toMatchObject({ code: 'already_announced', facts: { delivery: first.code } })
    expect((await announce({ isAnother: true })).code).not.toBe(first.code)
    expect((await announce({ lines: [{ partId: goods.part.id, quantity: 6, supplierLot: '' }] })).state).toBe('announced')
  })
})
