import { endpoints } from '@nemawashi/contract'
import { ApiClient } from '@nemawashi/contract/client'
import { password } from '@nemawashi/demo'
import { TOTP } from 'otpauth'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { objections } from './accessibility'
import { launch } from './browser'
import { Hand } from './hand'
import { demoFolder, Installation } from './installation'
import { press } from './stand'

const { people } = endpoints
const given = 'handed over on paper'
const own = 'seven quiet lathes hum'
let installation: Installation
let chromium: Awaited<ReturnType<typeof launch>>
let mirela: Hand
let vera: Hand

beforeAll(async () => {
  installation = await Installation.start(demoFolder())
  chromium = await launch()
  mirela = await Hand.at(chromium.browser, installation.base)
  await mirela.comeIn('mirela', password, '/people/new')
  vera = await Hand.at(chromium.browser, installation.base)
})
afterAll(async () => {
  await chromium.close()
  await installation.remove()
})

async function signOut(hand: Hand): Promise<void> {
  await hand.menu('.me', '[role=menuitem]:last-child')
  await hand.press('Enter')
  await hand.page.waitForSelector('input[name=username]')
}
const typeOf = (hand: Hand, selector: string) => hand.ask(selector, (input) => (input as HTMLInputElement).type)

describe('a password that an administrator gives', () => {
  it('is weighed while it is typed, and shown to whoever wants to see it', async () => {
    await mirela.fill('[data-field=name]', 'Vera Lodd')
    await mirela.fill('[data-field=initials]', 'VL')
    await mirela.fill('[data-field=signInName]', 'vera')
    await mirela.reach('input[type=checkbox][value=inspector], input[aria-label="inspector"]')
    await mirela.press('Space')
    await mirela.fill('[data-field=password]', 'passwordpassword')
    await mirela.sees(/the first that others try|soon guessed|not hard enough/)
    await mirela.fill('[data-field=password]', given)
    await mirela.sees(/(very )?hard to guess/)
    expect(await typeOf(mirela, '[data-field=password] input')).toBe('password')
    await press(mirela, '[data-field=password] .look')
    expect(await typeOf(mirela, '[data-field=password] input')).toBe('text')
    await mirela.reach('[data-field=password] input')
    await mirela.press('Enter')
    await mirela.sees('Saved Vera Lodd')
  })

  it('opens nothing but the way to an own one; a reload and an address typed by hand change nothing', async () => {
    await vera.enter('vera', given)
    await vera.sees('Choose a password of your own')
    expect(await objections(vera)).toEqual([])
    await vera.open('/record')
    await vera.sees('Choose a password of your own')
    await vera.fill('[data-field=current]', given)
    await vera.fill('[data-field=next]', 'Vera Lodd 2026')
    await vera.press('Enter')
    await vera.sees('among the first that others would try')
    await vera.fill('[data-field=next]', own)
    await vera.press('Enter')
    await vera.page.waitForSelector('.rail')
    await vera.sees('To do')
  })
})

describe('a second factor', () => {
  let secret = ''
  let recovery = ''
  const shown = (steps: number) => new TOTP({ secret }).generate({ timestamp: Date.now() + steps * 30_000 })

  it('is set up with an app and its first code, and gives recovery codes once', async () => {
    await vera.open('/people/sessions')
    await press(vera, '[data-test=begin-factor]')
    await vera.page.waitForSelector('[data-test=secret]')
    secret = (await vera.ask('[data-test=secret]', (key) => (key as HTMLElement).innerText)).replaceAll(' ', '')
    expect(await vera.ask('.picture', (picture) => (picture as HTMLImageElement).naturalWidth)).toBeGreaterThan(0)
    await vera.fill('[data-field=code]', '000000')
    await vera.press('Enter')
    await vera.sees('This code is not the one of now')
    await vera.fill('[data-field=code]', shown(-1))
    await vera.press('Enter')
    await vera.sees('Your second factor is set up.')
    const codes = await vera.page.$$eval('[data-test=recovery-codes] li', (entries) => entries.map((entry) => (entry as HTMLElement).innerText))
    expect(codes).toHaveLength(10)
    recovery = codes[0] ?? ''
    expect(await objections(vera)).toEqual([])
    await press(vera, '[data-test=codes-kept]')
    await vera.sees('10 recovery codes left')
  })

  it('is asked for after the password, and a recovery code does for it once', async () => {
    await signOut(vera)
    await vera.enter('vera', own)
    await vera.page.waitForSelector('[data-field=code]')
    await vera.page.waitForFunction(() => document.activeElement?.getAttribute('name') === 'one-time-code')
    await vera.type(shown(0))
    await vera.press('Enter')
    await vera.page.waitForSelector('.rail')
    await signOut(vera)
    await vera.enter('vera', own)
    await vera.fill('[data-field=code]', recovery.toLowerCase())
    await vera.press('Enter')
    await vera.page.waitForSelector('.rail')
    await vera.open('/today')
    await vera.sees(/Since you signed in before[\s\S]*recovery code used/)
  })

  it('is taken away by an administrator when it is lost, and its owner is told at the next sign-in', async () => {
    await press(mirela, '[data-test=end-factor]')
    await mirela.confirm()
    await mirela.sees('Vera Lodd signs in without a second factor now.')
    await signOut(vera)
    await vera.enter('vera', own)
    await vera.page.waitForSelector('.rail')
    await vera.open('/today')
    await vera.sees(/second factor taken away by Mirela Stan/)
    const api = new ApiClient(installation.base)
    await api.call(people.signIn, { body: { signInName: 'mirela', password } })
    const { isWhole, breaks: found } = await api.call(people.verifyAudit, { query: {} })
    expect([isWhole, found]).toEqual([true, []])
  })
})
