import { endpoints } from '@nemawashi/contract'
import { password } from '@nemawashi/demo'
import { expect, it } from 'vitest'
import { press, standing } from './stand'

const { record, run } = endpoints
const { api, sit, settle, hang, arrive } = standing()

it('a gate that holds its sample only lets the rest be put away at once', async () => {
  const takeOff = await hang('RP-91', 'Cartons, a few', 'BX-02', { holds: 'sample' })
  const { id } = await arrive('Saltmere', 'BX-02', 'FEW-1')
  const hand = await sit('dario', `/run/${id}`)
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
  const takeOff = await hang('RP-92', 'Cartons, looked at', 'BX-02', { isGate: false })
  const { id } = await arrive('Saltmere', 'BX-02', 'SEEN-1')
  const inspector = await api('rosa')
  const delivery = await inspector.call(run.getDelivery, { params: { id } })
  const check = delivery.lots[0]?.inspections.find(({ planName }) => planName === 'Cartons, looked at')
  expect(check).toMatchObject({ isGate: false, holds: null })
  expect(delivery.lots[0]?.balances.every(({ standing }) => standing === 'released')).toBe(true)
  const hand = await sit('rosa', `/record/${check?.id ?? ''}`)
  await hand.sees('No gate; a failure holds what is still there.')
  await hand.page.waitForFunction(() => document.activeElement?.closest('.entry') != null)
  await hand.press('x')
  await press(hand, '[data-test=rest-conforms]')
  await hand.confirm()
  await hand.sees('Everything typed is stored')
  await hand.chord('Control', 'Enter')
  await hand.sees(`${check?.code} is finished: not acceptable`)
  await hand.sees('It failed: put-away waits for the decision.')
  const clerk = await sit('dario', `/run/${id}`)
  await clerk.sees(/100\s+on hold/)
  await takeOff()
})

it('a second part of an order gets an inspection of its own; of two of one part in one place, deciding one leaves the other held', async () => {
  const takeOff = await hang('RP-93', 'Cartons, each time', 'BX-02', {})
  const clerk = await sit('dario')
  const receive = async (lot: string, quantity: string) => {
    await clerk.open('/run/new')
    await clerk.pick('[data-field=supplierId]', 'Saltmere')
    await clerk.fill('[data-field=orderNumber]', '5501')
    await clerk.pick('[data-line="0"] [data-field=partId]', 'BX-02')
    await clerk.fill('[data-line="0"] [data-field=supplierLot]', lot)
    await clerk.fill('[data-line="0"] [data-field=quantity]', quantity)
    await clerk.sees(/Cartons, each time\s+gate · Turns freely n 5/)
    await press(clerk, 'button[type=submit]')
    await clerk.sees('Cartons, each time')
    await clerk.page.waitForFunction(() => /\/run\/[0-9a-f-]{36}/.test(location.pathname))
    const id = /\/run\/([0-9a-f-]{36})/.exec(clerk.page.url())?.[1] ?? ''
    const { lots } = await (await api('dario')).call(run.getDelivery, { params: { id } })
    return lots[0]?.inspections.find(({ planName }) => planName === 'Cartons, each time')?.code ?? ''
  }
  const first = await receive('PART-1', '60')
  const second = await receive('PART-2', '40')
  expect([first === second, first, second]).toEqual([false, expect.stringMatching(/^I-/), expect.stringMatching(/^I-/)])
  await settle(first)
  const hand = await sit('anja', `/run/stock?q=BX-02`)
  await hand.sees('BX-02')
  const { rows } = await (await api('anja')).call(run.listStock, { query: { q: 'PART-' } })
  expect(rows.map(({ supplierLot, standing, quantity }) => `${supplierLot} ${quantity} ${standing}`).sort()).toEqual([
    'PART-1 60 released',
    'PART-2 40 onHold',
  ])
  await takeOff()
})

