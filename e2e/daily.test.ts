import { endpoints } from '@nemawashi/contract'
import { password } from '@nemawashi/demo'
import { beforeAll, describe, expect, it } from 'vitest'
import { Hand } from './hand'
import { press, standing } from './stand'

const { define, attach, run, record } = endpoints
const stand = standing()
const { api, plant, chromium } = stand
const hands: Record<string, Hand> = {}
/** Everybody sits at one place for the whole of this file. */
async function sit(signInName: string): Promise<Hand> {
  return (hands[signInName] ??= await stand.sit(signInName))
}
const idOf = async (list: typeof define.families.list, q: string) =>
  ((await (await api('ilse')).call(list, { query: { q } })).rows[0] as { id: string }).id

/** What the day has brought differs with its hour, and so does what is asked together: these come now, and ask what nothing else asks. */
let bars = ''
let tooSoft = ''
const deliver = async (supplier: string, part: string, orderNumber: string) => {
  const [supplierId, partId] = [await idOf(define.partners.list as never, supplier), await idOf(define.parts.list as never, part)]
  const lines = [{ partId, supplierLot: orderNumber, quantity: 60, containers: [] }]
  return (await (await api('dario')).call(run.receiveDelivery, { body: { supplierId, orderNumber, lines } })).lots[0]?.inspections ?? []
}
beforeAll(async () => {
  const engineer = await api('ilse')
  const characteristicId = await idOf(define.listCharacteristics as never, 'C-TURN')
  const lines = [{ characteristicId, sampling: { kind: 'fixedNumber' as const, sampleSize: 6, accept: 0 }, isRequired: true, isDecisive: false }]
  const plan = await engineer.call(define.createPlan, { body: { code: 'RP-79', name: 'Bars that turn', lines } })
  await engineer.call(define.releasePlan, { params: { id: plan.id }, body: { version: plan.version } })
  const { rows } = await engineer.call(attach.listControlPoints, { query: { q: 'RP-02' } })
  const partId = await idOf(define.parts.list as never, 'BS-STEEL-10')
  const hung = {
    operationId: rows[0]?.operationId ?? '',
    planId: plan.id,
    partId,
    familyId: null,
    supplierId: null,
    holdPlaceId: null,
    isGate: false,
  }
  const point = await engineer.call(attach.createControlPoint, { body: hung })
  bars = (await deliver('Hollin Brook', 'BS-STEEL-10', 'BARS')).find(({ planName }) => planName === 'Bars that turn')?.id ?? ''
  await engineer.call(attach.retireControlPoint, { params: { id: point.id }, body: { version: point.version } })
  // One lot that is not acceptable, all of it in one place.
  tooSoft = (await deliver('Elder Bank', 'SD-26', 'SOFT')).find(({ planName }) => planName === 'Side plates')?.id ?? ''
  const inspector = await api('rosa')
  const params = { id: tooSoft }
  const { lines: asked } = await inspector.call(record.getInspection, { params })
  const readings = asked.flatMap((line, at) =>
    Array.from({ length: line.sampleSize }, (_, i) => {
      const good = line.kind === 'measured' ? (line.nominal ?? line.lower) : line.kind === 'judged' ? 'O' : '0'
      const isBad = at === 0 && i < 3
      const reading = { id: crypto.randomUUID(), lineId: line.id, piece: i + 1, typedAt: new Date().toISOString(), corrects: null }
      return { ...reading, value: isBad && line.kind === 'measured' ? '9.99' : good, isConfirmedOutside: isBad }
    }),
  )
  const { version } = await inspector.call(record.recordReadings, { params, body: { readings } })
  await inspector.call(record.finishInspection, { params, body: { version } })
})

