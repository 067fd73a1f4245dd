import { endpoints } from '@nemawashi/contract'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { receive, startPlant, stock, type Plant, type Stock } from '../../testing/plant'
import { labelsOf } from './labelsPdf'

let plant: Plant
let goods: Stock

beforeAll(async () => {
  plant = await startPlant()
  goods = await stock(plant)
})
afterAll(() => plant.stop())

it('labels: one for each container, one for what lies loose, none for what never came', async () => {
  const clerk = await plant.as('receivingClerk')
  const containers = [
    { label: 'B-7', quantity: 60 },
    { label: null, quantity: 40 },
  ]
  const delivery = await receive(plant, goods, { quantity: 100, containers })
  const { lots } = await receive(plant, goods, { quantity: 25 })
  expect(labelsOf(delivery).map(({ code, what, quantity }) => [code, what, quantity])).toEqual([
    ['B-7', 'Container', '60 pieces'],
    ['K-000001', 'Container', '40 pieces'],
  ])
  const correction = { field: 'quantity' as const, lotId: delivery.lots[0]?.id ?? '', containerId: null, quantity: 40 }
  const body = {
    correction: { ...correction, containerId: delivery.lots[0]?.balances.find((balance) => balance.quantity === 60)?.containerId ?? null },
    reason: 'a torn box',
  }
  const corrected = await clerk.call(endpoints.run.correctDelivery, { params: { id: delivery.id }, body })
  expect(
    labelsOf(corrected)
      .map(({ quantity }) => quantity)
      .sort(),
  ).toEqual(['40 pieces', '40 pieces'])
  const loose = await clerk.call(endpoints.run.getDelivery, {
    params: { id: (await clerk.call(endpoints.run.listDeliveries, { query: {} })).rows[0]?.id ?? '' },
  })
  expect(labelsOf(loose)).toMatchObject([{ code: lots[0]?.code, what: 'Lot', quantity: '25 pieces' }])
  const paper = await fetch(`${plant.base}/api/v1/deliveries/${delivery.id}/labels.pdf`, { headers: { cookie: clerk.cookies } })
  expect([paper.headers.get('content-type'), (await paper.text()).slice(0, 5)]).toEqual(['application/pdf', '%PDF-'])
})
