import { benchCurve } from './curve'
import { benchFirstLoad } from './firstLoad'
import { benchLarge } from './large'
import type { Row } from './measure'
import { benchLibrary } from './library'
import { benchReadings } from './readings'
import { benchWorkshop } from './workshop'

const all = {
  curve: benchCurve,
  workshop: benchWorkshop,
  library: benchLibrary,
  readings: benchReadings,
  large: benchLarge,
  firstLoad: benchFirstLoad,
}
const wanted = process.argv.slice(2)
const rows: Row[] = []
for (const [name, bench] of Object.entries(all)) {
  if (wanted.length > 0 && !wanted.includes(name)) continue
  process.stderr.write(`${name} …\n`)
  rows.push(...(await bench()))
}
const columns = ['what', 'ours', 'bare', 'ratio', 'target'] as const
const widths = columns.map((column) => Math.max(column.length, ...rows.map((row) => row[column].length)))
const print = (cells: readonly string[]) => console.log(cells.map((cell, i) => cell.padEnd(widths[i] ?? 0)).join('  '))
print(columns)
for (const row of rows) print([...columns.map((column) => row[column]), row.isMet ? 'met' : 'MISSED'])
process.exit(rows.every((row) => row.isMet) ? 0 : 1)