describe('an engineer', () => {
  it('revises a released characteristic, and the plans that ask for it follow', async () => {
    const hand = await sit('ilse')
    await hand.open(`/define/characteristics/${await idOf(define.listCharacteristics as never, 'C-PINL')}`)
    await hand.sees(/revision 1\s+released/)
    expect(await hand.page.$('[data-field=tolerance]')).toBeNull()
    await press(hand, '[data-test=revise]')
    await hand.sees(/revision 2\s+draft/)
    await hand.fill('[data-field=tolerance]', '22 +0.12/-0.08')
    await hand.sees('Conforms from 21.92 to 22.12 mm')
    await press(hand, 'button[type=submit]')
    await hand.sees('Saved C-PINL as a draft')
    await press(hand, '[data-test=release]')
    await hand.sees('What is released is not edited any more')
    await hand.confirm()
    await hand.sees('C-PINL released')
    await hand.open(`/define/plans/${await idOf(define.listPlans as never, 'RP-41')}`)
    await hand.reach('[data-line="1"]')
    await hand.press('Enter')
    await hand.sees('Follows the library: revision 2 now')
  })

  it('cannot retire a plan that hangs on a control point, and is told on which', async () => {
    const hand = await sit('ilse')
    await hand.open(`/define/plans/${await idOf(define.listPlans as never, 'RP-81')}`)
    await press(hand, '[data-test=retire]')
    await hand.confirm()
    await hand.sees(/RP-81 hangs on CP-\d+: deliveries would arrive unchecked/)
  })

  it('sees for which supplier a point opens, makes it narrower, and retires it', async () => {
    const hand = await sit('ilse')
    await hand.open(`/attach/${await idOf(define.parts.list as never, 'BS-STEEL-10')}`)
    await hand.sees('Steel bars, every bar by eye')
    await hand.pick('[data-field=asPartner]', 'Marrow Vale')
    await hand.sees(/does not open: only for Hollin Brook Steel/)
    const points = await hand.page.$$eval('.tag', (tags) => tags.length)
    await hand.page.evaluate(() =>
      [...document.querySelectorAll<HTMLElement>('button.tag')].find((tag) => tag.innerText.includes('every bar by eye'))?.focus(),
    )
    await hand.press('Enter')
    await hand.sees(/Control point CP-\d+/)
    await press(hand, '[data-test=retire]')
    await hand.sees(/From now on .* is no longer inspected at/)
    await hand.confirm()
    await hand.sees(/is retired. Inspections that are open go on/)
    expect(await hand.page.$$eval('.tag', (tags) => tags.length)).toBe(points - 1)
    const { rows } = await (await api('ilse')).call(attach.listControlPoints, { query: { state: 'retired', q: 'RP-02' } })
    expect(rows).toMatchObject([{ planCode: 'RP-02' }])
  })

  it('is told what is wrong in a form while it is typed, and not before', async () => {
    const hand = await sit('ilse')
    await hand.open('/define/families/new')
    await hand.page.waitForSelector('[data-field=code] input')
    expect(await hand.page.$$('[data-field] .v-messages__message')).toHaveLength(0)
    await hand.fill('[data-field=code] input', '?')
    await hand.press('Tab')
    await hand.sees(/letters, digits/)
    await hand.fill('[data-field=code] input', 'FAM-77')
    await hand.page.waitForFunction(() => document.querySelector('[data-field=code] .v-messages__message') === null)
    await hand.fill('[data-field=code] input', '')
  })

  it('drags a line of a plan, and a plan on to the receiving stop, with the mouse', async () => {
    const hand = await sit('ilse')
    const { page } = hand
    await hand.open(`/define/plans/${await idOf(define.listPlans as never, 'RP-51')}`)
    await press(hand, '[data-test=revise]')
    await hand.sees(/revision 2\s+draft/)
    const names = () => page.$$eval('.line b', (list) => list.map((name) => name.textContent))
    const drag = async (from: string, to: string) => {
      const [source, target] = [await page.waitForSelector(from), await page.waitForSelector(to)]
      await page.evaluate(
        (a, b) => {
          const dataTransfer = new DataTransfer()
          a?.dispatchEvent(new DragEvent('dragstart', { bubbles: true, dataTransfer }))
          b?.dispatchEvent(new DragEvent('dragover', { bubbles: true, cancelable: true, dataTransfer }))
          b?.dispatchEvent(new DragEvent('drop', { bubbles: true, cancelable: true, dataTransfer }))
          a?.dispatchEvent(new DragEvent('dragend', { bubbles: true, dataTransfer }))
        },
        source,
        target,
      )
    }
    expect(await names()).toEqual(['Bore 8', 'Turns freely'])
    await drag('.line:nth-child(2)', '.line:nth-child(1)')
    expect(await names()).toEqual(['Turns freely', 'Bore 8'])
    await hand.open(`/attach/${await idOf(define.parts.list as never, 'BX-02')}`)
    await hand.sees('Nothing is checked here')
    await page.waitForSelector('.plan')
    await drag('.plan', '[data-stop]')
    await hand.sees('Attach a plan')
    await hand.page.waitForFunction(() => (document.querySelector<HTMLInputElement>('[data-field=planId] input')?.value ?? '') !== '')
    await press(hand, 'button[type=submit]')
    await hand.sees(/hangs at Receiving/)
  })

  it('drags a line of a plan with a finger, which has to be held for a moment', async () => {
    const finger = await Hand.at(chromium().browser, plant().base)
    const { page } = finger
    await page.setViewport({ width: 1180, height: 820, hasTouch: true })
    await finger.signIn('ilse', password)
    await finger.open(`/define/plans/${await idOf(define.listPlans as never, 'RP-51')}`)
    const names = () => page.$$eval('.line b', (list) => list.map((name) => name.textContent))
    // The draft that was begun with the mouse.
    await page.waitForSelector('.line[draggable=true]')
    const before = await names()
    const at = async (i: number) => {
      const box = await (await page.waitForSelector(`.line:nth-child(${i}) .grow`))?.boundingBox()
      return { x: (box?.x ?? 0) + 20, y: (box?.y ?? 0) + (box?.height ?? 0) / 2 }
    }
    const [from, to] = [await at(1), await at(2)]
    const glass = await page.createCDPSession()
    const touch = (type: 'touchStart' | 'touchMove' | 'touchEnd', ...touchPoints: { x: number; y: number }[]) =>
      glass.send('Input.dispatchTouchEvent', { type, touchPoints })
    // What follows at once is sent at once: on a slow machine, waiting for each answer would be holding it.
    const wipe = async (waitMs: number) => {
      const begun = touch('touchStart', from)
      if (waitMs > 0) await begun.then(() => new Promise((resolve) => setTimeout(resolve, waitMs)))
      const moves = [1, 2, 3, 4, 5].map((i) => touch('touchMove', { x: from.x + 2 * i, y: from.y + ((to.y - from.y) * i) / 5 }))
      await Promise.all([begun, ...moves, touch('touchEnd')])
    }
    await wipe(0)
    expect(await names()).toEqual(before)
    await wipe(600)
    await page.waitForFunction((first) => document.querySelector('.line b')?.textContent !== first, {}, before[0])
    expect((await names()).slice(0, 2)).toEqual([before[1], before[0]])
    expect(finger.problems).toEqual([])
  })
})

