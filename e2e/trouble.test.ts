import { endpoints } from '@nemawashi/contract'
import { ApiClient } from '@nemawashi/contract/client'
import { password } from '@nemawashi/demo'
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest'
import { launch } from './browser'
import { Hand } from './hand'
import { demoFolder, Installation, withClock } from './installation'
import { softBars } from './mainViews'

let installation: Installation
let chromium: Awaited<ReturnType<typeof launch>>
let api: ApiClient

beforeAll(async () => {
  installation = await Installation.start(demoFolder())
  chromium = await launch()
  api = await signedIn('rosa')
})
afterAll(async () => {
  await chromium.close()
  await installation.remove()
})
async function signedIn(signInName: string): Promise<ApiClient> {
  const client = new ApiClient(installation.base)
  await client.call(endpoints.people.signIn, { body: { signInName, password } })
  return client
}
async function sit(signInName: string, path = '/'): Promise<Hand> {
  const hand = await Hand.at(chromium.browser, installation.base)
  await hand.comeIn(signInName, password, path)
  return hand
}
const idOf = async (list: typeof endpoints.define.families.list, q: string) => ((await api.call(list, { query: { q } })).rows[0] as { id: string }).id
/** The first inspection of a delivery that just arrived: its first line is measured and untouched; with the middle of its tolerance. */
async function freshInspection(part: string, supplier: string, plan: string) {
  const { define, run } = endpoints
  const body = {
    supplierId: await idOf(define.partners.list as never, supplier),
    orderNumber: '9001',
    lines: [{ partId: await idOf(define.parts.list as never, part), supplierLot: 'T-1', quantity: 200, containers: [] }],
  }
  const delivery = await (await signedIn('dario')).call(run.receiveDelivery, { body })
  const opened = delivery.lots[0]?.inspections.find((entry) => entry.planName.startsWith(plan))
  const inspection = await api.call(endpoints.record.getInspection, { params: { id: opened?.id ?? '' } })
  const line = inspection.lines[0]
  const places = (line?.resolution?.split('.')[1] ?? '').length
  const middle = ((Number(line?.lower) + Number(line?.upper)) / 2).toFixed(places)
  return { inspection, line, middle }
}
const stored = async (id: string) => (await api.call(endpoints.record.getInspection, { params: { id } })).readings

