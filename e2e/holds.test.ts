import { endpoints } from '@nemawashi/contract'
import { expect, it } from 'vitest'
import { press, standing } from './stand'

const { attach, define, run } = endpoints
const { api, sit, partId } = standing()

/** A plan of one judged line, hung at the receiving of a part that asks for nothing else of the kind; gives what takes it off again. */
async function hang(code: string, name: string, part: string, change: object): Promise<() => Promise<unknown>> {
  const engineer = await api('ilse')
  const { rows } = await engineer.call(define.listCharacteristics, { query: { q: 'C-TURN' } })
  const sampling = { kind: 'fixedNumber' as const, sampleSize: 5, accept: 0 }
  const lines = [{ characteristicId: rows[0]?.id ?? '', sampling, isRequired: true, isDecisive: false }]
  const plan = await engineer.call(define.createPlan, { body: { code, name, lines } })
  await engineer.call(define.releasePlan, { params: { id: plan.id }, body: { version: plan.version } })
  const flow = await engineer.call(attach.getFlow, { params: { id: await partId(part) } })
  const operationId = flow.stops.find(({ kind }) => kind === 'receiving')?.operationId ?? ''
  const reach = { partId: await partId(part), familyId: null, supplierId: null, holdPlaceId: null }
  const { id, version } = await engineer.call(attach.createControlPoint, {
    body: { operationId, planId: plan.id, isGate: true, ...reach, ...change },
  })
  return () => engineer.call(attach.retireControlPoint, { params: { id }, body: { version } })
}
async function arrive(supplier: string, part: string, supplierLot: string): Promise<{ id: string; lotCode: string }> {
  const clerk = await api('dario')
  const { rows } = await clerk.call(define.partners.list, { query: { q: supplier } })
  const lines = [{ partId: await partId(part), supplierLot, quantity: 100, containers: [] }]
  const { id, lots } = await clerk.call(run.receiveDelivery, { body: { supplierId: rows[0]?.id ?? '', orderNumber: supplierLot, lines } })
  return { id, lotCode: lots[0]?.code ?? '' }
}

it('a gate that holds its sample only lets the rest be put away at once', async () => {
  const takeOff = await hang('RP-91', 'Cartons, a few', 'BX-02', { holds: 'sample' })
  const { id } = await arrive('Saltmere', 'BX-02', 'FEW-1')
  const hand = await sit('dario')
  await hand.open(`/run/${id}`)
  await hand.sees('holds its sample')
  await hand.sees(/5\s+on hold/)
  await hand.sees(/95\s+released/)
  await hand.page.waitForSelector('.away')
  const free = await hand.page.$$eval('.away', (rows) => rows.findIndex((row) => row.textContent?.includes('released')))
  await press(hand, `.away:nth-of-type(${free + 1}) [data-test=put-away]`)
  await hand.sees('95 put away.')
  await hand.sees(/5\s+on hold/)
  await takeOff()
})

it('a failure holds what is there also where no gate stands', async () => {
  await hang('RP-92', 'Cartons, looked at', 'BX-02', { isGate: false })
  const { id } = await arrive('Saltmere', 'BX-02', 'SEEN-1')
  const inspector = await api('rosa')
  const delivery = await inspector.call(run.getDelivery, { params: { id } })
  const check = delivery.lots[0]?.inspections.find(({ planName }) => planName === 'Cartons, looked at')
  expect(check).toMatchObject({ isGate: false, holds: null })
  expect(delivery.lots[0]?.balances.every(({ standing }) => standing === 'released')).toBe(true)
  const hand = await sit('rosa')
  await hand.open(`/record/${check?.id ?? ''}`)
  await hand.sees('No gate; a failure holds what is still there.')
  await hand.page.waitForFunction(() => document.activeElement?.closest('.entry') != null)
  await hand.press('x')
  await press(hand, '[data-test=rest-conforms]')
  await hand.confirm()
  await hand.sees('Everything typed is stored')
  await hand.chord('Control', 'Enter')
  await hand.sees(`${check?.code} is finished: not acceptable`)
  await hand.sees('It failed: put-away waits for the decision.')
  const clerk = await sit('dario')
  await clerk.open(`/run/${id}`)
  await clerk.sees(/100\s+on hold/)
})
