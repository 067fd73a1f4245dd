import { endpoints } from '@nemawashi/contract'
import { ApiClient } from '@nemawashi/contract/client'
import type { Browser, KeyInput, Page } from 'puppeteer-core'

const maxTabs = 140
const maxGuesses = 4
/** How long a step may take before it counts as failed: for a machine that does three other things. How fast it ought to be is the benches' affair. */
const patienceMs = 30_000
const glanceMs = 50

/** So many stops away is still the next field or the one after it. */
const nextStops = 2
/** Farther ways than this are cut short: that nothing on a page holds the cursor has a test of its own. */
const farStops = 4

/**
 * About how many tab stops an element is away from the focus: more than 0 when it comes later in the page, less when it comes before, 0
 * when it has the focus, null when that can't be told. Where it is farther than `far`, the stop beside it gets the focus: one more and it is there. Runs in the page.
 */
function tabStopsTo(selector: string, far: number): number | null {
  if (document.activeElement?.closest(selector) != null) return 0
  const focusable = 'a[href], button, input, select, textarea, [tabindex]'
  const stops = [...document.querySelectorAll<HTMLElement>(focusable)].filter(
    (element) => element.tabIndex >= 0 && !element.matches(':disabled') && element.getClientRects().length > 0,
  )
  const target = stops.findIndex((element) => element.closest(selector) !== null)
  const here = document.activeElement === document.body ? -1 : stops.indexOf(document.activeElement as HTMLElement)
  if (target === here || target < 0) return null
  const away = target - here
  if (Math.abs(away) > far) stops[target - Math.sign(away)]?.focus()
  return away
}

/** A person at the keyboard: everything is reached with Tab and done with keys, nothing with the mouse. */
export class Hand {
  readonly problems: string[] = []
  askedOnLeaving = 0
  /** Keys that somebody with a mouse beside the keyboard would press, and ways with Tab or arrows in whose place they would click. */
  readonly effort = { keys: 0, clicks: 0 }

  private constructor(
    readonly page: Page,
    readonly base: string,
  ) {
    page.setDefaultTimeout(patienceMs)
    // Somebody who leaves a page with unsaved work on purpose: the browser asks, and this is the answer.
    page.on('dialog', (dialog) => {
      this.askedOnLeaving += 1
      void dialog.accept()
    })
    page.on('pageerror', (error) => this.problems.push(String(error)))
    page.on('console', (message) => {
      if (message.type() === 'error' && !/status of 4\d\d|ERR_INTERNET_DISCONNECTED|ERR_CONNECTION/.test(message.text()))
        this.problems.push(message.text())
    })
  }

  static async at(browser: Browser, base: string): Promise<Hand> {
    const context = await browser.createBrowserContext()
    const page = await context.newPage()
    // As somebody has it who asked their system for less motion: lists are there at once.
    await page.emulateMediaFeatures([{ name: 'prefers-reduced-motion', value: 'reduce' }])
    return new Hand(page, base)
  }

  /**
   * A page to sit at that somebody has left: a browser that is warm needs half the time of a new one. What it kept, and what was told of it, is
   * gone. Null where something listens in on what it asks.
   */
  async taken(): Promise<Hand | null> {
    if (this.page.listenerCount('request') > 0) return null
    await this.page.setViewport({ width: 1280, height: 800 })
    const wire = await this.page.createCDPSession()
    await wire.send('Storage.clearDataForOrigin', { origin: this.base, storageTypes: 'all' })
    await wire.detach()
    this.problems.length = 0
    this.askedOnLeaving = 0
    Object.assign(this.effort, { keys: 0, clicks: 0 })
    return this
  }

  async open(path: string): Promise<void> {
    await this.page.goto(`${this.base}${path}`)
  }

  /** Presses Tab, or Shift and Tab where that is the shorter way, until the element has the focus; fails when it cannot be reached. */
  async reach(selector: string): Promise<void> {
    await this.page.waitForSelector(selector, { timeout: patienceMs })
    const { keys } = this.effort
    try {
      await this.goTo(selector)
    } finally {
      // To the next field one goes with Tab; farther away it is a click.
      if (this.effort.keys > keys + nextStops) {
        this.effort.clicks += 1
        this.effort.keys = keys
      }
    }
  }

  /** Goes to a link or a button and takes it: one click, or Enter where the cursor is there already. */
  async take(selector: string): Promise<void> {
    const { clicks } = this.effort
    await this.reach(selector)
    await this.press('Enter')
    if (this.effort.clicks > clicks) this.effort.keys -= 1
  }

  /** To an area by the rail, or to another page of it. */
  async turnTo(nav: '.rail' | 'nav.kinds', page: string): Promise<void> {
    await this.take(`${nav} a[href="${page}"]`)
    await this.page.waitForSelector(`${nav} a[href="${page}"][aria-current=page]`)
  }

