import { endpoints } from '@nemawashi/contract'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { receive, refusal, startPlant, stock, type Plant } from '../testing/plant'

const { attach, define, run } = endpoints
let plant: Plant
let goods: Awaited<ReturnType<typeof stock>>
let boxes = ''
let whole = ''
let made: { partId: string; operationId: string }
beforeAll(async () => {
  plant = await startPlant()
  goods = await stock(plant)
  boxes = (await goods.plan('PL-BOX', [{ characteristicId: goods.judged.id }])).id
  whole = (await goods.plan('PL-WHOLE', [{ characteristicId: goods.measured.id }])).id
  const step = await goods.make(define.operations, { code: 'TEST', name: 'Proof load', kind: 'production' })
  const winch = { code: 'W-1', name: 'Winch', revision: 'A', unit: 'piece', tracking: 'lot', familyId: null, putAwayPlaceId: goods.places.store.id }
  made = { partId: (await goods.make(define.parts, { ...winch, operationIds: [step.id] })).id, operationId: step.id }
})
afterAll(() => plant.stop())

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
      expect((await receive(plant, goods, { supplierId: goods.other.id })).lots[0]?.inspections).toEqual([])
      const query = { operationId: goods.receiving.id, partId: goods.part.id, partnerId: supplier.id, quantity: 10 }
      const told = await engineer.call(attach.rehearse, { query })
      expect(told.lots[0]?.considered.map(({ level, opens, mismatches }) => [level, opens, mismatches])).toEqual([
        ['partOfGroup', true, []],
        ['partUnderContract', false, ['contract']],
        ['partUnderContract', false, ['contract']],
      ])
      const under = await engineer.call(attach.rehearse, { query: { ...query, contract: 'K-9' } })
      expect(under.lots[0]?.considered.map(({ opens, supersededBy }) => [opens, supersededBy])).toEqual([
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

  it('is seen as that of the family, without what is set for the part alone', async () => {
    await goods.under([{ planId: boxes }, { planId: boxes, change: { partId: null, familyId: goods.family.id } }], async () => {
      const seen = async (lens: 'part' | 'family') => {
        const { family, stops } = await goods.engineer.call(attach.getFlow, { params: { id: goods.part.id }, query: { lens } })
        return [
          family?.parts.find(({ id }) => id === goods.part.id)?.own,
          stops[0]?.points.map(({ partCode, opens }) => `${partCode ?? 'family'} ${opens}`),
        ]
      }
      expect(await seen('part')).toEqual([1, ['P-1 true', 'family false']])
      expect(await seen('family')).toEqual([1, ['family true']])
    })
  })

  it('is refused where it would never open', async () => {
    expect((await refusal(goods.point(boxes, { supplierGroup: 'nobody' })))?.code).toBe('reference_unknown')
    expect((await refusal(goods.point(boxes, { supplierGroup: 'forges', supplierId: goods.supplier.id })))?.code).toBe('input_invalid')
    expect((await refusal(goods.point(boxes, { contract: 'K-9', ...made, moment: 'end' })))?.code).toBe('moment_not_there')
    expect(await refusal(goods.point(boxes, { subject: 'container', ...made, moment: 'end' }))).toMatchObject({
      code: 'moment_not_there',
      message: expect.stringContaining('each container'),
    })
  })
})
