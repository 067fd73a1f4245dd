import { endpoints } from '@nemawashi/contract'
import { expect, it } from 'vitest'
import { codeIn, press, standing } from './stand'

const { define, record, run } = endpoints
const { api, sit, settle } = standing()

it('three control points are hung along the way of a part, rehearsed, and live: container by container, at the step, and before it leaves', async () => {
  const engineer = await api('ilse')
  const ids = async (codes: string) =>
    Promise.all(codes.split(' ').map(async (code) => (await engineer.call(define.operations.list, { query: { q: code } })).rows[0]?.id ?? ''))
  const store = (await engineer.call(define.places.list, { query: { q: 'RACK-A' } })).rows[0]?.id ?? ''
  const sleeve = {
    code: 'RS-70',
    name: 'Rope sleeve',
    revision: 'A',
    unit: 'piece',
    tracking: 'lot',
    familyId: null,
    putAwayPlaceId: store,
    packQuantity: 40,
  } as const
  const part = await engineer.call(define.parts.create, { body: { ...sleeve, operationIds: await ids('RCV FRG SHP') } })

  const hand = await sit('ilse', `/attach/${part.id}`)
  const hang = async (stop: string, plan: string, more: () => Promise<void> = async () => {}) => {
    await press(hand, `[data-stop] .ring[aria-label^="${stop}"]`)
    await hand.pick('[data-field=planId]', plan)
    await more()
    await press(hand, 'button[type=submit]')
    await hand.sees(new RegExp(`hangs at ${stop}`))
  }
  await hang('Receiving', 'RP-81', async () => {
    await hand.reach('[data-field=subject] input')
    // From each lot to each container.
    await hand.press('ArrowDown')
    await hand.sees('nothing passes for want of a label')
    await hand.pick('[data-field=holdPlaceId]', 'BAY-2')
    await hand.fill('[data-field=advice] input', 'call the printer')
  })
  await hang('Forge', 'MP-10')
  await hang('Shipping', 'SP-10')
  await hand.sees('looks at each container of a lot')
  const rehearse = async (stop: string) => {
    await hand.select('[data-test=rehearsal] [data-field=operation]', stop)
    await press(hand, '[data-test=rehearsal] button[type=submit]')
    await hand.page.waitForSelector('[data-test=rehearsed]')
    return hand.textOf('[data-test=rehearsed]')
  }
  const arriving = await rehearse('Receiving')
  expect(arriving).toMatch(/Printed matter CP-\d+ each container of a lot[\s\S]*○ opens set for this part[\s\S]*Print n 5, Ac 0/)
  expect(arriving).toContain('advice when not accepted: call the printer')
  expect(await rehearse('Forge')).toMatch(/Flash and laps[\s\S]*○ opens[\s\S]*the next step cannot start, nor the order finish/)
  const leaving = await rehearse('Shipping')
  expect(leaving).toMatch(/– does not open set for every part; the one for this part goes before it/)
  expect(leaving).toMatch(/○ opens set for this part[\s\S]*the goods cannot leave before its decision/)

  const clerk = await sit('dario', '/run/new')
  await clerk.pick('[data-field=supplierId]', 'SMP')
  await clerk.fill('[data-field=orderNumber]', '9701')
  await clerk.pick('[data-field=partId]', 'RS-70')
  await clerk.fill('[data-field=supplierLot]', 'RS-1')
  await clerk.fill('[data-field=quantity]', '60')
  await clerk.sees('As usual: 2 containers of 40, the last of 20')
  await press(clerk, '[data-test=usual-containers]')
  await clerk.sees(/Printed matter 2 ×, each container of a lot\s+gate · Print n 5, Ac 0/)
  await press(clerk, 'button[type=submit]')
  await clerk.sees('2 of 2 inspections open')
  const asked = await clerk.textOf('table.plain')
  const [first = '', second = ''] = [...asked.matchAll(/I-\d{6}/g)].map(([code]) => code)
  expect(asked).toMatch(/Printed matter K-\d{6}[\s\S]*Printed matter K-\d{6}/)
  await settle(first)
  await clerk.page.reload()
  await clerk.sees('1 of 2 inspections open')
  expect(await clerk.textOf('.away')).toMatch(/40 released in K-\d{6}|20 on hold in K-\d{6}/)
  const away = async (words: string) => {
    await clerk.page.evaluate((text) => {
      const row = [...document.querySelectorAll<HTMLElement>('form.away')].find((form) => form.innerText.includes(text))
      row?.querySelector<HTMLElement>('[data-test=put-away]')?.focus()
    }, words)
    await clerk.press('Enter')
  }
  await away('20 on hold')
  await clerk.sees(new RegExp(`may not be put away: Printed matter \\(${second}\\)`))
  await away('40 released')
  await clerk.sees('40 put away.')

  const operator = await sit('hana', '/run/orders')
  await operator.sees('W-000001')
  await operator.press('n')
  await operator.pick('[data-field=partId]', 'RS-70')
  await operator.fill('[data-field=quantity]', '30')
  await press(operator, 'button[type=submit]')
  for (const words of ['Release it', 'Next: Forge', 'Forge is running']) {
    await operator.sees(words)
    await press(operator, '[data-test=act]')
  }
  await operator.sees("You can't finish this order yet.")
  await settle(codeIn(await operator.textOf('[data-test=next]')))
  await operator.page.reload()
  await operator.sees('30 pieces can go to the store')

  await clerk.open('/run/dispatches')
  await clerk.sees('S-000001')
  await clerk.press('n')
  await clerk.pick('[data-field=customerId]', 'HMC')
  await clerk.fill('[data-field=orderNumber]', '9702')
  await clerk.pick('[data-field=lot]', 'RS-70')
  await clerk.fill('[data-field=quantity] input', '40')
  await clerk.press('Enter')
  await clerk.sees('It may not leave yet.')
  await settle(codeIn(await clerk.textOf('.gate')))
  await clerk.page.reload()
  await press(clerk, '[data-test=send]')
  await clerk.sees(/S-\d{6} has left/)
  expect([...hand.problems, ...clerk.problems, ...operator.problems]).toEqual([])
})