  /** Puts a seal under what is asked about: the dialog has the cursor in the password. */
  async seal(password: string): Promise<void> {
    await this.page.waitForSelector('input[name=seal-password]:focus')
    await this.type(password)
    await this.press('Enter')
  }

  /** What is done only to see what the application says to it: not counted. */
  async besides(act: () => Promise<void>): Promise<void> {
    const before = { ...this.effort }
    await act()
    Object.assign(this.effort, before)
  }

  private async goTo(selector: string): Promise<void> {
    // The way is gone without looking up after each key, cut short at first; after guesses that were wrong, one by one.
    for (let i = 0; i < maxTabs; i++) {
      const far = i === 0 ? farStops : Infinity
      const away = await this.page.evaluate(tabStopsTo, selector, far)
      if (away === 0) return
      const steps = away !== null && Math.abs(away) > far ? Math.sign(away) : away
      if (steps === null || i >= maxGuesses) await this.press('Tab')
      else if (steps > 0) await this.hold('Tab', steps)
      else await this.holdBack('Tab', -steps)
      if (away !== steps) this.effort.keys += nextStops
    }
    throw new Error(`"${selector}" cannot be reached with the Tab key from where the focus was.`)
  }

  /** Answers the question of the frame: what it says it will do is to be done. */
  async confirm(reason?: string): Promise<void> {
    await this.page.waitForSelector('[data-test=ask-yes]', { visible: true })
    if (reason === undefined) await this.take('[data-test=ask-yes]')
    else {
      await this.fill('[data-field=ask-reason]', reason)
      await this.press('Enter')
    }
    await this.page.waitForSelector('[data-test=ask-yes]', { hidden: true })
  }

  async press(...keys: KeyInput[]): Promise<void> {
    this.effort.keys += keys.length
    for (const key of keys) await this.page.keyboard.press(key)
  }

  async chord(modifier: KeyInput, key: KeyInput): Promise<void> {
    this.effort.keys += 1
    await this.page.keyboard.down(modifier)
    await this.page.keyboard.press(key)
    await this.page.keyboard.up(modifier)
  }

  /** A key that is held down repeats, as on any keyboard. */
  private async hold(key: KeyInput, times: number): Promise<void> {
    this.effort.keys += times
    await Promise.all(Array.from({ length: times }, () => this.page.keyboard.down(key)))
    await this.page.keyboard.up(key)
  }

  private async holdBack(key: KeyInput, times: number): Promise<void> {
    await this.page.keyboard.down('Shift')
    await this.hold(key, times)
    await this.page.keyboard.up('Shift')
  }

  async type(text: string): Promise<void> {
    this.effort.keys += text.length
    await this.page.keyboard.type(text)
  }

  /** Lists slide open; a key pressed meanwhile would go astray. */
  private async rest(): Promise<void> {
    await this.page.waitForFunction(() => document.getAnimations().every((animation) => animation.playState !== 'running'))
  }

  /** Fills a field with what it is to hold, whatever it held. */
  async fill(selector: string, text: string): Promise<void> {
    await this.reach(selector)
    const isEmpty = await this.page.evaluate(() => (document.activeElement as HTMLInputElement | null)?.value === '')
    if (!isEmpty) {
      await this.chord('Control', 'a')
      await this.press('Delete')
    }
    await this.type(text)
  }

  /** Chooses in a list that opens while its field is typed into. */
  async pick(selector: string, words: string): Promise<void> {
    await this.reach(selector)
    await this.chord('Control', 'a')
    await this.type(words)
    await this.page.waitForFunction(
      (wanted) =>
        [...document.querySelectorAll('.v-overlay--active .v-list-item')].some(
          (item) => item.checkVisibility({ visibilityProperty: true }) && item.textContent?.toLowerCase().includes(wanted.toLowerCase()),
        ),
      { timeout: patienceMs },
      words,
    )
    await this.rest()
    await this.choose(words)
  }

  /** Opens a closed list of choices and takes one. */
  async select(selector: string, words: string): Promise<void> {
    await this.reach(selector)
    await this.press('Space')
    await this.page.waitForSelector('.v-overlay--active .v-list-item', { visible: true })
    await this.rest()
    await this.choose(words)
  }

  /** Opens a menu and goes down to one of its entries; it can take the cursor only when it stands where it belongs. */
  async menu(opener: string, entry: string): Promise<void> {
    await this.reach(opener)
    await this.press('Enter')
    await this.page.waitForSelector(entry, { visible: true })
    await this.rest()
    for (let i = 0; i < 30; i++) {
      await this.press('ArrowDown')
      if (await this.page.evaluate((wanted) => document.activeElement?.closest(wanted) != null, entry)) return
    }
    throw new Error(`The menu of "${opener}" does not lead to "${entry}" with the arrow keys.`)
  }