describe('an inspector loses nothing', () => {
  it('when the session ends in the middle of recording', async () => {
    const { inspection, line, middle } = await freshInspection('PN-06', 'QUF', 'Pins')
    const hand = await sit('rosa', `/record/${inspection.id}`)
    await hand.page.waitForSelector('input.big:focus')
    await hand.page.evaluate(() => fetch('/api/v1/session', { method: 'DELETE' }))
    await hand.type(middle)
    await hand.press('Enter')
    await hand.sees('Your session has ended')
    expect(await stored(inspection.id)).toEqual([])
    await hand.fill('input[name=password-again]', password)
    await hand.press('Enter')
    await hand.sees('Everything typed is stored')
    expect(await stored(inspection.id)).toMatchObject([{ lineId: line?.id, piece: 1, value: middle }])
  })

  it('when the network is dead: values wait, survive closing the page, and are sent once', async () => {
    const { inspection, middle } = await freshInspection('AN-22', 'BWC', 'Coated')
    const hand = await sit('rosa', `/record/${inspection.id}`)
    await hand.page.waitForSelector('input.big:focus')
    await hand.page.setOfflineMode(true)
    for (let i = 0; i < 3; i++) {
      await hand.type(middle)
      await hand.press('Enter')
    }
    await hand.sees('No connection: 3 kept here')
    await hand.chord('Control', 'Enter')
    await hand.sees('3 readings are not stored yet; the inspection can be finished when they are')
    await hand.sees('piece 4 of')
    // The page dies while there is still no network, with no time to send anything: only what it kept on the disk is left for the next one.
    const context = hand.page.browserContext()
    const devtools = await hand.page.createCDPSession()
    await Promise.race([devtools.send('Page.crash').catch(() => undefined), new Promise((resolve) => setTimeout(resolve, 500))])
    await hand.page.close()
    expect(await stored(inspection.id)).toEqual([])
    const page = await context.newPage()
    await page.goto(`${installation.base}/record/${inspection.id}`)
    await page.waitForFunction(() => document.querySelector<HTMLElement>('[data-test=outbox]')?.innerText.includes('Everything typed is stored'))
    expect((await stored(inspection.id)).map((reading) => [reading.piece, reading.value])).toEqual([
      [1, middle],
      [2, middle],
      [3, middle],
    ])
  })

  it('when the server is killed between two readings; ledger and chain verify', async () => {
    const { inspection, middle } = await freshInspection('BS-7075-14', 'MVM', 'Bar diameter')
    const hand = await sit('rosa', `/record/${inspection.id}`)
    await hand.page.waitForSelector('input.big:focus')
    await hand.type(middle)
    await hand.press('Enter')
    await hand.sees('Everything typed is stored')
    await installation.end('SIGKILL')
    await hand.type(middle)
    await hand.press('Enter')
    await hand.sees('No connection: 1 kept here')
    await installation.begin()
    api = await signedIn('rosa')
    await hand.sees('Everything typed is stored', 20_000)
    expect((await stored(inspection.id)).map((reading) => reading.piece)).toEqual([1, 2])
    expect(installation.command('verify')).toMatchObject({ status: 0 })
    expect(installation.command('ledger')).toMatchObject({ status: 0, output: expect.stringContaining('every balance is the sum') })
  })

  it('when a column is pasted: it fills down, and one bad value stops it with nothing taken', async () => {
    const { inspection, middle } = await freshInspection('SD-18', 'EBS', 'Side plates')
    const hand = await sit('rosa', `/record/${inspection.id}`)
    await hand.page.waitForSelector('input.big:focus')
    const paste = (text: string) =>
      hand.page.evaluate((value) => {
        const data = new DataTransfer()
        data.setData('text', value)
        document.querySelector('input.big')?.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }))
      }, text)
    await paste(`${middle}\n${middle} kg\n`)
    await hand.sees('Nothing was taken')
    expect(await stored(inspection.id)).toEqual([])
    await paste(`${middle}\r\n9.99\r\n${middle.replace('.', ',')}\r\n`)
    await hand.sees('Is that what you measured?')
    await hand.sees('9.99 mm')
    await hand.press('y')
    await hand.sees('Everything typed is stored')
    expect((await stored(inspection.id)).map((reading) => reading.value)).toEqual([middle, '9.99', middle])
  })
})

describe('two people at the same thing', () => {
  it('see both versions and choose; what was typed is not lost', async () => {
    const hand = await sit('ilse')
    const engineer = await signedIn('mirela')
    const place = (await engineer.call(endpoints.define.places.list, { query: { q: 'CAGE' } })).rows[0] as {
      id: string
      version: number
      code: string
      name: string
    }
    await hand.open(`/define/places/${place.id}`)
    await hand.fill('[data-field=name]', 'Cage by the dock')
    await engineer.call(endpoints.define.places.update, {
      params: { id: place.id },
      body: { ...place, id: undefined, name: 'Cage by the oven' } as never,
    })
    await hand.reach('button[type=submit]')
    await hand.press('Enter')
    await hand.sees('Mirela Stan changed this place while you had it open')
    await hand.sees(/Cage by the dock\s+Cage by the oven/)
    await hand.reach('[data-test=keep-mine]')
    await hand.press('Enter')
    await hand.sees('Saved CAGE')
    expect(await engineer.call(endpoints.define.places.get, { params: { id: place.id } })).toMatchObject({ name: 'Cage by the dock' })
  })
})

