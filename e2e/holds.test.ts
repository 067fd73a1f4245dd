import { endpoints } from '@nemawashi/contract'
import { expect, it } from 'vitest'
import { press, standing } from './stand'

const { run } = endpoints
const { api, sit, hang, arrive } = standing()

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
