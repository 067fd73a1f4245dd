import { chartBasis, chartPoints, signalSets, signalsOf, SignalWatch } from '@nemawashi/core'
import { medianMs, type Row } from './measure'

const count = 100_000

/** A pseudo-random walk of the same numbers each time. */
function values(): number[] {
  let state = 1
  const uniform = () => (state = (state * 16_807) % 2_147_483_647) / 2_147_483_647
  return Array.from({ length: count }, () => Math.sqrt(-2 * Math.log(1 - uniform())) * Math.cos(2 * Math.PI * uniform()))
}

/** Limits, points and all rules over a long chart, against one bare pass for mean and deviation; one point more on a short and on a long chart. */
export async function benchCharts(): Promise<Row[]> {
  const numbers = values()
  const single = numbers.map((value) => [10 + value])
  const whole = () => {
    const basis = chartBasis('individuals', single)
    if (basis === null) throw new Error('No limits.')
    const z = chartPoints(basis, single).map((point) => point.z)
    return signalsOf(z, signalSets.nelson.rules).length
  }
  const bare = () => {
    let [sum, squares] = [0, 0]
    for (const [value = 0] of single) {
      sum += value
      squares += value * value
    }
    return Math.sqrt(squares / count - (sum / count) ** 2)
  }
  const [oursTimes, bareTimes]: [number[], number[]] = [[], []]
  for (let round = 0; round < 5; round++) {
    oursTimes.push(await medianMs(10, whole))
    bareTimes.push(await medianMs(50, bare))
  }
  const oursMs = Math.min(...oursTimes)
  const bareMs = Math.min(...bareTimes)
  /** What a thousand points more cost after so many, each. */
  const oneMore = async (before: number) => {
    const watch = new SignalWatch(signalSets.nelson.rules)
    for (const z of numbers.slice(0, before)) watch.push(z)
    return (await medianMs(200, () => numbers.slice(0, 1000).forEach((z) => watch.push(z)))) / 1000
  }
  await oneMore(1000)
  const [short, long] = [await oneMore(1000), await oneMore(count - 1000)]
  return [
    {
      what: `control chart, ${count.toLocaleString('en')} points, eight rules`,
      ours: `${oursMs.toFixed(1)} ms`,
      bare: `${bareMs.toFixed(1)} ms, mean and s`,
      ratio: `${(oursMs / bareMs).toFixed(0)} ×`,
      target: '≤ 60 ms',
      isMet: oursMs <= 60,
    },
    {
      what: '… one point more, on 100,000 and on 1,000',
      ours: `${(1e6 * long).toFixed(0)} ns`,
      bare: `${(1e6 * short).toFixed(0)} ns`,
      ratio: `${(long / short).toFixed(2)} ×`,
      target: '≤ 1.3 ×',
      isMet: long / short <= 1.3,
    },
  ]
}