describe('finding the way', () => {
  it('with / the search finds a lot and goes there; ? shows the keys', async () => {
    const hand = await sit('jun')
    const { lotCode } = await softBars(api)
    await hand.press('/')
    await hand.type(lotCode)
    await hand.page.waitForSelector('#hit-0')
    await hand.press('Enter')
    await hand.sees(`Lot ${lotCode}`)
    await hand.sees(/quarantined[\s\S]*as received/)
    await hand.press('?')
    await hand.sees('next in the list')
  })

  it('lists filter, sort and step with J and K, and the address says where one is', async () => {
    const hand = await sit('jun', '/trace?q=Marrow')
    await hand.sees('Lots')
    await hand.page.waitForFunction(() => document.querySelectorAll('tbody tr').length > 1)
    const codes = () => hand.page.$$eval('tbody tr a', (links) => links.map((link) => link.textContent?.trim() ?? ''))
    await hand.reach('th:first-child button')
    await hand.press('Enter')
    await hand.page.waitForFunction(() => location.search.includes('sort=code'))
    // The rows in their new order come after the address.
    await hand.page.waitForFunction(() => {
      const shown = [...document.querySelectorAll('tbody tr a')].map((link) => link.textContent?.trim() ?? '')
      return shown.every((code, i) => i === 0 || (shown[i - 1] ?? '') <= code)
    })
    const sorted = await codes()
    expect(sorted).toEqual([...sorted].sort())
    await hand.press('j')
    await hand.sees(`Lot ${sorted[0]}`)
    await hand.press('j')
    await hand.sees(`Lot ${sorted[1]}`)
    await hand.press('k')
    await hand.sees(`Lot ${sorted[0]}`)
    const csv = await hand.page.evaluate(async () =>
      (await fetch([...document.querySelectorAll<HTMLAnchorElement>('a.tool')].find((link) => link.textContent === 'CSV')?.href ?? '')).text(),
    )
    expect(csv.trim().split('\r\n')).toHaveLength(1 + sorted.length)
  })
})

describe('a password', () => {
  it('is changed by its owner from the menu under the initials', async () => {
    const hand = await sit('hana')
    await hand.reach('button.me')
    await hand.press('Enter')
    await hand.sees('Change password')
    for (let i = 0; i < 8 && !(await hand.page.evaluate(() => document.activeElement?.textContent?.includes('Change password'))); i++)
      await hand.press('ArrowDown')
    await hand.press('Enter')
    await hand.fill('input[autocomplete=current-password]', password)
    await hand.fill('input[autocomplete=new-password]', 'another-long-one')
    await hand.press('Enter')
    await hand.sees('Your password is changed')
    const again = new ApiClient(installation.base)
    await again.call(endpoints.people.signIn, { body: { signInName: 'hana', password: 'another-long-one' } })
  })
})

describe('a page', () => {
  it('that fails while it is drawn says so, and is there once it can be drawn', async () => {
    const { lotId } = await softBars(api)
    const hand = await sit('ilse')
    let isBroken = true
    await hand.page.setRequestInterception(true)
    hand.page.on('request', (request) => {
      if (isBroken && request.url().includes(`/lots/${lotId}`)) void request.respond({ contentType: 'application/json', body: '{"lot":{}}' })
      else void request.continue()
    })
    await hand.open(`/trace/${lotId}`)
    await hand.sees('What belongs here cannot be shown')
    isBroken = false
    await hand.open(`/trace/${lotId}`)
    await hand.page.waitForSelector('[data-test=inspect-by-hand]')
  })
})

