import { chromium } from '../../scripts/setup.mjs'
import { benchCharts } from './charts'
import { benchCurve } from './curve'
import { benchFeeding } from './feeding'
import { benchExporting } from './exporting'
import { benchFirstLoad } from './firstLoad'
import { benchInstruments } from './instruments'
import { benchLarge } from './large'
import { benchLibrary } from './library'
import { benchLists } from './lists'
import type { Row } from './measure'
import { endAll } from './processes'
import { benchOpening } from './opening'
import { benchQueue } from './queue'
import { benchReadings } from './readings'
import { benchRehearsal } from './rehearsal'
import { benchSeveralServers } from './severalServers'
import { benchStalls } from './stalls'
import { benchStockTable } from './stockTable'
import { benchWorkshop } from './workshop'
import { benchWriters } from './writers'

const all = {
  curve: benchCurve,
  charts: benchCharts,
  workshop: benchWorkshop,
  library: benchLibrary,
  readings: benchReadings,
  writers: benchWriters,
  servers: benchSeveralServers,
  exporting: benchExporting,
  large: benchLarge,
  lists: benchLists,
  opening: benchOpening,
  rehearsal: benchRehearsal,
  stalls: benchStalls,
  stock: benchStockTable,
  queue: benchQueue,
  feed: benchFeeding,
  instruments: benchInstruments,
  firstLoad: benchFirstLoad,
}
const names = Object.keys(all) as (keyof typeof all)[]
const wanted = process.argv.slice(2)
const unknown = wanted.filter((name) => !(names as string[]).includes(name))
if (unknown.length > 0) {
  console.error(`Received ${unknown.join(', ')}. The benches are ${names.join(', ')}.`)
  process.exit(2)
}
process.on('exit', endAll)
for (const signal of ['SIGINT', 'SIGTERM'] as const) process.on(signal, () => process.exit(1))

const widths = { what: 52, ours: 26, bare: 22, ratio: 9, before: 9, target: 16 }
const print = (row: Readonly<Record<keyof typeof widths, string>>, end: string) =>
  console.log([...Object.entries(widths).map(([column, width]) => row[column as keyof typeof widths].padEnd(width)), end].join('  ').trimEnd())
print({ what: 'what', ours: 'ours', bare: 'bare', ratio: 'ratio', before: 'before', target: 'target' }, '')
const rows: Row[] = []
for (const name of names) {
  if (wanted.length > 0 && !wanted.includes(name)) continue
  if (name === 'firstLoad' && chromium() === null) {
    console.log('firstLoad is left out: Chromium is not installed (npm test installs it).')
    continue
  }
  // Each row as it is measured: who ends a long run has what was done.
  for (const row of await all[name]()) {
    rows.push(row)
    print({ before: '', ...row }, row.isMet ? 'met' : 'MISSED')
  }
}
process.exit(rows.every((row) => row.isMet) ? 0 : 1)
