import type { InspectionLine } from '@nemawashi/contract'
import { expect, it } from 'vitest'
import { objections } from './accessibility'
import { lineToInspect, measuredOften, takeGauge } from './mainViews'
import { standing } from './stand'

const plant = standing()

/** Rosa at the bench, at the first piece of such a line. */
async function sitAt(isWanted: (line: InspectionLine) => boolean) {
  const { id, line, at } = await lineToInspect(await plant.api('rosa'), isWanted)
  const hand = await plant.sit('rosa', `/record/${id}`)
  await hand.page.waitForSelector('.bench')
  for (let i = 0; i < at; i++) await hand.press('PageDown')
  await hand.sees(`${line.name} · piece 1 of`)
  await takeGauge(hand)
  return { hand, line }
}

it('the chart beside the entry warns before a piece is bad, says by which limits, and how often it would ring for nothing', async () => {
  const { id, line, values } = await measuredOften(await plant.api('rosa'))
  const hand = await plant.sit('rosa', `/record/${id}`)
  await takeGauge(hand)
  await hand.getsCursor('input.big')
  const places = line.resolution?.split('.')[1]?.length ?? 0
  const nearLimit = (Number(line.upper) - Number(line.resolution)).toFixed(places)
  expect(Math.max(...values.map(({ number }) => number))).toBeLessThan(Number(nearLimit))
  for (let piece = 0; piece < line.sampleSize; piece++) {
    await hand.type(nearLimit)
    await hand.press('Enter')
  }
  // Every piece conforms, and it warns all the same.
  await hand.sees('Signal: one point beyond three standard deviations.')
  expect(await hand.textOf('[data-test=finding]')).not.toContain('not acceptable')
  await hand.take('[data-test=chart]')
  await hand.sees('With nothing wrong these signals ring once in 92 samples on average (average run length, ARL).')
  await hand.sees(/limits at 3σ from \d+ samples, \d+ values: centre/)
  await hand.page.waitForSelector('figure canvas')
  expect(await objections(hand)).toEqual([])
  await hand.reach('[data-test=chart-signals]')
  await hand.press('ArrowDown')
  await hand.sees(/ring once in \d+ samples on average \(average run length, ARL, ± \d \(played\)\)/)
  await hand.reach('[data-test=chart-basis]')
  await hand.press('ArrowDown')
  // Limits that the sample has a part in are wider.
  await hand.take('figure button')
  expect(await hand.textOf('.numbers')).toContain('one point beyond three standard deviations')
})

it('the bench says that a line is certain as soon as no further answer can change it', async () => {
  const isWanted = ({ kind, sampleSize, accept, stages }: InspectionLine) => kind === 'judged' && sampleSize > 2 && accept === 0 && stages === null
  const { hand, line } = await sitAt(isWanted)
  expect(await hand.ask('.side', (side) => side.querySelector('[data-test=certain]'))).toBeNull()
  await hand.press('X')
  await hand.sees(`1 nonconforming, Re 1, ${line.sampleSize - 1} not answered yet → certainly not acceptable, whatever they are`)
})

it('by variables, what is known so far moves with every value: indices, estimates, the limit of acceptance', async () => {
  const { hand, line } = await sitAt(({ variables, lower, upper }) => variables !== null && lower !== null && upper !== null)
  const middle = (Number(line.lower) + Number(line.upper)) / 2
  const step = Number(line.resolution)
  const typed = [-step, 0, step].map((off) => (Math.round((middle + off) / step) * step).toFixed(line.resolution?.split('.')[1]?.length ?? 0))
  for (const value of typed) {
    await hand.type(value)
    await hand.press('Enter')
  }
  await hand.sees(
    new RegExp(`By variables so far, 3 of ${line.variables?.sampleSize}: mean .+; QL .+ estimated below; QU .+ estimated above; together .+, M .+ →`),
  )
  await hand.page.waitForSelector('.variables svg .bell')
  expect(await objections(hand)).toEqual([])
})
