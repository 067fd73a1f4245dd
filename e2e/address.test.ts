import { endpoints } from '@nemawashi/contract'
import { ApiClient } from '@nemawashi/contract/client'
import { password } from '@nemawashi/demo'
import type { HTTPRequest } from 'puppeteer-core'
import { describe, expect, it } from 'vitest'
import { launch } from './browser'
import { Hand } from './hand'
import { Installation } from './installation'
import { softBars } from './mainViews'
import { press, standing } from './stand'

const { define, people, record, run, trace } = endpoints
const { api, sit, plant, chromium } = standing()
const pathOf = (hand: Hand) => new URL(hand.page.url()).pathname
const toDo = async () => (await (await api('rosa')).call(record.listInspections, { query: { state: 'toDo', sort: 'asked', dir: 'asc' } })).rows
const readingsOf = async (id: string) => (await (await api('rosa')).call(record.getInspection, { params: { id } })).readings

describe('the address says what a page is about', () => {
  it('from bench to bench, by search, Back and Forward: what is typed goes to the inspection that is shown', async () => {
    const [first, second] = (await toDo()) as unknown as [{ id: string; code: string }, { id: string; code: string }]
    const hand = await sit('rosa', `/record/${first.id}`)
    await hand.sees(first.code)
    await hand.chord('Control', 'k')
    await hand.type(second.code)
    await hand.page.waitForFunction((code) => document.querySelector('[role=listbox], .find ul')?.textContent?.includes(code), {}, second.code)
    await hand.press('Enter')
    await hand.sees(new RegExp(`${second.code}, (lot|load)`))
    expect(pathOf(hand)).toBe(`/record/${second.id}`)
    await hand.page.goBack()
    await hand.sees(new RegExp(`${first.code}, (lot|load)`))
    await hand.page.goForward()
    await hand.sees(new RegExp(`${second.code}, (lot|load)`))
    await hand.page.waitForFunction(() => document.activeElement?.closest('.entry') != null)
    const detail = await (await api('rosa')).call(record.getInspection, { params: { id: second.id } })
    const line = detail.lines[0]
    await hand.type(
      line?.kind === 'measured'
        ? ((Number(line.lower ?? line.upper) + Number(line.upper ?? line.lower)) / 2).toFixed(line.resolution?.split('.')[1]?.length ?? 0)
        : 'O',
    )
    if (line?.kind === 'measured') await hand.press('Enter')
    await hand.sees('Everything typed is stored')
    await expect.poll(async () => (await readingsOf(second.id)).length).toBe(1)
    expect(await readingsOf(first.id)).toEqual([])
  })

  /** Answers of the server come in the order that the test says. */
  async function held(hand: Hand): Promise<(path: string) => Promise<void>> {
    const waiting: HTTPRequest[] = []
    await hand.page.setRequestInterception(true)
    hand.page.on('request', (request) => {
      if (/\/api\/v1\/(people|families|parts|characteristics|plans|lots|deliveries|inspections)\/[\da-f-]{36}/.test(request.url()))
        waiting.push(request)
      else void request.continue()
    })
    return async (path) => {
      const find = () => waiting.findIndex((request) => request.url().includes(path))
      await expect.poll(find, { timeout: 20_000 }).toBeGreaterThanOrEqual(0)
      for (let at = find(); at >= 0; at = find())
        await waiting
          .splice(at, 1)[0]
          ?.continue()
          .catch(() => undefined)
    }
  }

  it.each([
    ['people', '/people/', people.listPeople, 'mirela'],
    ['families', '/define/families/', define.families.list, 'ilse'],
    ['parts', '/attach/', define.parts.list, 'ilse'],
    ['characteristics', '/define/characteristics/', define.listCharacteristics, 'ilse'],
    ['plans', '/define/plans/', define.listPlans, 'ilse'],
    ['lots', '/trace/', trace.listLots, 'jun'],
    ['deliveries', '/run/', run.listDeliveries, 'dario'],
  ] as const)('and a late answer never stands under the address of another: %s', async (_what, path, list, who) => {
    const { rows } = await (await api('ilse')).call(list as typeof people.listPeople, { query: { limit: 2 } })
    const [a, b] = rows.map((row) => ({ id: row.id, name: row.name ?? (row as unknown as { code: string }).code })) as [
      { id: string; name: string },
      { id: string; name: string },
    ]
    const hand = await sit(who)
    await hand.open(path)
    // Both rows, not only some: a click on what is not there yet would say nothing.
    for (const { id } of [a, b]) await hand.page.waitForSelector(`[data-id="${id}"] a`)
    const letGo = await held(hand)
    const step = (id: string) => hand.ask(`[data-id="${id}"] a`, (link) => (link as HTMLElement).click())
    await step(a.id)
    await step(b.id)
    await letGo(b.id)
    await hand.page.waitForFunction((name) => document.querySelector('.right h1')?.textContent?.includes(name), {}, b.name)
    await letGo(a.id).catch(() => undefined)
    await new Promise((resolve) => setTimeout(resolve, 400))
    expect(await hand.textOf('.right h1')).toContain(b.name)
    expect(pathOf(hand)).toContain(b.id)
  })

  it('and a new record stands there at once after it was saved', async () => {
    const hand = await sit('ilse', '/define/families/new')
    await hand.fill('[data-field=code]', 'FRESH')
    await hand.fill('[data-field=name]', 'Fresh family')
    await press(hand, 'button[type=submit]')
    await hand.sees('Saved FRESH')
    await hand.page.waitForFunction(() => document.querySelector('.right h1')?.textContent === 'FRESH Fresh family')
    expect(pathOf(hand)).toMatch(/\/define\/families\/[\da-f-]{36}$/)
  })
})

