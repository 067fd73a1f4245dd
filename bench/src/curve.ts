import { acceptanceInLot, operatingCurve } from '@nemawashi/core'
import hypergeometric from '@stdlib/stats-base-dists-hypergeometric'
import { medianMs, type Row } from './measure'

const lot = 10_000
const sample = { sampleSize: 200, accept: 7 }

/** Operating curve of 200 points, hypergeometric, against a direct loop over a general library's distribution function. */
export async function benchCurve(): Promise<Row[]> {
  const points = operatingCurve(sample, lot, 20)
  const bare = () => points.map((point) => hypergeometric.cdf(sample.accept, lot, Math.round((point.percent * lot) / 100), sample.sampleSize))
  const oursTimes: number[] = []
  const bareTimes: number[] = []
  for (let round = 0; round < 8; round++) {
    oursTimes.push(await medianMs(500, () => operatingCurve(sample, lot, 20)))
    bareTimes.push(await medianMs(100, bare))
  }
  const oursMs = Math.min(...oursTimes)
  const bareMs = Math.min(...bareTimes)
  const gap = Math.max(
    ...points.map((point) => {
      const nonconforming = Math.round((point.percent * lot) / 100)
      return Math.abs(
        acceptanceInLot(lot, nonconforming, sample.sampleSize, sample.accept) -
          hypergeometric.cdf(sample.accept, lot, nonconforming, sample.sampleSize),
      )
    }),
  )
  return [
    {
      what: `operating curve, ${points.length - 1} points, lot 10,000, n 200`,
      ours: `${oursMs.toFixed(2)} ms`,
      bare: `${bareMs.toFixed(2)} ms`,
      ratio: `${(bareMs / oursMs).toFixed(0)} × faster`,
      target: '≥ 5 ×',
      isMet: bareMs / oursMs >= 5,
    },
    { what: '… largest difference from the library', ours: gap.toExponential(1), bare: '–', ratio: '–', target: '≤ 1e-9', isMet: gap <= 1e-9 },
  ]
}
