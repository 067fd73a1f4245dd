import { endpoints } from '@nemawashi/contract'
import { ApiClient } from '@nemawashi/contract/client'
import { password } from '@nemawashi/demo'
import axe from 'axe-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { objections } from './accessibility'
import { launch } from './browser'
import { Hand } from './hand'
import { demoFolder, Installation } from './installation'
import { mainViews, openView, type MainView } from './mainViews'

let installation: Installation
let chromium: Awaited<ReturnType<typeof launch>>
let api: ApiClient
const hands = new Map<string, Hand>()

beforeAll(async () => {
  installation = await Installation.start(demoFolder())
  chromium = await launch()
  api = new ApiClient(installation.base)
  await api.call(endpoints.people.signIn, { body: { signInName: 'ilse', password } })
})
afterAll(async () => {
  await chromium.close()
  await installation.remove()
})
async function show(view: MainView): Promise<Hand> {
  let hand = hands.get(view.who)
  if (!hand) {
    hand = await Hand.at(chromium.browser, installation.base)
    if (view.who !== '') await hand.comeIn(view.who, password)
    hands.set(view.who, hand)
  }
  await hand.page.setViewport({ width: 1280, height: 800 })
  await openView(hand, view, api)
  await new Promise((resolve) => setTimeout(resolve, 500))
  return hand
}

describe.each(mainViews.map((view) => [view.name, view] as const))('the view %s', (_name, view) => {
  it('has nothing that axe objects to, says no error, and fits a width of 1024, and a phone', async () => {
    const hand = await show(view)
    expect(await objections(hand)).toEqual([])
    expect(hand.problems).toEqual([])
    for (const [width, height] of [[1024, 768], ...(view.isForTablet ? [[800, 1280]] : []), [390, 844]] as [number, number][]) {
      await hand.page.setViewport({ width, height })
      await new Promise((resolve) => setTimeout(resolve, 150))
      const over = await hand.page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth)
      expect([width, over <= 0]).toEqual([width, true])
    }
  })
})

describe('what is empty, or opens over a page, has nothing that axe objects to', () => {
  const sit = (who: string, path: string) => show({ name: '', who, path: async () => path, ready: 'main' })
  const opened = async (hand: Hand, selector: string) => {
    await hand.page.waitForSelector(selector)
    await hand.page.click(selector)
    await new Promise((resolve) => setTimeout(resolve, 400))
    return objections(hand)
  }
  it('a new plan without lines, a new characteristic', async () => {
    for (const path of ['/define/plans/new', '/define/characteristics/new'])
      expect([path, await objections(await sit('ilse', path))]).toEqual([path, []])
  })

  it('the menu of the person, and the passport with the form for an inspection by hand', async () => {
    const hand = await sit('ilse', '/today')
    expect(await opened(hand, 'button.me')).toEqual([])
    const { rows } = await api.call(endpoints.trace.listLots, { query: {} })
    await sit('ilse', `/trace/${rows[0]?.id ?? ''}`)
    expect(await opened(hand, '[data-test=inspect-by-hand]')).toEqual([])
  })

  it('the release of a draft', async () => {
    const draft = (await api.call(endpoints.define.listPlans, { query: { state: 'draft' } })).rows[0]
    const hand = await sit('ilse', `/define/plans/${draft?.id ?? ''}`)
    expect(await opened(hand, '[data-test=release]')).toEqual([])
  })
})

describe('the Tab key', () => {
  const forms = ['define-characteristic', 'define-plan', 'attach', 'run-new', 'run-order', 'record-chart', 'contain', 'trace']
  it.each(mainViews.filter(({ name }) => forms.includes(name)).map((view) => [view.name, view] as const))(
    'leads through all of the view %s, from the first stop to the last',
    async (_name, view) => {
      const { page } = await show(view)
      // Of the choices of one field it stops at one: the arrow keys lead to the others.
      const stops = await page.evaluate(() => {
        const all = [...document.querySelectorAll<HTMLElement>('a[href], button, input, select, textarea, [tabindex]')]
        const isStop = (element: HTMLElement) =>
          element.tabIndex >= 0 && !element.matches(':disabled, [type=radio]') && element.getClientRects().length > 0
        const found = all.filter(isStop)
        found.forEach((element, i) => (element.dataset['tabStop'] = String(i)))
        ;(document.activeElement as HTMLElement | null)?.blur()
        document.body.tabIndex = -1
        document.body.focus()
        return found.length
      })
      const been = new Set<string>()
      for (let i = 0; i < stops + 20 && been.size < stops; i++) {
        await page.keyboard.press('Tab')
        const at = await page.evaluate(() => (document.activeElement as HTMLElement | null)?.dataset['tabStop'])
        if (at !== undefined) been.add(at)
      }
      const missed = await page.evaluate(
        (seen) =>
          [...document.querySelectorAll<HTMLElement>('[data-tab-stop]')]
            .filter(({ dataset }) => !seen.includes(dataset['tabStop'] ?? ''))
            .map((element) => element.outerHTML.slice(0, 120)),
        [...been],
      )
      expect(missed).toEqual([])
    },
  )
})

describe('the dark bench', () => {
  it('is switched with Shift+D and keeps its contrast', async () => {
    const bench = mainViews.find((view) => view.name === 'record-chart') as MainView
    const hand = await show(bench)
    await hand.chord('Shift', 'D')
    await hand.page.waitForSelector('.v-theme--night .bench')
    await new Promise((resolve) => setTimeout(resolve, 400))
    await hand.page.evaluate(axe.source)
    const { violations } = await hand.page.evaluate(() =>
      (window as unknown as { axe: typeof axe }).axe.run('.bench', { runOnly: ['color-contrast'] }),
    )
    expect(
      violations.flatMap((violation) => violation.nodes.slice(0, 4).map((node) => `${node.html.slice(0, 120)} ${node.any[0]?.message}`)),
    ).toEqual([])
    await hand.chord('Shift', 'D')
  })
})

describe('a form of something new begins in its first field, and marks what it is refused without', () => {
  const masters = [
    'parts',
    'families',
    'partners',
    'places',
    'operations',
    'fault-codes',
    'count-units',
    'measure-units',
    'classes',
    'finer-standings',
  ]
  it.each([
    ...['characteristics', 'plans', ...masters].map((kind) => ['ilse', `/define/${kind}/new`]),
    ...['/run/new', '/run/purchase-orders/new', '/run/expected/new', '/run/dispatches/new', '/run/dispatches/plan'].map((path) => ['dario', path]),
    ['hana', '/run/orders/new'],
    ['mirela', '/people/new'],
  ] as [string, string][])('%s at %s', async (who, path) => {
    const hand = await show({ name: '', who, path: async () => path, ready: 'form [data-field] input' })
    const named = (selector: string) =>
      hand.page.$$eval(`form ${selector}`, (fields) =>
        [...new Set(fields.map((field) => field.closest<HTMLElement>('[data-field]')?.dataset['field'] ?? ''))].toSorted(),
      )
    const isFirst = await hand.ask('form', (form) => form.querySelector('input:not([type=hidden])') === document.activeElement)
    expect(isFirst).toBe(true)
    const marked = await named('[aria-required=true]')
    expect(marked.length).toBeGreaterThan(0)
    await hand.ask('form', (form) => (form as HTMLFormElement).requestSubmit())
    await hand.page.waitForSelector('form .v-input--error')
    expect(await named('.v-input--error')).toEqual(marked)
  })
})
