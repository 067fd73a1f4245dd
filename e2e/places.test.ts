import { endpoints } from '@nemawashi/contract'
import { password } from '@nemawashi/demo'
import { expect, it } from 'vitest'
import { codeIn, press, standing } from './stand'

const { define, record, run, trace } = endpoints
const { api, arrive, partId, settle, sit } = standing()

it('an engineer puts a rule on the list of places, is kept from a circle, and tries the list before it is saved', async () => {
  const hand = await sit('ilse', '/run/places')
  await hand.sees('Free at the dock')
  await press(hand, '[data-test=add]')
  await hand.fill('[data-field=rule-name]', 'Leaflets back')
  await hand.pick('[data-field=rule-to]', 'DOCK-1')
  await hand.pick('[data-field=rule-from]', 'RACK-A')
  await hand.sees(/These rules send the same pieces round: .*Small parts rack A.* → .*Dock 1/)
  expect(await hand.isOff('[data-test=save]')).toBe(true)
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
  const hand = await sit('dario', '/run/transfers')
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
  // Several are moved together.
  for (const supplierLot of ['PL-2', 'PL-3'])
    await clerk.call(run.receiveDelivery, { body: { ...body, lines: body.lines.map((line) => ({ ...line, supplierLot })) } })
  await hand.open('/run/transfers')
  await press(hand, '[data-test=move-all]')
  await hand.sees(/\d+ moves done/)
  const { rows } = await clerk.call(run.getMovesDue, {})
  expect(rows.filter(({ partCode }) => partCode === 'BX-02')).toEqual([])
  expect(rows.filter(({ standing, toPlaceName }) => standing === 'onHold' && toPlaceName.includes('rack'))).toEqual([])
})

it('a dispatch is planned, waits for the check before it is picked, is picked from what is offered, and leaves', async () => {
  const engineer = await api('ilse')
  const idOf = async (endpoint: typeof define.operations.list | typeof define.places.list, q: string) =>
    ((await engineer.call(endpoint as never, { query: { q } } as never)) as { rows: { id: string }[] }).rows[0]?.id ?? ''
  const [rack, receiving, shipping] = [
    await idOf(define.places.list, 'RACK-A'),
    await idOf(define.operations.list, 'RCV'),
    await idOf(define.operations.list, 'SHP'),
  ]
  const bag = { code: 'RS-74', name: 'Rope bag', revision: 'A', unit: 'piece', tracking: 'lot', familyId: null, putAwayPlaceId: rack } as const
  const part = await engineer.call(define.parts.create, { body: { ...bag, operationIds: [receiving, shipping] } })
  const { lots } = await arrive('SMP', 'RS-74', 'RS74-1', 50)
  const spot = lots[0]?.balances[0]
  const clerkApi = await api('dario')
  const away = { containerId: null, fromPlaceId: spot?.placeId ?? '', toPlaceId: rack, quantity: 50 }
  await clerkApi.call(run.putAway, { params: { id: lots[0]?.id ?? '' }, body: away })

  const hand = await sit('ilse', `/attach/${part.id}`)
  await press(hand, '[data-stop] .ring[aria-label^="Shipping"]')
  await hand.pick('[data-field=planId]', 'SP-05')
  await hand.select('[data-field=moment]', 'when it is planned')
  await press(hand, 'button[type=submit]')
  await hand.sees(/hangs at Shipping/)
  await hand.sees(/looks at the load, once[\s\S]*when it is planned, before it is picked/)

  const clerk = await sit('dario', '/run/dispatches')
  await clerk.sees('S-000001')
  await clerk.press('p')
  await clerk.pick('[data-field=customerId]', 'HMC')
  await clerk.fill('[data-field=orderNumber]', '9740')
  await clerk.pick('[data-field=partId]', 'RS-74')
  await clerk.fill('[data-field=quantity]', '30')
  await clerk.press('Enter')
  await clerk.sees('It may not be picked yet.')
  expect(await clerk.textOf('[data-test=lines]')).toMatch(/RS-74 Rope bag[\s\S]*30 pieces\s+50 pieces/)
  expect(await clerk.isOff('[data-test=pick]')).toBe(true)
  const check = codeIn(await clerk.textOf('.gate'))
  // The count on Today opens the list that it counts.
  await clerk.open('/today')
  await clerk.sees('To be picked')
  const said = await clerk.ask('[aria-label$=": To be picked"]', (link) => link.getAttribute('aria-label') ?? '')
  await press(clerk, '[aria-label$=": To be picked"]')
  const total = Number(/\d+/.exec(said)?.[0])
  await clerk.page.waitForFunction((rows) => document.querySelectorAll('[data-id]').length === rows, {}, total)
  await press(clerk, '[data-id] a')
  await clerk.sees('9740')
  const inspector = await sit('rosa')
  await settle(check, false)
  await clerk.page.reload()
  await clerk.sees(/is not acceptable: record it anew once that is mended/)
  expect(await clerk.textOf('tr.on')).toContain('✕ failed')
  await inspector.open('/record?tab=load')
  await inspector.sees(check)

  const [row] = (await (await api('rosa')).call(record.listInspections, { query: { q: check } })).rows
  await inspector.open(`/record/${row?.id ?? ''}`)
  await inspector.sees('It keeps the dispatch back')
  await press(inspector, '[data-test=reopen]')
  await inspector.confirm('the customer sent the right issue')
  await inspector.sees('Finding so far')
  await inspector.page.waitForFunction(() => document.activeElement?.closest('.entry') !== null)
  await inspector.press('o')
  await inspector.sees(/0 nonconforming, Ac 0/)
  await inspector.chord('Control', 'Enter')
  await inspector.page.waitForFunction(() => document.querySelector('[data-test=finish]') === null)
  await clerk.page.reload()
  await press(clerk, '[data-test=pick]')
  await clerk.sees(/S-\d{6} is picked/)
  expect(await clerk.textOf('[data-test=picks]')).toMatch(/RS-74 Rope bag[\s\S]*30 pieces/)
  await settle(codeIn(await clerk.textOf('.gate')))
  await clerk.page.reload()
  await press(clerk, '[data-test=send]')
  await clerk.sees(/S-\d{6} has left/)
  expect([...hand.problems, ...clerk.problems, ...inspector.problems]).toEqual([])
})