describe('unsaved work', () => {
  it('is asked about on the menu, on Back and on reload, and stays when one stays', async () => {
    const hand = await sit('ilse', '/define/families')
    await press(hand, '[data-test=new]')
    await hand.fill('[data-field=code]', 'LOSE')
    await press(hand, 'nav.rail a[href="/attach"]')
    await hand.sees('Leave without saving?')
    await press(hand, '[data-test=ask-no]')
    await hand.page.waitForSelector('[data-test=ask-yes]', { hidden: true })
    expect(await hand.valueOf('[data-field=code] input')).toBe('LOSE')
    await hand.page.evaluate(() => history.back())
    await hand.sees('Leave without saving?')
    await press(hand, '[data-test=ask-no]')
    await hand.page.waitForSelector('[data-test=ask-yes]', { hidden: true })
    expect(hand.askedOnLeaving).toBe(0)
    await hand.page.reload()
    expect(hand.askedOnLeaving).toBe(1)
    await hand.fill('[data-field=code]', 'LOSE')
    await press(hand, 'nav.rail a[href="/attach"]')
    await hand.confirm()
    await hand.page.waitForFunction(() => location.pathname === '/attach')
  })
})

describe('one browser at a shared bench', () => {
  it('signs out to the sign-in page, without a question that cannot be left', async () => {
    const hand = await sit('rosa', '/record')
    await hand.page.waitForSelector('tbody tr')
    await hand.menu('.me', '.v-list-item:last-child')
    await hand.press('Enter')
    await hand.page.waitForSelector('input[name=username]')
    await new Promise((resolve) => setTimeout(resolve, 500))
    expect(await hand.page.evaluate(() => document.body.innerText)).not.toContain('Your session has ended')
  })

  it('keeps what one person typed for that person, while somebody else signs in and works', async () => {
    const [inspection] = await (async () => {
      const { rows } = await (await api('rosa')).call(record.listInspections, { query: { state: 'toDo', q: 'Side plates' } })
      return rows.length > 0 ? rows : await toDo()
    })()
    const id = inspection?.id ?? ''
    const hand = await sit('rosa', `/record/${id}`)
    await hand.page.waitForFunction(() => document.activeElement?.closest('.entry') != null)
    const before = (await readingsOf(id)).length
    await hand.page.evaluate(() => fetch('/api/v1/session', { method: 'DELETE' }))
    const { lines } = await (await api('rosa')).call(record.getInspection, { params: { id } })
    const line = lines[0]
    await hand.type(
      line?.kind === 'measured' ? ((Number(line.lower) + Number(line.upper)) / 2).toFixed(line.resolution?.split('.')[1]?.length ?? 0) : 'O',
    )
    if (line?.kind === 'measured') await hand.press('Enter')
    await hand.sees('Your session has ended')
    await press(hand, '[data-test=somebody-else]')
    await hand.page.waitForSelector('input[name=username]:not([readonly])')
    await hand.fill('input[name=username]', 'ilse')
    await hand.fill('input[name=password]', password)
    await hand.press('Enter')
    await hand.sees('of somebody else wait here')
    expect((await readingsOf(id)).length).toBe(before)
    await hand.signIn('rosa', password)
    await expect.poll(async () => (await readingsOf(id)).length, { timeout: 20_000 }).toBe(before + 1)
    expect((await readingsOf(id)).map(({ recordedByName }) => recordedByName)).toContain('Rosa Lindqvist')
  })

  it('sends nothing under another name that signed in in a second tab', async () => {
    const hand = await sit('rosa')
    const [inspection] = await toDo()
    await hand.open(`/record/${inspection?.id}`)
    await hand.page.waitForFunction(() => document.activeElement?.closest('.entry') != null)
    await hand.page.evaluate(
      (word) =>
        fetch('/api/v1/session', {
          method: 'POST',
          headers: { 'content-type': 'application/json' },
          body: JSON.stringify({ signInName: 'tomek', password: word }),
        }),
      password,
    )
    const { lines } = await (await api('rosa')).call(record.getInspection, { params: { id: inspection?.id ?? '' } })
    const line = lines[0]
    await hand.type(
      line?.kind === 'measured'
        ? ((Number(line.lower ?? line.upper) + Number(line.upper ?? line.lower)) / 2).toFixed(line.resolution?.split('.')[1]?.length ?? 0)
        : 'O',
    )
    if (line?.kind === 'measured') await hand.press('Enter')
    await hand.sees('No connection: 1 kept here')
    expect((await readingsOf(inspection?.id ?? '')).map(({ recordedByName }) => recordedByName)).toEqual([])
  })
})

