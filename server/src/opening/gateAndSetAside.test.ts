import { endpoints, type Delivery } from '@nemawashi/contract'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { schema } from '../app/areas'
import { verifyPlant } from '../kernel/verify/verifyPlant'
import { decideAll, inspect, password, receive, refusal, startPlant, stock, type Plant } from '../testing/plant'

const { contain, record, run } = endpoints
let plant: Plant
let goods: Awaited<ReturnType<typeof stock>>
let planId = ''
let other = ''
beforeAll(async () => {
  plant = await startPlant()
  goods = await stock(plant, { kind: 'fixedNumber', sampleSize: 3, accept: 1 })
  planId = (await goods.plan('PL-USE', [{ characteristicId: goods.judged.id }])).id
  other = (await goods.plan('PL-OTHER', [{ characteristicId: goods.measured.id }])).id
})
afterAll(async () => {
  expect((await verifyPlant(plant.kernel.database.address, schema)).breaks).toEqual([])
  await plant.stop()
})

const clerk = () => plant.as('receivingClerk')
const now = async ({ id }: Delivery) => (await clerk()).call(run.getDelivery, { params: { id } })
const asked = ({ lots }: Delivery, at = 0) => lots[0]?.inspections[at]?.id ?? ''
const spots = ({ lots }: Delivery) =>
  (lots[0]?.balances ?? []).map(({ quantity, standing, placeName }) => `${quantity} ${standing} ${placeName}`).sort()
async function store(delivery: Delivery, quantity = 100): Promise<void> {
  const [lot] = (await now(delivery)).lots
  const spot = lot?.balances[0]
  const standing = spot?.standing === 'onHold' ? 'onHold' : 'released'
  const body = { containerId: null, fromPlaceId: spot?.placeId ?? '', quantity, toPlaceId: goods.places.store.id, standing } as const
  await (await clerk()).call(run.putAway, { params: { id: lot?.id ?? '' }, body })
}

describe('a gate that keeps goods from use alone', () => {
  const forUse = (change: object = {}) => ({ planId, change: { keepsFrom: 'use', holdPlaceId: null, ...change } })

  it('lets them be put away on hold, where they wait at the dock; no one can pick or move them freely before the decision, which frees them in the store', async () => {
    await goods.under([forUse()], async () => {
      const delivery = await receive(plant, goods)
      expect(delivery.lots[0]).toMatchObject({ gateReasons: [], inspections: [{ isGate: true, keepsFrom: 'use' }] })
      expect(spots(delivery)).toEqual(['100 onHold DOCK'])
      await store(delivery)
      expect(spots(await now(delivery))).toEqual(['100 onHold STORE'])
      const lotId = delivery.lots[0]?.id ?? ''
      expect((await (await clerk()).call(run.listPickable, { query: { q: delivery.lots[0]?.code ?? '' } })).rows).toEqual([])
      await decideAll(plant, await inspect(plant, asked(delivery)))
      expect(spots(await now(delivery))).toEqual(['100 released STORE'])
      expect((await (await clerk()).call(run.listPickable, { query: { q: delivery.lots[0]?.code ?? '' } })).rows.map((row) => row.lotId)).toEqual([
        lotId,
      ])
    })
  })

  it('lets nothing into the store that another one keeps from it, and says which', async () => {
    await goods.under([forUse(), { planId: other }], async () => {
      const delivery = await receive(plant, goods)
      expect(spots(delivery)).toEqual(['100 onHold BAY'])
      const code = delivery.lots[0]?.inspections.find(({ planName }) => planName === 'Plan PL-OTHER')?.code ?? ''
      expect(await refusal(store(delivery))).toMatchObject({ code: 'gate_closed', facts: { reasons: [expect.stringContaining(code)] } })
    })
  })

  it('is the only thing that lets what is on hold into a store', async () => {
    await goods.under([{ planId, change: { isGate: false } }], async () => {
      const delivery = await receive(plant, goods)
      await inspect(plant, asked(delivery), 3)
      expect((await now(delivery)).lots[0]?.balances[0]?.standing).toBe('onHold')
      expect((await refusal(store(delivery)))?.code).toBe('gate_closed')
    })
  })
})

describe('pieces that are set aside', () => {
  const apart = (change: object = {}) => ({ planId, change: { setsAside: true, ...change } })
  const manager = () => plant.as('qualityManager')
  const split = async (id: string, rows: [number, 'release' | 'scrap'][]) => {
    const { version, lotId } = await (await manager()).call(record.getInspection, { params: { id } })
    const body = {
      version,
      password,
      lotId,
      rows: rows.map(([quantity, disposition]) => ({ containerId: null, quantity, disposition, reason: 'as found' })),
    }
    return (await manager()).call(contain.decide, { params: { id }, body })
  }

  it('are not released with a lot that is accepted: so many less can be, and the others are decided on by themselves', async () => {
    await goods.under([apart()], async () => {
      const delivery = await receive(plant, goods)
      const found = await inspect(plant, asked(delivery), 1)
      expect(found).toMatchObject({ finding: { verdict: 'acceptable' }, setAside: 1 })
      expect(await refusal(split(found.id, [[100, 'release']]))).toMatchObject({
        code: 'set_aside',
        message: expect.stringContaining('Of 100 on hold, 99 can be released'),
      })
      await split(found.id, [
        [99, 'release'],
        [1, 'scrap'],
      ])
      expect((await now(delivery)).lots[0]?.balances.map(({ quantity, standing }) => `${quantity} ${standing}`).sort()).toEqual([
        '1 scrapped',
        '99 released',
      ])
    })
  })

  it('do not go free with a finding that frees, and are held where nothing else is', async () => {
    await goods.under([apart({ whenConforming: 'free' })], async () => {
      const delivery = await receive(plant, goods)
      expect(await inspect(plant, asked(delivery), 1)).toMatchObject({ state: 'finished' })
      expect(await inspect(plant, asked(await receive(plant, goods)))).toMatchObject({ state: 'decided', setAside: 0 })
    })
    await goods.under([apart({ isGate: false })], async () => {
      const delivery = await receive(plant, goods)
      await inspect(plant, asked(delivery), 1)
      expect(spots(await now(delivery))).toEqual(['1 onHold BAY', '99 released DOCK'])
      expect((await refusal(split(asked(delivery), [[1, 'release']])))?.code).toBe('set_aside')
      await split(asked(delivery), [[1, 'scrap']])
      expect(spots(await now(delivery))).toEqual(['1 scrapped SCRAP', '99 released DOCK'])
    })
  })
})