it('pieces that nobody asks about are moved by hand and decided on: these pieces, with a reason and a seal; the passport tells both', async () => {
  const { lots } = await arrive('SMP', 'BX-02', 'HAND-1', 70)
  const [id, code] = [lots[0]?.id ?? '', lots[0]?.code ?? '']
  const clerk = await sit('dario', `/trace/${id}`)
  await press(clerk, '[data-test=move-pieces]')
  await clerk.page.waitForSelector('[data-test=spot]')
  await clerk.fill('[data-field=moveQuantity] input, input[data-field=moveQuantity]', '71')
  await clerk.pick('[data-field=movePlace]', 'RACK-A')
  await press(clerk, '[data-test=move-by-hand]')
  await clerk.sees(/71[\s\S]*70/)
  await clerk.fill('[data-field=moveQuantity] input, input[data-field=moveQuantity]', '30')
  await press(clerk, '[data-test=move-by-hand]')
  await clerk.sees(/T-\d{6}: 30 pieces moved/)
  await clerk.page.waitForFunction(() => document.querySelectorAll('[data-test=spot]').length === 2)
  // What lies where is kept over a reload, as the lot stands in the address.
  await clerk.page.reload()
  await clerk.sees(/40 pieces[\s\S]*30 pieces/)

  const manager = await sit('anja', `/trace/${id}`)
  await press(manager, '[data-test=decide-again]')
  await manager.sees('No inspection asks about these pieces.')
  const at = await manager.page.$$eval('[data-test=again] tbody tr', (rows) => rows.findIndex((row) => row.textContent?.includes('30')))
  await manager.fill(`[data-field=again-quantity${at}]`, '10')
  await manager.fill(`[data-field=again-reason${at}]`, 'crushed corner seen at the rack')
  await press(manager, '[data-test=decide-again]')
  await manager.page.waitForSelector('input[name=seal-password]')
  expect(await manager.textOf('[role=dialog]')).toMatch(new RegExp(`${code}[^]*10 pieces`))
  await manager.fill('input[name=seal-password]', password)
  await manager.press('Enter')
  await manager.page.waitForFunction(() => document.querySelector('[role=dialog]') === null)
  const passport = await (await api('anja')).call(trace.getPassport, { params: { id } })
  const lying = passport.balances.map(({ placeName, standing, quantity }) => [placeName, standing, quantity])
  expect(lying.map(([, , quantity]) => quantity).sort()).toEqual([10, 20, 40])
  expect(lying.find(([, , quantity]) => quantity === 10)?.[1]).not.toBe('available')
  expect(passport.events.at(-1)).toMatchObject({ byName: 'Anja Moreau' })
  expect([...clerk.problems, ...manager.problems]).toEqual([])
})

it('an order that has made nothing is cancelled with a reason, and what is asked of it with it', async () => {
  const planner = await api('hana')
  const body = { partId: await partId('PL-18'), quantity: 60, orderNumber: '', customerId: null }
  const order = await planner.call(run.createOrder, { body })
  const hand = await sit('hana', `/run/orders/${order.id}`)
  await press(hand, '[data-test=act]')
  await hand.page.waitForFunction(() => /Next: /.test(document.querySelector('[data-test=next]')?.textContent ?? ''))
  await press(hand, '[data-test=cancel-order]')
  await hand.confirm('the customer took it back')
  await hand.sees(`${order.code} is cancelled.`)
  expect(await hand.page.$('[data-test=act]')).toBeNull()
  const { rows } = await planner.call(record.listInspections, { query: { q: order.code } })
  expect(rows.filter(({ state }) => state === 'toDo' || state === 'started')).toEqual([])
  expect(hand.problems).toEqual([])
})
