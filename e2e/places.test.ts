import { endpoints } from '@nemawashi/contract'
import { expect, it } from 'vitest'
import { press, standing } from './stand'

const { define, run } = endpoints
const { api, sit, partId } = standing()

it('an engineer puts a rule on the list of places, is kept from a circle, and tries the list before it is saved', async () => {
  const hand = await sit('ilse')
  await hand.open('/run/places')
  await hand.sees('Free at the dock')
  await press(hand, '[data-test=add]')
  await hand.fill('[data-field=rule-name]', 'Leaflets back')
  await hand.pick('[data-field=rule-to]', 'DOCK-1')
  await hand.pick('[data-field=rule-from]', 'RACK-A')
  await hand.sees(/These rules send the same pieces round: .*Small parts rack A.* → .*Dock 1/)
  expect(await hand.page.$eval('[data-test=save]', (button) => (button as HTMLButtonElement).disabled)).toBe(true)
  await hand.pick('[data-field=rule-to]', 'RACK-B')
  await hand.pick('[data-field=rule-part]', 'LB-01')
  await hand.page.waitForFunction(() => document.querySelector('[data-test=circle]') === null)
  await hand.pick('[data-field=try-part]', 'LB-01')
  await hand.pick('[data-field=try-place]', 'RACK-A')
  await hand.sees(/Body rack B, by rule 5, Leaflets back/)
  expect(await hand.textOf('[data-tried="Free at the dock"]')).toBe('only from another place')
  await press(hand, '[data-test=save]')
  await hand.sees('Saved: 5 rules, asked in this order.')
  // Another page that had the list open before is told so.
  const other = await (await api('ilse')).call(run.getPutAwayRules, {})
  expect(other.rules.map(({ name }) => name).at(-1)).toBe('Leaflets back')
})

it('a clerk moves what lies elsewhere than the list says; what a gate holds is not to be stored', async () => {
  const clerk = await api('dario')
  const supplierId = (await clerk.call(define.partners.list, { query: { q: 'Saltmere' } })).rows[0]?.id ?? ''
  const body = { supplierId, orderNumber: 'PLACES', lines: [{ partId: await partId('BX-02'), supplierLot: 'PL-1', quantity: 70, containers: [] }] }
  const { lots } = await clerk.call(run.receiveDelivery, { body })
  const code = lots[0]?.code ?? ''
  const hand = await sit('dario')
  await hand.open('/run/transfers')
  const row = `tr[data-due="${code}"]`
  await hand.page.waitForSelector(row)
  expect(await hand.textOf(row)).toMatch(/70[\s\S]*Dock 1[\s\S]*Small parts rack A[\s\S]*Free at the dock/)
  await press(hand, `${row} [data-test=move]`)
  await hand.sees(new RegExp(`T-\\d{6}: 70 pieces of ${code} to Small parts rack A.`))
  await hand.page.waitForFunction((selector) => document.querySelector(selector) === null, {}, row)
  await hand.open('/run/transfers?tab=done')
  await hand.sees(code)
  expect(await hand.textOf('tbody tr')).toMatch(/Free at the dock/)
  await hand.open(`/run/transfers?tab=movements&q=${code}`)
  await hand.sees('put away')
  const { rows } = await clerk.call(run.getMovesDue, {})
  expect(rows.filter(({ standing, toPlaceName }) => standing === 'onHold' && toPlaceName.includes('rack'))).toEqual([])
})
