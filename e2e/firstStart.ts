import { coldMs, launch } from './browser'
import { demoFolder, Installation } from './installation'

/**
 * Starts browser and server once before the first test, and makes the demo plant. On a machine where Chromium was installed a minute
 * ago its 300 MB come from the disk for the first time, which takes longer than any step of a test may.
 */
export default async function firstStart(): Promise<void> {
  const installation = await Installation.start(demoFolder())
  const chromium = await launch()
  const page = await chromium.browser.newPage()
  await page.goto(installation.base, { timeout: coldMs })
  await page.waitForSelector('input[name=username]', { timeout: coldMs })
  await chromium.close()
  await installation.remove()
}