describe('what was decided', () => {
  it('is decided anew: everything is checked first, the seal says what happens, and the passport tells it', async () => {
    const held = (await (await api('anja')).call(endpoints.contain.listHeld, { query: { limit: 50 } })).rows.find(
      ({ waitsFor }) => waitsFor === 'decisionAnew',
    )
    const hand = await sit('anja', '/contain')
    await hand.open(`/contain/lot/${held?.lotId}`)
    await hand.page.waitForSelector('[data-test=again]')
    await hand.fill('[data-field=again-quantity0]', '5')
    await press(hand, '[data-test=decide-again]')
    await hand.sees('needs a reason')
    expect(await hand.page.$('input[name=seal-password]')).toBeNull()
    await hand.fill('[data-field=again-reason0]', 'agreed with design')
    await press(hand, '[data-test=decide-again]')
    await hand.page.waitForSelector('input[name=seal-password]')
    expect(await hand.textOf('[role=dialog]')).toMatch(/L-\d{6}[^]*5 pieces|5 bars/)
    await hand.fill('input[name=seal-password]', password)
    await hand.press('Enter')
    await hand.sees('Decided anew and sealed')
    const passport = await (await api('jun')).call(trace.getPassport, { params: { id: held?.lotId ?? '' } })
    expect(passport.events.at(-1)).toMatchObject({ kind: 'decidedAgain', byName: 'Anja Moreau' })
    await hand.open(`/trace/${held?.lotId}`)
    await hand.sees('Decided anew: ')
    const pdf = await hand.page.evaluate(
      async (id) => (await (await fetch(`/api/v1/lots/${id}/passport.pdf`)).arrayBuffer()).byteLength,
      held?.lotId ?? '',
    )
    expect(pdf).toBeGreaterThan(5000)
  })

  it('was opened by mistake: an inspection is cancelled with a reason and frees what only it held', async () => {
    const inspection = (await toDo()).find(({ isGate }) => isGate)
    const hand = await sit('anja', `/record/${inspection?.id}`)
    await press(hand, '[data-test=cancel]')
    await hand.sees(/on hold become free|stays so for/)
    await hand.confirm('the same delivery twice')
    await hand.sees('is cancelled')
    await hand.sees('Cancelled')
    expect(await (await api('anja')).call(record.getInspection, { params: { id: inspection?.id ?? '' } })).toMatchObject({
      state: 'cancelled',
      cancelReason: 'the same delivery twice',
    })
  })
})

