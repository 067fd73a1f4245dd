import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { launch } from '../../e2e/browser'
import type { Row } from './measure'
import { root, startServer, stopped } from './processes'

/** JavaScript that goes over the wire before the sign-in page can be used, and whether the charts are among it. */
export async function benchFirstLoad(): Promise<Row[]> {
  const folder = mkdtempSync(join(tmpdir(), 'nemawashi-bench-'))
  const { base, child } = await startServer(folder)
  const { browser, close } = await launch()
  const page = await browser.newPage()
  const scripts = new Set<string>()
  const wire = await page.createCDPSession()
  await wire.send('Network.enable')
  const urls = new Map<string, string>()
  const sizes: number[] = []
  wire.on('Network.responseReceived', ({ requestId, response }) => void urls.set(requestId, new URL(response.url).pathname))
  wire.on('Network.loadingFinished', ({ requestId, encodedDataLength }) => {
    const path = urls.get(requestId) ?? ''
    if (!path.endsWith('.js')) return
    scripts.add(path)
    sizes.push(encodedDataLength)
  })
  await page.goto(`${base}/sign-in`, { waitUntil: 'networkidle0' })
  await page.waitForSelector('input[name=username]')
  await close()
  await stopped(child)
  rmSync(folder, { recursive: true, force: true })
  const together = sizes.reduce((sum, size) => sum + size, 0) / 1000
  // Told by what stands in the library itself, whatever its file is called; somewhere in what was built it has to stand.
  const isChart = (file: string) => readFileSync(file, 'utf8').includes('__ec_inner_')
  const built = readdirSync(join(root, 'web/dist/assets')).filter((name) => name.endsWith('.js'))
  if (!built.some((name) => isChart(join(root, 'web/dist/assets', name))))
    throw new Error('No built file holds the charts: the mark they are told by is gone.')
  const hasCharts = [...scripts].some((path) => isChart(join(root, 'web/dist', path)))
  return [
    {
      what: 'JavaScript before sign-in can be used, on the wire',
      ours: `${together.toFixed(0)} kB in ${sizes.length} files`,
      bare: '–',
      ratio: hasCharts ? 'with charts' : 'no charts',
      before: '230 kB in 27 files',
      target: '< 200 kB',
      isMet: together < 200 && !hasCharts,
    },
  ]
}
