import { endpoints } from '@nemawashi/contract'
import { ApiClient } from '@nemawashi/contract/client'
import { password } from '@nemawashi/demo'
import { mkdirSync } from 'node:fs'
import { join } from 'node:path'
import { launch } from './browser'
import { Hand } from './hand'
import { demoFolder, Installation } from './installation'
import { mainViews, openView } from './mainViews'

/** Takes one picture of each main view from the demo data, 1280 × 800, into docs/screenshots. Usage: npm run screenshots [-- NAME …] */
const wanted = process.argv.slice(2)
const folder = join(import.meta.dirname, '../docs/screenshots')
mkdirSync(folder, { recursive: true })
const installation = await Installation.start(demoFolder())
const { browser, close } = await launch()
const api = new ApiClient(installation.base)
await api.call(endpoints.people.signIn, { body: { signInName: 'ilse', password } })
const hands = new Map<string, Hand>()
for (const view of mainViews) {
  if (view.isUnpictured || (wanted.length > 0 && !wanted.includes(view.name))) continue
  let hand = hands.get(view.who)
  if (!hand) {
    hand = await Hand.at(browser, installation.base)
    if (view.who !== '') await hand.signIn(view.who, password)
    hands.set(view.who, hand)
  }
  await hand.page.setViewport({ width: 1280, height: 800 })
  await openView(hand, view, api)
  // Fonts, charts and transitions come to rest.
  await new Promise((resolve) => setTimeout(resolve, 1200))
  await hand.page.screenshot({ path: join(folder, `${view.name}.png`) })
  console.log(view.name)
}
await close()
await installation.remove()
