import { strFromU8, unzipSync } from 'fflate'
import { expect, it } from 'vitest'
import { workbook } from './workbook'

it('a workbook has its heads in a row that stays, and every cell below as text, filled or not: a spreadsheet makes no number of 007', async () => {
  const page = Buffer.from(
    JSON.stringify([
      ['007', ''],
      ['=x', 'é<&'],
    ]),
  )
  const steps: number[] = []
  const columns = [
    { key: 'code', width: 12 },
    { key: 'name', width: 30 },
  ]
  const parts = unzipSync(await workbook.run({ name: 'Library', columns, pages: [page, page] }, (done) => void steps.push(done)))
  const textOf = (name: string) => strFromU8(parts[name] ?? new Uint8Array())
  const sheet = textOf('xl/worksheets/sheet1.xml')
  expect(sheet).toMatch(/<pane [^>]*ySplit="1"[^>]*state="frozen"/)
  // The styles of a workbook (ECMA-376, part 1, 18.8.30): `@` shows a cell as it was typed.
  const [, asText = ''] = /numFmtId="(\d+)" formatCode="@"/.exec(textOf('xl/styles.xml')) ?? []
  const styles = [...textOf('xl/styles.xml').matchAll(/<xf\b([^>]*)>/g)].map(([, facts = '']) => facts.includes(`numFmtId="${asText}"`))
  const below = [...sheet.matchAll(/<c r="[A-Z]([2-9])" s="(\d+)"/g)].map(([, row, style]) => [row, styles[Number(style)]])
  expect(below).toEqual(['2', '2', '3', '3', '4', '4', '5', '5'].map((row) => [row, true]))
  expect(textOf('xl/sharedStrings.xml')).toContain('é&lt;&amp;')
  expect(steps).toEqual([1, 2])
})