it('goods that only their use waits for are put away on hold; a piece that was found nonconforming is set aside, and is not released with the others', async () => {
  const takeOff = await hang(
    'RP-95',
    'Cartons in the store',
    'BX-02',
    { keepsFrom: 'use', setsAside: true },
    { kind: 'fixedNumber', sampleSize: 5, accept: 1 },
  )
  const { id, lots } = await arrive('Saltmere', 'BX-02', 'USE-1', 50)
  const clerk = await sit('dario', `/run/${id}`)
  await clerk.sees(/50\s+on hold/)
  await press(clerk, '[data-test=put-away]')
  await clerk.sees('50 put away, on hold.')
  const code = lots[0]?.inspections.find(({ planName }) => planName === 'Cartons in the store')?.id ?? ''

  const inspector = await sit('rosa', `/record/${code}`)
  await inspector.sees('Gate: it may be put away, on hold; use, picking and sending wait for the decision.')
  await inspector.page.waitForFunction(() => document.activeElement?.closest('.entry') != null)
  await inspector.press('x')
  await press(inspector, '[data-test=rest-conforms]')
  await inspector.confirm()
  await inspector.sees('Everything typed is stored')
  await inspector.chord('Control', 'Enter')
  await inspector.sees(/is finished: acceptable/)
  await inspector.open(`/contain/${code}`)
  await inspector.sees('A quality manager decides this: pieces are set aside.')

  const manager = await sit('anja', `/contain/${code}`)
  await manager.sees('1 piece was found nonconforming and set aside')
  expect(
    await manager.page.$$eval('.deciding input[inputmode=decimal]', (fields) => fields.map((field) => (field as HTMLInputElement).value)),
  ).toEqual(['49', '1'])
  await press(manager, '[data-test=decide]')
  await manager.fill('input[name=seal-password]', password)
  await manager.press('Enter')
  await manager.sees('Decided and sealed: ')
  const { rows } = await (await api('anja')).call(run.listStock, { query: { q: 'USE-1' } })
  expect(rows.map(({ quantity, standing }) => `${quantity} ${standing}`).sort()).toEqual(['1 quarantined', '49 released'])
  await takeOff()
})

it('an inspector opens an inspection by hand on a lot that nobody asked about; it says before what it asks, and holds the pieces', async () => {
  const { id } = await arrive('Saltmere', 'BX-02', 'HAND-1')
  const lot = (await (await api('rosa')).call(run.getDelivery, { params: { id } })).lots[0]
  const hand = await sit('rosa', `/trace/${lot?.id ?? ''}`)
  await press(hand, '[data-test=inspect-by-hand]')
  await hand.pick('[data-field=handPlan]', 'RP-61')
  await hand.sees(/Of 100 pieces it asks for .+ n \d+, Ac \d/)
  await hand.fill('[data-field=handReason]', 'asked by the customer')
  await hand.reach('[data-field=handHolds] input')
  await hand.press('Space')
  await press(hand, '[data-test=hand-open]')
  await hand.sees('its pieces wait for the decision')
  await hand.sees('Opened by hand by Rosa Lindqvist: asked by the customer')
  await hand.open(`/trace/${lot?.id ?? ''}`)
  await hand.sees(/100\s+on hold/)
  await hand.sees(/opened by hand:/)
})

it('the decision has the readings before it, value by value, and what a failed characteristic advises', async () => {
  const engineer = await api('ilse')
  const query = { q: 'Bar stock, metal', state: 'decided', sort: 'verdict', dir: 'desc' } as const
  const { rows } = await engineer.call(record.listInspections, { query })
  const { lines, readings } = await engineer.call(record.getInspection, { params: { id: rows[0]?.id ?? '' } })
  const hard = lines.find(({ details }) => details.adviceOnFailure !== '')
  const manager = await sit('anja', `/contain/${rows[0]?.id ?? ''}`)
  await manager.sees(hard?.details.adviceOnFailure ?? 'no advice')
  await press(manager, '.sheet details summary')
  const values = readings.flatMap(({ lineId, value }) => (lineId === hard?.id && value !== null ? [value] : []))
  expect(values.length).toBeGreaterThan(0)
  for (const value of values) expect(await manager.textOf('[data-test=readings]')).toContain(value)
})
