import { endpoints } from '@nemawashi/contract'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect, it } from 'vitest'
import { smallPicture } from '../server/src/testing/smallPicture'
import { objections } from './accessibility'
import { lineToInspect } from './mainViews'
import { gaugesFor, standing } from './stand'

const { record } = endpoints
const plant = standing()

it('a nonconforming piece gets a fault with its number, a remark and a picture marked by keys; it stands in the passport, and can be withdrawn', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'nemawashi-test-'))
  writeFileSync(join(folder, 'edge.png'), smallPicture(400, 200))
  const inspector = await plant.api('rosa')
  const { id, line, at } = await lineToInspect(inspector, ({ kind, sampleSize }) => kind === 'judged' && sampleSize > 2)
  const hand = await plant.sit('rosa', `/record/${id}`)
  await hand.page.waitForSelector('.bench')
  for (let i = 0; i < at; i++) await hand.press('PageDown')
  await hand.sees(`${line.name} · piece 1 of`)
  await hand.press('X')
  // The cursor is at the next piece; what more is said is of the one that was just found.
  await hand.sees(`${line.name} · piece 2 of`)
  await hand.sees('Fault, remark or picture of piece 1')
  await hand.chord('Shift', 'E')
  await hand.pick('[data-field=evidence-fault]', 'BARE')
  await hand.fill('[data-field=evidence-count] input', '2')
  // A capital letter is a letter here.
  await hand.fill('[data-field=evidence-words] input', 'Edge and Gate')
  expect(await hand.valueOf('[data-field=evidence-words] input')).toBe('Edge and Gate')
  const file = await hand.page.$('[data-field=evidence-file]')
  await (file as never as { uploadFile: (path: string) => Promise<void> }).uploadFile(join(folder, 'edge.png'))
  await hand.page.waitForSelector('[data-test=mark-place] img')
  await hand.reach('[data-test=mark-place]')
  await hand.press('ArrowRight', 'ArrowRight', 'ArrowUp')
  expect(await objections(hand)).toEqual([])
  await hand.take('[data-test=save-evidence]')
  await hand.sees('piece 1: BARE × 2, Edge and Gate, marked on the picture')
  const [said] = (await inspector.call(record.getInspection, { params: { id } })).evidence
  // Arrows begin in the middle: one to begin with, two that move.
  expect(said).toMatchObject({ piece: 1, lineId: line.id, count: 2, place: { x: 550, y: 450 }, document: { name: 'edge.png' } })
  // The next key is an answer again.
  await hand.press('O')
  await hand.sees(`${line.name} · piece 3 of`)

  await hand.chord('Shift', 'E')
  await hand.fill('[data-field=evidence-words] input', 'never mind')
  await hand.press('Enter')
  await hand.sees('piece 3: never mind')
  const [, second] = (await inspector.call(record.getInspection, { params: { id } })).evidence
  await hand.take(`[data-test=withdraw-${second?.id}]`)
  await hand.confirm('Said of the wrong piece')
  await hand.page.waitForFunction(() => !document.body.innerText.includes('never mind'))

  // Somebody else inspected, and is typed for: both are kept.
  await hand.reach('[data-field=inspected-by]')
  await hand.press('ArrowDown')
  await hand.sees('You type what another inspected; both are kept.')
  await hand.reach('.choice')
  await hand.press('O')
  await hand.sees(`${line.name} · piece 4 of`)
  await hand.sees('Everything typed is stored.')
  const typed = (await inspector.call(record.getInspection, { params: { id } })).readings.find(
    ({ piece, lineId }) => piece === 3 && lineId === line.id,
  )
  expect([typed?.recordedByName, typed?.inspectedByName]).toEqual(['Rosa Lindqvist', expect.stringMatching(/\w/)])

  // The rest is answered and judged; what was said goes along into the passport.
  const { lotId, lines, readings, wantsGauge } = await inspector.call(record.getInspection, { params: { id } })
  const gauges = await gaugesFor(inspector, id, wantsGauge)
  const answers = lines.flatMap(({ id: lineId, kind, nominal, lower, upper, sampleSize }) =>
    Array.from({ length: sampleSize }, (_, i) => ({
      ...{ id: crypto.randomUUID(), lineId, piece: i + 1, typedAt: new Date().toISOString(), isConfirmedOutside: false, corrects: null },
      ...{ value: kind === 'measured' ? (nominal ?? lower ?? upper) : kind === 'judged' ? 'O' : '0', gaugeId: gauges.get(lineId) ?? null },
    })).filter(({ piece }) => !readings.some((reading) => reading.lineId === lineId && reading.piece === piece)),
  )
  const { version } = await inspector.call(record.recordReadings, { params: { id }, body: { readings: answers } })
  await inspector.call(record.finishInspection, { params: { id }, body: { version } })
  const auditor = await plant.sit('jun', `/trace/${lotId}`)
  await auditor.page.waitForSelector('details summary')
  for (const summary of await auditor.page.$$('details summary')) await summary.click()
  await auditor.sees('piece 1: BARE × 2, Edge and Gate, marked on the picture')
  await auditor.page.waitForSelector('[data-test=evidence] img')
  rmSync(folder, { recursive: true })
})

it('a place is marked on a reference picture of the characteristic, by a finger or the mouse, and shown on it', async () => {
  const inspector = await plant.api('rosa')
  const { id, line, at } = await lineToInspect(inspector, ({ code }) => code === 'C-LOOK')
  const hand = await plant.sit('rosa', `/record/${id}`)
  await hand.page.waitForSelector('.bench')
  for (let i = 0; i < at; i++) await hand.press('PageDown')
  await hand.sees(`${line.name} · piece 1 of`)
  await hand.take('[data-test=say-more]')
  // Escape closes the list of faults, and not what it stands in.
  await hand.reach('[data-field=evidence-fault] input')
  await hand.press('ArrowDown')
  await hand.page.waitForSelector('.v-overlay--active.v-menu')
  await hand.press('Escape')
  await hand.page.waitForSelector('[data-test^=mark-on]')
  await hand.take('[data-test^=mark-on]')
  const picture = await hand.page.waitForSelector('[data-test=mark-place] img')
  await hand.page.waitForFunction((img) => (img as unknown as { naturalWidth: number }).naturalWidth > 0, {}, picture)
  const box = await picture?.boundingBox()
  await hand.page.mouse.click((box?.x ?? 0) + (box?.width ?? 0) / 4, (box?.y ?? 0) + (box?.height ?? 0) / 2)
  await hand.page.waitForSelector('[data-test=mark-place] .mark')
  await hand.take('[data-test=save-evidence]')
  await hand.sees('piece 1: marked on the picture')
  const [said] = (await inspector.call(record.getInspection, { params: { id } })).evidence
  expect(Math.abs((said?.place?.x ?? 0) - 250)).toBeLessThan(6)
  expect(Math.abs((said?.place?.y ?? 0) - 500)).toBeLessThan(6)
})
