import { endpoints, type Delivery, type ProductionOrder } from '@nemawashi/contract'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { schema } from '../../app/areas'
import { verifyPlant } from '../../kernel/verify/verifyPlant'
import { decideAll, inspect, password, refusal, startPlant, stock, type Plant } from '../../testing/plant'

const { contain, define, people, run } = endpoints
let plant: Plant
let goods: Awaited<ReturnType<typeof stock>>
let each = ''
let winch: { id: string }
let step: { id: string }
const numbered = (code: string, operationIds: string[]) =>
  goods.make(define.parts, {
    ...{ code, name: code, revision: 'A', unit: 'piece', tracking: 'serial', familyId: null, putAwayPlaceId: goods.places.store.id, operationIds },
  })
beforeAll(async () => {
  plant = await startPlant()
  goods = await stock(plant)
  each = (await goods.plan('PL-BOX', [{ characteristicId: goods.judged.id }])).id
  await goods.make(define.places, { code: 'LINE', name: 'LINE', purpose: 'production', countsForPlanning: false })
  step = await goods.make(define.operations, { code: 'TEST', name: 'Proof load', kind: 'production' })
  winch = await numbered('W-1', [goods.receiving.id, step.id])
})
afterAll(async () => {
  expect((await verifyPlant(plant.kernel.database.address, schema)).breaks).toEqual([])
  await plant.stop()
})

const clerk = () => plant.as('receivingClerk')
const asked = ({ lots }: Delivery) => lots[0]?.inspections ?? []
const came = async (lines: { partId: string; serials: string[]; quantity?: number }[]): Promise<Delivery> =>
  (await clerk()).call(run.receiveDelivery, {
    body: {
      supplierId: goods.supplier.id,
      orderNumber: 'W',
      isAnother: true,
      lines: lines.map(({ quantity, ...line }, i) => ({ supplierLot: `S${i}`, quantity: quantity ?? line.serials.length, containers: [], ...line })),
    },
  })
const winches = (serials: string[], quantity = serials.length) => came([{ partId: winch.id, serials, quantity }])

describe('a part that is traced by serial numbers', () => {
  it('comes with one for each piece, none of which it had before', async () => {
    expect(await refusal(winches([], 2))).toMatchObject({ code: 'serials_missing', message: 'Line 1: 0 serial numbers for 2 pieces of W-1.' })
    expect((await refusal(winches(['A', 'A'])))?.code).toBe('already_exists')
    const twice = ['A', 'A'].map((serial) => ({ partId: winch.id, serials: [serial] }))
    expect((await refusal(came(twice)))?.message).toBe('Line 2: the serial number A of W-1 is given already: line 1 has it.')
    const delivery = await winches(['A', 'B'])
    expect(delivery.lots[0]?.balances).toMatchObject([
      { containerLabel: 'W-1 A', quantity: 1 },
      { containerLabel: 'W-1 B', quantity: 1 },
    ])
    const { hits } = await goods.engineer.call(people.search, { query: { q: 'W-1 B' } })
    expect(hits).toEqual([expect.objectContaining({ kind: 'serial', id: delivery.lots[0]?.id, title: 'B' })])
    // Another part may number its pieces alike.
    const other = await numbered('W-2', [goods.receiving.id])
    expect((await came([{ partId: other.id, serials: ['A'] }])).lots[0]?.balances).toMatchObject([{ containerLabel: 'W-2 A' }])
    expect(await refusal(winches(['B']))).toMatchObject({ code: 'already_exists', message: expect.stringContaining(delivery.lots[0]?.code ?? '?') })
  })

  it('is looked at piece by piece where a control point says so, and each is decided by itself', async () => {
    await goods.under([{ planId: each, change: { subject: 'serial', partId: winch.id } }], async () => {
      const delivery = await winches(['C', 'D'])
      expect(asked(delivery)).toMatchObject([
        { unitLabel: 'W-1 C', lines: [{ sampleSize: 1 }] },
        { unitLabel: 'W-1 D', lines: [{ sampleSize: 1 }] },
      ])
      await decideAll(plant, await inspect(plant, asked(delivery)[0]?.id ?? ''), 'release')
      const failed = await inspect(plant, asked(delivery)[1]?.id ?? '', 1)
      const rows = failed.balances.map(({ containerId }) => ({
        containerId,
        quantity: 1,
        disposition: 'returnToSupplier' as const,
        reason: 'a burr',
      }))
      const body = { version: failed.version, password, lotId: failed.lotId, rows }
      await (await plant.as('qualityManager')).call(contain.decide, { params: { id: failed.id }, body })
      expect((await (await clerk()).call(run.getDelivery, { params: { id: delivery.id } })).lots[0]?.balances).toMatchObject([
        { containerLabel: 'W-1 C', standing: 'released' },
        { containerLabel: 'W-1 D', standing: 'returned' },
      ])
    })
  })

  it('is numbered with its order: pieces that are lost are named, and what the step has made is looked at one by one', async () => {
    await goods.under(
      [{ planId: each, change: { subject: 'serial', partId: winch.id, operationId: step.id, moment: 'end', holdPlaceId: null } }],
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