it('pieces with serial numbers are typed as a run, missed ones are said, and each has an inspection that is known by its number', async () => {
  const clerk = await sit('dario', '/run/new')
  await clerk.pick('[data-field=supplierId]', 'GWB')
  await clerk.fill('[data-field=orderNumber]', '9703')
  await clerk.pick('[data-field=partId]', 'LC-20')
  await clerk.fill('[data-field=supplierLot]', 'G-9')
  await clerk.fill('[data-field=quantity]', '3')
  await clerk.fill('[data-field=serials]', 'G-3001..G-3002')
  await clerk.sees('2 serial numbers: not the 3 of the note')
  await clerk.press('Enter')
  await clerk.sees('2 serial numbers for 3 pieces of LC-20')
  await clerk.fill('[data-field=serials]', 'G-3002..G-3001')
  await clerk.sees('the first and the last differ in their last digits only')
  await clerk.fill('[data-field=serials]', 'G-3001..G-3003')
  await clerk.sees(/Load cells, one by one 3 ×, each piece, by its serial number/)
  await clerk.press('Enter')
  await clerk.sees('3 of 3 inspections open')
  expect(await clerk.textOf('table.plain')).toMatch(/LC-20 G-3001[\s\S]*LC-20 G-3002[\s\S]*LC-20 G-3003/)

  const inspector = await sit('rosa', '/record?q=G-3002')
  await inspector.sees('LC-20 G-3002')
  const [row] = (await (await api('rosa')).call(record.listInspections, { query: { q: 'G-3002' } })).rows
  await settle(row?.code ?? '', false)
  const manager = await sit('anja', `/contain/${row?.id ?? ''}`)
  await manager.sees(/LC-20 G-3002/)
  const stock = await (await api('dario')).call(run.listStock, { query: { q: 'LC-20 G-300' } })
  expect(stock.rows.map(({ containerLabel, standing }) => `${containerLabel} ${standing}`).sort()).toEqual([
    'LC-20 G-3001 onHold',
    'LC-20 G-3002 released',
    'LC-20 G-3003 onHold',
  ])

  // Many numbers are put away, and picked, together.
  for (const serial of ['G-3001', 'G-3003']) {
    const [first] = (await (await api('rosa')).call(record.listInspections, { query: { q: serial } })).rows
    await settle(first?.code ?? '')
  }
  await clerk.page.reload()
  await clerk.sees('Put all 3 away there')
  await press(clerk, '[data-test=put-all-away]')
  await clerk.sees('3 put away.')
  await clerk.open('/run/dispatches/new')
  await clerk.pick('[data-field=customerId]', 'HMC')
  await clerk.fill('[data-field=orderNumber]', '9704')
  await clerk.pick('[data-field=lot]', 'G-3001')
  await clerk.sees(/Take the other 2 of L-\d{6} too/)
  await press(clerk, '[data-test=take-others]')
  await press(clerk, 'button[type=submit]')
  await clerk.sees(/S-\d{6} · Highmoor Climbing/)
  expect(await clerk.textOf('[data-test=picks]')).toMatch(/G-3001[\s\S]*G-3002[\s\S]*G-3003/)
})

it('an engineer names a finer standing and a manager gives it, with a reason: what may not be picked is offered to nobody', async () => {
  const engineer = await sit('ilse', '/define/finer-standings/new')
  await engineer.fill('[data-field=code] input', 'FS-77')
  await engineer.fill('[data-field=name] input', 'for the school')
  for (const field of ['mayPick', 'mayShip']) {
    await engineer.reach(`[data-field=${field}] input`)
    await engineer.press('Space')
  }
  await press(engineer, 'button[type=submit]')
  await engineer.sees('FS-77 for the school')

  const clerk = await api('dario')
  const free = (await clerk.call(run.listPickable, { query: { sort: 'since', dir: 'desc' } })).rows[0]
  const manager = await sit('anja', `/trace/${free?.lotId ?? ''}`)
  await press(manager, '[data-test=give-finer]')
  await manager.select('[data-field=finerId]', 'for the school')
  await manager.sees('It may be issued to an order; it counts for planning.')
  await manager.fill('[data-field=finerReason] input', 'x')
  await manager.press('Enter')
  await manager.sees(/at least 3 characters/)
  await manager.fill('[data-field=finerReason] input', 'taken to the school')
  await manager.press('Enter')
  await manager.sees('Restricted: for the school')
  expect(await manager.textOf('[data-test=finer]')).toMatch(/for the school \d+ released/)
  const offered = await clerk.call(run.listPickable, { query: { q: free?.code ?? '' } })
  expect(offered.rows.map(({ placeId }) => placeId)).not.toContain(free?.placeId)
  await press(manager, '[data-test=give-finer]')
  await manager.select('[data-field=finerId]', 'take it off')
  await manager.fill('[data-field=finerReason] input', 'not after all')
  await manager.press('Enter')
  await manager.sees('Restriction ended: for the school')
  expect([...engineer.problems, ...manager.problems]).toEqual([])
})
