import { endpoints } from '@nemawashi/contract'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { refusal, startPlant, stock, type Plant, type Stock } from '../testing/plant'

const { attach } = endpoints
let plant: Plant
let goods: Stock

beforeAll(async () => {
  plant = await startPlant()
  goods = await stock(plant)
})
afterAll(() => plant.stop())

it('a stop is left open with a reason, another reason takes its place, and it is taken back', async () => {
  const leave = (operationId: string, reason: string | null) =>
    goods.engineer.call(attach.leaveOpen, { params: { id: goods.part.id }, body: { operationId, reason } })
  const leftAt = async (code: string) =>
    (await goods.engineer.call(attach.getFlow, { params: { id: goods.part.id } })).stops.find((stop) => stop.code === code)?.leftOpen ?? null
  expect(await leftAt('ASM')).toBeNull()
  await leave(goods.assembly.id, 'measured at receiving')
  await leave(goods.assembly.id, 'measured at receiving, every piece')
  expect(await leftAt('ASM')).toMatchObject({ reason: 'measured at receiving, every piece', byName: 'qualityEngineer' })
  expect(await leftAt('RCV')).toBeNull()
  await leave(goods.assembly.id, null)
  await leave(goods.assembly.id, null)
  expect(await leftAt('ASM')).toBeNull()
  // A control point of this part there answers it; what hangs there for all parts was there when it was left open.
  await leave(goods.assembly.id, 'measured at receiving')
  const plan = await goods.plan('PL-OPEN', [{ characteristicId: goods.judged.id }])
  const point = await goods.point(plan.id, { operationId: goods.assembly.id, moment: 'start', partId: goods.part.id, holdPlaceId: null })
  await goods.engineer.call(attach.retireControlPoint, { params: { id: point.id }, body: { version: point.version } })
  expect(await leftAt('ASM')).toBeNull()
  const other = await goods.make(endpoints.define.operations, { code: 'X', name: 'Not on its way', kind: 'production' })
  expect((await refusal(leave(other.id, 'never there')))?.code).toBe('not_on_the_way')
  const inspector = (await plant.as('inspector')).call(attach.leaveOpen, {
    params: { id: goods.part.id },
    body: { operationId: goods.assembly.id, reason: 'who says' },
  })
  expect((await refusal(inspector))?.code).toBe('role_missing')
  // What was nothing before is said as nothing: the chain prints.
  const auditor = await plant.as('auditor')
  expect((await fetch(`${plant.base}/api/v1/audit.pdf`, { headers: { cookie: auditor.cookies } })).status).toBe(200)
})