describe('the data folder', () => {
  it('is backed up while in use, and restored only when nobody uses it', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'nemawashi-backup-'))
    const file = join(folder, 'copy.sqlite')
    expect(installation.command('backup', file)).toMatchObject({ status: 0 })
    expect(installation.command('restore', file)).toMatchObject({ status: 1, output: expect.stringContaining('Stop it first') })
    // The same under a passphrase: no tool sees a database there, and nothing else is left of it.
    const [sealed, words] = [join(folder, 'copy.age'), join(folder, 'words')]
    writeFileSync(words, 'four odd words here\n')
    expect(installation.command('backup', sealed, '--passphrase-file', words)).toMatchObject({ status: 0 })
    expect([readFileSync(file).subarray(0, 6).toString(), readFileSync(sealed).subarray(0, 6).toString()]).toEqual(['SQLite', 'age-en'])
    expect(readdirSync(installation.folder).filter((name) => name.startsWith('.copying'))).toEqual([])
    expect(installation.command('restore', sealed)).toMatchObject({ status: 1, output: expect.stringContaining('is encrypted') })
    const before = (await api.call(endpoints.run.listDeliveries, {})).total
    const clerk = await signedIn('dario')
    const [supplier] = (await clerk.call(endpoints.define.partners.list, { query: { q: 'Saltmere' } })).rows as { id: string }[]
    const [part] = (await clerk.call(endpoints.define.parts.list, { query: { q: 'BX-02' } })).rows as { id: string }[]
    await clerk.call(endpoints.run.receiveDelivery, {
      body: { supplierId: supplier?.id ?? '', orderNumber: '9', lines: [{ partId: part?.id ?? '', supplierLot: 'S', quantity: 5, containers: [] }] },
    })
    await installation.end()
    expect(installation.command('restore', sealed, '--passphrase-file', words)).toMatchObject({ status: 0 })
    expect(readdirSync(installation.folder).filter((name) => name.startsWith('.opened'))).toEqual([])
    expect(readdirSync(installation.folder).some((name) => name.startsWith('nemawashi.sqlite.before-restore-'))).toBe(true)
    await installation.begin()
    api = await signedIn('rosa')
    expect((await api.call(endpoints.run.listDeliveries, {})).total).toBe(before)
    rmSync(folder, { recursive: true })
  })
})

it('a connection that rests is kept for longer than proxies and other systems keep theirs, so that none is ended while it is used', async () => {
  const { headers } = await fetch(`${installation.base}/api/v1/health`)
  // Common practice: a minute is what proxies usually wait.
  expect(Number(/timeout=(\d+)/.exec(headers.get('keep-alive') ?? '')?.[1])).toBeGreaterThan(60)
})

it('who may do what is changed by somebody who signed in a moment ago; what was typed is kept and stored then', async () => {
  const own = await Installation.start(demoFolder(), null, withClock)
  try {
    const client = new ApiClient(own.base)
    await client.call(endpoints.people.signIn, { body: { signInName: 'mirela', password } })
    const [rosa] = (await client.call(endpoints.people.listPeople, { query: { q: 'Rosa' } })).rows
    const hand = await Hand.at(chromium.browser, own.base)
    await hand.comeIn('mirela', password, `/people/${rosa?.id ?? ''}`)
    await hand.fill('[data-field=initials] input', 'RQ')
    writeFileSync(join(own.folder, 'clock'), String(16 * 60_000))
    await hand.press('Enter')
    await hand.sees('Sign in again for this')
    await hand.page.waitForSelector('input[name=password-again]:focus')
    await hand.reach('[data-test=not-now]')
    await hand.press('Enter')
    await hand.sees('Nothing was changed: you did not sign in again.')
    await hand.reach('[data-field=initials] input')
    await hand.press('Enter')
    await hand.page.waitForSelector('input[name=password-again]:focus')
    await hand.type(password)
    await hand.press('Enter')
    await hand.page.waitForFunction(() => !document.querySelector('input[name=password-again]'))
    const stored = async () => (await client.call(endpoints.people.listPeople, { query: { q: 'Rosa' } })).rows[0]?.initials
    await vi.waitFor(async () => expect(await stored()).toBe('RQ'), { timeout: 20_000 })
    expect(hand.problems).toEqual([])
  } finally {
    await own.remove()
  }
})
