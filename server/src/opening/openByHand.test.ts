import { endpoints } from '@nemawashi/contract'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { verifyPlant } from '../kernel/verify/verifyPlant'
import { schema, verifications } from '../app/areas'
import { decideAll, inspect, receive, refusal, startPlant, stock, type Plant, type Stock } from '../testing/plant'

const { attach, record, trace } = endpoints
let plant: Plant
let goods: Stock
let planId = ''
beforeAll(async () => {
  plant = await startPlant()
  goods = await stock(plant)
  planId = (await goods.plan('PL-H', [{ characteristicId: goods.judged.id }])).id
})
afterAll(async () => {
  expect((await verifyPlant(plant.kernel.database.address, schema, { also: verifications })).breaks).toEqual([])
  await plant.stop()
})

const open = async (lotId: string, change: object = {}) =>
  (await plant.as('inspector')).call(record.openByHand, {
    params: { id: lotId },
    body: { planId, operationId: goods.receiving.id, containerId: null, isHolding: false, reason: 'the customer asked', ...change },
  })
const passportOf = async (id: string) => (await plant.as('auditor')).call(trace.getPassport, { params: { id } })

it('an inspection is opened on a lot that nobody asked about, and holds it if it fails', async () => {
  const { lots } = await receive(plant, goods, { quantity: 30 })
  const [lot] = lots
  expect(lot?.inspections).toEqual([])
  const opened = await open(lot?.id ?? '')
  expect(opened).toMatchObject({ state: 'toDo', lotSize: 30, isGate: false, holds: false, openReason: 'the customer asked', need: 'adaptable' })
  expect((await passportOf(lot?.id ?? '')).balances).toMatchObject([{ standing: 'released', quantity: 30 }])
  const failed = await inspect(plant, opened.id, 1)
  expect(failed).toMatchObject({ state: 'finished', finding: { verdict: 'notAcceptable' } })
  await decideAll(plant, failed, 'scrap')
  const { balances, events } = await passportOf(lot?.id ?? '')
  expect(balances).toMatchObject([{ standing: 'scrapped', quantity: 30 }])
  expect(events).toContainEqual(
    expect.objectContaining({ kind: 'inspectionOpened', title: `${opened.code} opened by hand: Plan PL-H`, byName: 'inspector' }),
  )
})

it('it can hold the pieces at once, of one container alone; the others stay free', async () => {
  const containers = [
    { label: 'H-1', quantity: 12 },
    { label: 'H-2', quantity: 8 },
  ]
  const { lots } = await receive(plant, goods, { quantity: 20, containers })
  const lotId = lots[0]?.id ?? ''
  const containerId = lots[0]?.balances.find(({ containerLabel }) => containerLabel === 'H-2')?.containerId ?? ''
  const opened = await open(lotId, { containerId, isHolding: true })
  expect(opened).toMatchObject({ lotSize: 8, unitLabel: 'H-2', isGate: true, holds: true })
  const standings = async () => (await passportOf(lotId)).balances.map(({ containerLabel, standing }) => `${containerLabel} ${standing}`).sort()
  expect(await standings()).toEqual(['H-1 released', 'H-2 onHold'])
  await decideAll(plant, await inspect(plant, opened.id, 0), 'release')
  expect(await standings()).toEqual(['H-1 released', 'H-2 released'])
})

it('says what it cannot be opened on, and hangs no control point anywhere', async () => {
  const { lots } = await receive(plant, goods, { quantity: 5 })
  const lotId = lots[0]?.id ?? ''
  const draft = await goods.engineer.call(endpoints.define.createPlan, { body: { code: 'PL-D', name: 'Draft', lines: [] } })
  expect(await refusal(open(lotId, { planId: draft.id }))).toMatchObject({ status: 409, code: 'nothing_released' })
  expect(await refusal(open(lotId, { planId: lotId }))).toMatchObject({ code: 'reference_unknown', facts: { field: 'planId' } })
  expect(await refusal(open(lotId, { containerId: lotId }))).toMatchObject({ code: 'reference_unknown' })
  expect(await refusal(open(lotId, { reason: '' }))).toMatchObject({ code: 'input_invalid' })
  const first = await open(lotId)
  await decideAll(plant, await inspect(plant, first.id, 1), 'scrap')
  expect(await refusal(open(lotId))).toMatchObject({ status: 409, code: 'nothing_there' })
  expect((await goods.engineer.call(attach.listControlPoints, { query: {} })).rows).toEqual([])
  expect((await receive(plant, goods, { quantity: 5 })).lots[0]?.inspections).toEqual([])
})
