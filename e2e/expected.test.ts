import { writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { endpoints } from '@nemawashi/contract'
import type { ElementHandle } from 'puppeteer-core'
import { describe, expect, it } from 'vitest'
import { codeIn, press, standing } from './stand'

const { people, record, run } = endpoints
const { api, sit, arrive, decide, hang, partId, plant } = standing()
const once = { kind: 'everyPiece', accept: 0 } as const

describe('a delivery before its receipt', () => {
  it('is ordered, announced and registered; a gate at the dock keeps it out until it is looked at; then it fills its order', async () => {
    const takeOff = await hang('PL-DOCK', 'Label rolls at the dock', 'LB-01', { subject: 'load', moment: 'registered' }, once)
    const hand = await sit('dario', '/run/purchase-orders/new')
    await hand.pick('[data-field=supplierId]', 'SMP')
    await hand.fill('[data-field=orderNumber]', 'E-500')
    await hand.fill('[data-field=contract]', 'K-9')
    await hand.pick('[data-line="0"] [data-field=partId]', 'LB-01')
    await hand.fill('[data-line="0"] [data-field=quantity]', '500')
    await press(hand, 'button[type=submit]')
    await hand.sees('Order E-500')
    const order = hand.page.url()
    expect(await hand.textOf('[data-test=lines]')).toMatch(/LB-01[\s\S]*500 pieces\s+0\s+500/)

    await press(hand, '[data-test=announce]')
    await hand.page.waitForFunction(() => document.querySelector<HTMLInputElement>('[data-field=quantity] input')?.value === '500')
    await hand.sees('500 open on the order')
    await hand.fill('[data-field=carrier]', 'Own lorry')
    await press(hand, 'button[type=submit]')
    await hand.sees('Nothing is asked of its load before the receipt')
    const code = /D-\d{6}/.exec(await hand.textOf('h1'))?.[0] ?? ''
    await press(hand, '[data-test=register]')
    await hand.fill('[data-field=seal]', '0815')
    await press(hand, '[data-test=register-form] button[type=submit]')
    await hand.sees('Its receipt waits.')
    await hand.sees(/at the dock \d\d:\d\d, by .* · Own lorry, seal 0815/)
    expect(await hand.isOff('[data-test=receive]')).toBe(true)

    const inspection = codeIn(await hand.textOf('[data-test=gate]'))
    const inspector = await sit('rosa')
    const { rows } = await (await api('rosa')).call(record.listInspections, { query: { q: inspection } })
    await inspector.open(`/record/${rows[0]?.id ?? ''}`)
    await inspector.sees(`The load of ${code}`)
    await inspector.press('o', 'Enter')
    await press(inspector, '[data-test=finish]')
    await inspector.sees('Nothing is left to decide: its goods are not here yet.')

    await hand.page.reload()
    await press(hand, '[data-test=receive]')
    await hand.sees(`${code}, at the dock: filled in from what was announced`)
    await hand.fill('[data-line="0"] [data-field=supplierLot]', 'R-1')
    await hand.fill('[data-line="0"] [data-field=quantity]', '300')
    await press(hand, '[data-line="0"] [data-test=another-lot]')
    await hand.fill('[data-line="1"] [data-field=supplierLot]', 'R-2')
    await hand.fill('[data-line="1"] [data-field=quantity]', '250')
    await hand.sees('50 more than is open')
    await hand.fill('[data-line="1"] [data-field=quantity]', '150')
    await press(hand, 'button[type=submit]')
    await hand.sees(/supplier's lot R-1[\s\S]*supplier's lot R-2/)
    expect(await hand.textOf('h1')).toContain(code)
    await hand.sees('None yet. A certificate or a delivery note')
    const paper = join(plant().folder, 'rolls 0815.pdf')
    writeFileSync(paper, '%PDF-1.4\n% rolls 0815\n')
    const field = (await hand.page.$('[data-field=paper]')) as ElementHandle<HTMLInputElement>
    await field.uploadFile(paper)
    await hand.sees(/rolls 0815\.pdf[\s\S]*supplier's certificate, Dario Petz/)
    await press(hand, 'h2 + a.m, .lot a.m')
    await hand.sees(/Registered at the dock[\s\S]*Supplier's certificate\s+rolls 0815\.pdf/)
    const [delivery] = (await (await api('dario')).call(run.listDeliveries, { query: { q: code } })).rows
    await hand.open(`/run/expected/${delivery?.id ?? ''}`)
    await hand.sees(/500 pieces\s+△ 450 pieces/)
    await hand.open(new URL(order).pathname)
    await hand.sees(/500 pieces\s+450\s+50/)
    expect(await hand.textOf('[data-test=deliveries]')).toContain(code)
    await takeOff()
  })

  it('that fails at the dock comes in on hold, and another one is refused with the reason', async () => {
    const takeOff = await hang('PL-COVER', 'Covered and dry', 'LB-01', { subject: 'load', moment: 'registered' }, once)
    const hand = await sit('dario')
    for (const orderNumber of ['E-501', 'E-502']) {
      await hand.open('/run/expected/new')
      await hand.pick('[data-field=supplierId]', 'SMP')
      await hand.fill('[data-field=orderNumber]', orderNumber)
      await hand.pick('[data-line="0"] [data-field=partId]', 'LB-01')
      await hand.fill('[data-line="0"] [data-field=supplierLot]', `S-${orderNumber}`)
      await hand.fill('[data-line="0"] [data-field=quantity]', '80')
      await hand.reach('[data-field=isHere] input')
      await hand.press('Space')
      await press(hand, 'button[type=submit]')
      await hand.sees('Its receipt waits.')
    }
    await press(hand, '[data-test=turn-away]')
    await hand.confirm('Came to the wrong plant')
    await hand.sees('Refused: Came to the wrong plant')
    expect(await hand.textOf('[data-test=load]')).toContain('cancelled')

    await hand.open('/run/expected')
    await hand.page.waitForSelector('tbody tr')
    await press(hand, 'tbody tr a')
    await hand.sees('order E-501')
    const inspection = codeIn(await hand.textOf('[data-test=gate]'))
    const inspector = await api('rosa')
    const { rows } = await inspector.call(record.listInspections, { query: { q: inspection } })
    const sheet = await sit('rosa', `/record/${rows[0]?.id ?? ''}`)
    await sheet.sees('The load of')
    await sheet.press('x', 'Enter')
    await press(sheet, '[data-test=finish]')
    await sheet.sees('What comes of it is decided once its goods are here, on hold.')
    await hand.page.reload()
    await press(hand, '[data-test=receive]')
    await hand.sees('filled in from what was announced')
    await press(hand, 'button[type=submit]')
    await hand.sees('All that it brought stays on hold')
    expect(await hand.textOf('[data-test=take-to]')).toMatch(/Covered and dry \(I-\d{6}\) waits for a decision/)
    await decide(inspection)
    await hand.page.reload()
    await hand.sees('1 of 2 inspections open')
    expect(await hand.textOf('[data-test=take-to]')).not.toContain('Covered and dry')
    await takeOff()
  })
})

describe('a quick question', () => {
  it('hung by an engineer is answered by the clerk where the goods arrive: yes frees them, no holds them, says what to do and tells the manager', async () => {
    const { rows: named } = await (await api('ilse')).call(people.listPeople, { query: { q: 'Anja' } })
    const told = { advice: 'Call the supplier', tells: named.map(({ id }) => id) }
    const takeOff = await hang('PL-WRAP', 'Wrapping whole', 'LB-01', told, once)
    const engineer = await sit('ilse', `/attach/${await partId('LB-01')}`)
    await engineer.sees('Wrapping whole')
    await engineer.page.$$eval('.tag', (tags) => (tags.find((tag) => tag.textContent?.includes('Wrapping whole')) as HTMLElement).focus())
    await engineer.press('Enter')
    for (const [field, value] of [
      ['whenConforming', 'free'],
      ['answeredAt', 'spot'],
    ]) {
      const radio = `[data-field=${field}] input[value=${value}]`
      await engineer.page.focus(radio)
      await engineer.press('Space')
    }
    await press(engineer, 'form button[type=submit]')
    await engineer.sees('answered on the spot by whoever receives (quick question)')
    await engineer.sees('what is accepted is released at once')

    const hand = await sit('dario')
    for (const [supplierLot, answer] of [
      ['W-1', 'spot-yes'],
      ['W-2', 'spot-no'],
    ] as const) {
      const { id } = await arrive('SMP', 'LB-01', supplierLot)
      await hand.open(`/run/${id}`)
      await hand.sees('Wrapping whole')
      await hand.page.waitForSelector(`[data-test=${answer}]`)
      await hand.page.focus(`[data-test=${answer}]`)
      await hand.press('Space')
      await press(hand, '[data-test=answer]')
      if (answer === 'spot-no') await hand.sees(/I-\d{6} is not acceptable\. Call the supplier/)
      else await hand.sees(/I-\d{6} is answered: acceptable\./)
      await hand.page.waitForSelector('[data-test=spot]', { hidden: true })
      await hand.sees(answer === 'spot-no' ? /Wrapping whole \(I-\d{6}\) waits for a decision/ : '1 of 2 inspections open')
    }
    const manager = await sit('anja', '/today')
    await manager.sees(/You are told\s+1\s+[\s\S]*Wrapping whole[\s\S]*Call the supplier/)
    await manager.page.$$eval('.entry', (entries) => (entries.find((entry) => entry.textContent?.includes('Wrapping whole')) as HTMLElement).focus())
    await manager.press('Enter')
    await manager.sees('What to do now:')
    await manager.open('/today')
    await manager.sees('Waits for a decision')
    expect(await manager.textOf('main, .today')).not.toContain('You are told')
    await takeOff()
  })
})
