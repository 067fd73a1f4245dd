import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { gzipSync } from 'node:zlib'
import { launch } from '../../e2e/browser'
import type { Row } from './measure'
import { root, startServer } from './processes'

/** JavaScript that a browser fetches before the sign-in page can be used, gzipped, and whether the charts are among it. */
export async function benchFirstLoad(): Promise<Row[]> {
  const folder = mkdtempSync(join(tmpdir(), 'nemawashi-bench-'))
  const { base, child } = await startServer(folder)
  const { browser, close } = await launch()
  const page = await browser.newPage()
  const scripts = new Set<string>()
  page.on('response', (response) => {
    if (response.url().endsWith('.js')) scripts.add(new URL(response.url()).pathname)
  })
  await page.goto(`${base}/sign-in`, { waitUntil: 'networkidle0' })
  await page.waitForSelector('input[name=username]')
  await close()
  child.removeAllListeners('exit')
  child.kill('SIGTERM')
  await new Promise((resolve) => child.on('exit', resolve))
  rmSync(folder, { recursive: true, force: true })
  const sizes = [...scripts].map((path) => gzipSync(readFileSync(join(root, 'web/dist', path))).length)
  const together = sizes.reduce((sum, size) => sum + size, 0) / 1000
  const hasCharts = [...scripts].some((path) => path.includes('OperatingCurve'))
  return [
    {
      what: 'JavaScript before sign-in can be used, gzip',
      ours: `${together.toFixed(0)} kB in ${sizes.length} files`,
      bare: '–',
      ratio: hasCharts ? 'with charts' : 'no charts',
      target: '< 220 kB',
      isMet: together < 220 && !hasCharts,
    },
  ]
}
