import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import puppeteer, { type Browser } from 'puppeteer-core'
import { chromium } from '../scripts/setup.mjs'

const flags = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
]

/** How long the first start may take, from a disk that nothing was read from before. */
export const coldMs = 180_000

/** Headless Chromium from Debian's packages, with a fresh profile that is gone afterwards. */
export async function launch(more: readonly string[] = []): Promise<{ browser: Browser; close: () => Promise<void> }> {
  const profile = mkdtempSync(join(tmpdir(), 'nemawashi-chromium-'))
  const browser = await puppeteer.launch({
    executablePath: chromium() ?? '/usr/bin/chromium',
    headless: true,
    args: [...flags, ...more],
    userDataDir: profile,
    defaultViewport: { width: 1280, height: 800 },
    timeout: coldMs,
  })
  return {
    browser,
    async close() {
      await browser.close()
      rmSync(profile, { recursive: true, force: true, maxRetries: 3 })
    },
  }
}