describe('a clerk', () => {
  it('is told when a quantity cannot be, keeps what was typed, and books it in with the corrected one', async () => {
    const hand = await sit('dario')
    await hand.open('/run/new')
    await hand.pick('[data-field=supplierId]', 'Saltmere')
    await hand.fill('[data-field=orderNumber]', '9001')
    await hand.pick('[data-field=partId]', 'LB-01')
    await hand.fill('[data-field=supplierLot]', 'A1')
    await hand.fill('[data-field=quantity]', '0')
    await hand.press('Enter')
    await hand.sees('Received a quantity of 0. It is a whole number from 1 to 1000000000')
    await hand.fill('[data-field=quantity]', '500')
    await hand.press('Enter')
    await hand.sees('Take all of it to Inspection bay 2')
    await hand.sees('always 5 pieces, Ac 0')
  })
})

describe('an inspector', () => {
  it('says of all pieces that are left of a judged line that they conform, once asked', async () => {
    const inspector = await api('rosa')
    const id = bars
    const { lines } = await inspector.call(record.getInspection, { params: { id } })
    const hand = await sit('rosa')
    await hand.open(`/record/${id}`)
    await hand.page.waitForFunction(() => document.activeElement?.closest('.entry') != null)
    await hand.press('x')
    await press(hand, '[data-test=rest-conforms]')
    await hand.sees(`Do ${(lines[0]?.sampleSize ?? 0) - 1} pieces conform?`)
    await hand.confirm()
    await expect
      .poll(
        async () => (await inspector.call(record.getInspection, { params: { id } })).readings.filter(({ mark }) => mark === 'conforming').length,
        {
          timeout: 20_000,
        },
      )
      .toBe((lines[0]?.sampleSize ?? 0) - 1)
  })

  it('finds the work in the queue, corrects an answer, withdraws another, and both earlier ones are kept', async () => {
    const hand = await sit('rosa')
    await hand.open('/record?tab=started')
    await hand.sees('Started')
    await hand.page.waitForSelector('tbody tr')
    await hand.open('/record')
    await hand.fill('input.filter', 'Side plates')
    await hand.page.waitForFunction(() => document.querySelectorAll('tbody tr').length === 1 || location.search.includes('q='))
    await hand.press('Escape')
    // What the day has brought differs with its hour: the plates come now.
    const [supplierId, partId] = [await idOf(define.partners.list as never, 'Elder Bank'), await idOf(define.parts.list as never, 'SD-26')]
    const lines = [{ partId, supplierLot: 'SIDE-1', quantity: 60, containers: [] }]
    const { lots } = await (await api('dario')).call(run.receiveDelivery, { body: { supplierId, orderNumber: 'SIDE', lines } })
    const id = lots[0]?.inspections.find(({ planName }) => planName === 'Side plates')?.id ?? ''
    await hand.open(`/record/${id}`)
    await hand.page.waitForSelector('input.big:focus')
    for (const value of ['3.00', '3.01']) {
      await hand.type(value)
      await hand.press('Enter')
    }
    await hand.press('ArrowUp', 'ArrowUp')
    await hand.sees('holds 3.00; a new value corrects it, both are kept')
    await hand.type('2.99')
    await hand.press('Enter')
    await hand.press('ArrowUp')
    await hand.sees('holds 3.01')
    await hand.press('Delete')
    await hand.sees('Everything typed is stored')
    const found = (await (await api('rosa')).call(record.getInspection, { params: { id } })).readings
    expect(found.map(({ piece, value, corrections }) => [piece, value, corrections])).toEqual([
      [1, '2.99', 1],
      [2, null, 1],
    ])
  })

  it('takes a finished inspection back to the bench with a reason, which stands in the audit chain', async () => {
    const hand = await sit('rosa')
    const { rows } = await (await api('rosa')).call(record.listInspections, { query: { state: 'deciding' } })
    await hand.open(`/record/${rows[0]?.id}`)
    await press(hand, '[data-test=reopen]')
    await hand.confirm('wrong fixture used')
    await hand.sees('Finding so far')
    const { rows: chain } = await (await api('jun')).call(endpoints.people.listAudit, { query: { q: 'wrong fixture' } })
    expect(chain).toMatchObject([{ action: 'reopened', personName: 'Rosa Lindqvist', why: 'wrong fixture used' }])
    await hand.chord('Control', 'Enter')
    await hand.sees(/is finished: /)
  })
})