describe('a delivery that is entered twice', () => {
  it('is asked about before it is booked in', async () => {
    const clerk = await api('dario')
    const [supplier] = (await clerk.call(define.partners.list, { query: { q: 'Saltmere' } })).rows as { id: string }[]
    const [part] = (await clerk.call(define.parts.list, { query: { q: 'LB-01' } })).rows as { id: string }[]
    await clerk.call(run.receiveDelivery, {
      body: {
        supplierId: supplier?.id ?? '',
        orderNumber: '7777',
        lines: [{ partId: part?.id ?? '', supplierLot: 'TWICE', quantity: 50, containers: [] }],
      },
    })
    const hand = await sit('dario', '/run/new')
    await hand.pick('[data-field=supplierId]', 'Saltmere')
    await hand.fill('[data-field=orderNumber]', '7777')
    await hand.pick('[data-field=partId]', 'LB-01')
    await hand.fill('[data-field=supplierLot]', 'TWICE')
    await hand.fill('[data-field=quantity]', '50')
    await hand.press('Enter')
    await hand.sees('Has it come once more?')
    await hand.sees(/was received before, as L-\d+/)
    await hand.confirm()
    await hand.sees('Take all of it to')
  })
})

describe('an auditor', () => {
  it('finds a lot by its number, sees who did what, what differed field by field, and opens it', async () => {
    const hand = await sit('jun', '/people/audit')
    const { lotCode } = await softBars(await api('jun'))
    await hand.fill('input.filter', lotCode)
    await hand.page.waitForFunction(
      (code) => {
        const rows = [...document.querySelectorAll('tbody tr')]
        return rows.length > 0 && rows.every((row) => row.textContent?.includes(code))
      },
      {},
      lotCode,
    )
    await hand.reach('tbody tr a')
    await hand.press('Enter')
    await hand.page.waitForSelector('[data-test=entry] td.value')
    await press(hand, '[data-test=to-subject]')
    await hand.sees(`Lot ${lotCode}`)
    expect(pathOf(hand)).toMatch(/^\/trace\//)
  })
})

describe('over plain HTTP under a name of its own', () => {
  it('the page is there, says what plain HTTP means, and stores what is changed', async () => {
    const named = await launch(['--host-resolver-rules=MAP plant.test 127.0.0.1'])
    try {
      const base = plant().base.replace('127.0.0.1', 'plant.test')
      const hand = await Hand.at(named.browser, base)
      await hand.open('/sign-in')
      await hand.sees('This server speaks plain HTTP')
      await hand.signIn('ilse', password)
      await hand.open('/define/families/new')
      await hand.fill('[data-field=code]', 'PLAIN')
      await hand.fill('[data-field=name]', 'Over plain HTTP')
      await press(hand, 'button[type=submit]')
      await hand.sees('Saved PLAIN')
      expect(hand.problems).toEqual([])
    } finally {
      await named.close()
    }
  })
})

describe('an empty plant', () => {
  it('says what to do first, in order, and ticks it off', async () => {
    const empty = await Installation.start()
    try {
      const client = new ApiClient(empty.base)
      await client.call(people.createFirstAdministrator, {
        body: { code: empty.code, name: 'Ada Minister', initials: 'AM', signInName: 'ada', password: 'a-long-password' },
      })
      const hand = await Hand.at(chromium().browser, empty.base)
      await hand.signIn('ada', 'a-long-password')
      await hand.sees('First steps')
      await press(hand, '[data-test=first-steps] a[href="/define/places/new"]')
      await hand.sees('New place')
      await hand.fill('[data-field=code]', 'DOCK')
      await hand.fill('[data-field=name]', 'Dock')
      await hand.select('[data-field=purpose]', 'dock')
      await press(hand, 'button[type=submit]')
      await hand.sees('Saved DOCK')
      await client.call(define.partners.create, { body: { code: 'S', name: 'Supplier', kind: 'supplier', isActive: true } as never })
      await hand.open('/today')
      await hand.sees('still without: inspection, store, quarantine, scrap, outside')
      expect(await hand.page.$$eval('[data-test=first-steps] li.done', (steps) => steps.map((step) => step.querySelector('a')?.textContent))).toEqual(
        ['Enter a supplier'],
      )
    } finally {
      await empty.remove()
    }
  })
})