  private async choose(words: string): Promise<void> {
    const chosen = (wanted: string) => {
      const active = document.activeElement
      return active?.classList.contains('v-list-item') === true && (active.textContent ?? '').trim().toLowerCase().includes(wanted.toLowerCase())
    }
    const { keys } = this.effort
    for (let i = 0; i < 60; i++) {
      await this.press('ArrowDown')
      if (await this.page.evaluate(chosen, words)) {
        await this.press('Enter')
        this.effort.keys = keys
        this.effort.clicks += 1
        await this.page.waitForFunction(() => !document.querySelector('.v-overlay--active .v-list'), { timeout: patienceMs })
        return
      }
    }
    throw new Error(`The list offers no "${words}".`)
  }

  async sees(text: string | RegExp, timeout = patienceMs): Promise<void> {
    const [source, flags] = text instanceof RegExp ? [text.source, text.flags] : [text.replaceAll(/[.*+?^${}()|[\]\\]/g, '\\$&'), '']
    try {
      await this.page.waitForFunction(
        (pattern, how) => new RegExp(pattern, how).test((document.body.innerText ?? '').replaceAll('\u00a0', ' ')),
        // Looking at every frame would take the page the time that it needs to get there.
        { timeout, polling: glanceMs },
        source,
        flags,
      )
    } catch {
      const shown = await this.page.evaluate(() => document.body.innerText)
      throw new Error(`The page does not show ${text}. It shows:\n${shown.slice(0, 2500)}`)
    }
  }

  /** Waits until an element has the cursor by itself; fails with what has it instead, and what the page shows. */
  async getsCursor(selector: string): Promise<void> {
    try {
      await this.page.waitForSelector(`${selector}:focus`)
    } catch {
      const instead = await this.page.evaluate(() => document.activeElement?.outerHTML.slice(0, 300) ?? 'nothing')
      const shown = await this.page.evaluate(() => document.body.innerText)
      throw new Error(`"${selector}" does not get the cursor at ${this.page.url()}; it is in ${instead}. The page shows:\n${shown.slice(0, 2500)}`)
    }
  }

  /** Asks an element something once it is there: what a page shows first is no promise that the rest of it stands already. */
  async ask<T>(selector: string, question: (element: Element) => T): Promise<Awaited<T>> {
    const element = await this.page.waitForSelector(selector)
    if (!element) throw new Error(`"${selector}" went away.`)
    return (await element.evaluate(question)) as Awaited<T>
  }

  async textOf(selector: string): Promise<string> {
    return this.ask(selector, (element) => (element as HTMLElement).innerText.replaceAll('\u00a0', ' ').trim())
  }

  async valueOf(selector: string): Promise<string> {
    return this.ask(selector, (element) => (element as HTMLInputElement).value)
  }

  /** Whether a button can't be pressed. */
  async isOff(selector: string): Promise<boolean> {
    return this.ask(selector, (button) => button.matches('.v-btn--disabled, :disabled'))
  }

  /** Comes in with a session that was begun without the page, straight to a page of it: signing in there has tests of its own. */
  async comeIn(signInName: string, password: string, path = '/'): Promise<void> {
    const client = new ApiClient(this.base)
    await client.call(endpoints.people.signIn, { body: { signInName, password } })
    const [name, value] = client.cookies.split('=') as [string, string]
    await this.page.browserContext().setCookie({ name, value, domain: new URL(this.base).hostname, path: '/', httpOnly: true, sameSite: 'Strict' })
    await this.open(path)
    await this.page.waitForSelector('.rail')
    if (path === '/') await this.page.waitForSelector('.find input')
  }

  /** Signs in on the sign-in page. */
  async signIn(name: string, password: string): Promise<void> {
    await this.enter(name, password)
    await this.page.waitForSelector('.rail')
    await this.page.waitForSelector('.find input')
  }

  /** To the sign-in page, name and password typed and sent; what comes then is the caller's to see. */
  async enter(name: string, password: string): Promise<void> {
    await this.open('/sign-in')
    // The page puts the cursor into the first field by itself; typing begins when it has.
    await this.page.waitForFunction(() => document.activeElement?.getAttribute('name') === 'username')
    await this.fill('input[name=username]', name)
    await this.fill('input[name=password]', password)
    await this.press('Enter')
  }
}

/** What several people pressed and clicked together. */
export function effortOf(hands: readonly Hand[]): Hand['effort'] {
  const sum = (way: 'keys' | 'clicks') => hands.reduce((all, { effort }) => all + effort[way], 0)
  return { keys: sum('keys'), clicks: sum('clicks') }
}