describe('a manager', () => {
  it('is told what the decision does, and needs a reason for a concession', async () => {
    const hand = await sit('anja')
    await hand.open(`/contain/${tooSoft}`)
    await hand.select('[data-field=disposition0]', 'use as is')
    await press(hand, '[data-test=decide]')
    // Everything is checked before the password is asked for.
    await hand.sees(/"use as is \(concession\)" needs a reason/)
    expect(await hand.page.$('input[name=seal-password]')).toBeNull()
    await hand.fill('[data-field=reason0]', 'agreed with design')
    await press(hand, '[data-test=decide]')
    await hand.fill('input[name=seal-password]', password)
    await hand.press('Enter')
    await hand.sees('Decided and sealed: ')
  })
})

describe('everybody', () => {
  it('begins with what the day holds', async () => {
    const hand = await sit('tomek')
    await hand.open('/today')
    await hand.sees(/inspections for the bench/)
    await hand.sees('Lots held, by how long')
    await hand.reach('.entry')
    await hand.press('Enter')
    await hand.page.waitForSelector('.bench')
  })

  it('chooses the columns of a list, and finds them again', async () => {
    const hand = await sit('tomek')
    await hand.open('/run')
    await hand.page.waitForSelector('tbody tr')
    expect(await hand.page.$$eval('th', (heads) => heads.length)).toBe(4)
    await hand.menu('[data-test=columns]', '.v-overlay--active input[type=checkbox]')
    await hand.press('Space')
    await hand.page.waitForFunction(() => document.querySelectorAll('th').length === 5)
    await hand.page.reload()
    await hand.page.waitForSelector('tbody tr')
    expect(await hand.page.$$eval('th', (heads) => heads.length)).toBe(5)
  })

  it('who signs out is out, and comes back to where they wanted to be', async () => {
    const hand = await Hand.at(chromium().browser, plant().base)
    await hand.open('/trace')
    await hand.page.waitForSelector('[data-person=jun]')
    expect(new URL(hand.page.url()).searchParams.get('then')).toBe('/trace')
    await press(hand, '[data-person=jun]')
    await hand.sees('Passports')
    expect(new URL(hand.page.url()).pathname).toBe('/trace')
    expect((await (await api('jun')).call(run.listDeliveries, {})).total).toBeGreaterThan(60)
  })

  it('leaves no error behind in any browser', () => {
    expect(Object.values(hands).flatMap((hand) => hand.problems)).toEqual([])
  })
})
