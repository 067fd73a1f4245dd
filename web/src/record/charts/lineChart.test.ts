import { describe, expect, it } from 'vitest'
import { basisSamples, driftAhead, lineChart, samplesOf, type Sample } from './lineChart'

const value = (i: number, number: number) => ({ number, takenAt: `2026-03-0${i}T08:00:00Z`, piece: 1, inspectionId: `i${i}`, code: `INS-${i}` })
const own = (numbers: number[]): Sample => ({ inspectionId: 'own', code: 'INS-OWN', takenAt: '2026-03-09T08:00:00Z', numbers })
const samples = (...means: number[]) =>
  means.map((mean, i): Sample => ({ ...value(i + 1, mean), inspectionId: `i${i + 1}`, numbers: [mean - 0.1, mean + 0.1] }))
const dayOf = (takenAt: string) => takenAt.slice(0, 10)

describe('the samples of a line', () => {
  it('are the inspections before it, and its own values as they stand on the bench', () => {
    const values = [value(1, 5), value(1, 6), value(2, 7), { ...value(3, 99), inspectionId: 'own' }]
    expect(samplesOf(values, own([8])).map(({ code, numbers }) => [code, numbers])).toEqual([
      ['INS-1', [5, 6]],
      ['INS-2', [7]],
      ['INS-OWN', [8]],
    ])
    expect(samplesOf(values, own([]))).toHaveLength(2)
  })

  it('that limits rest on are those before it, the first ones, or those of some days', () => {
    const all = [...samples(1, 2, 3), own([4])]
    const codes = (choice: Parameters<typeof basisSamples>[1]) => basisSamples(all, choice, 'own', dayOf).map(({ code }) => code)
    expect(codes({ from: 'before' })).toEqual(['INS-1', 'INS-2', 'INS-3'])
    expect(codes({ from: 'first', count: 2 })).toEqual(['INS-1', 'INS-2'])
    expect(codes({ from: 'days', first: '2026-03-02', last: '2026-03-03' })).toEqual(['INS-2', 'INS-3'])
  })
})

describe('the chart of a line', () => {
  const limits = { lower: 0, upper: 10 }
  const calm = samples(5, 5.05, 4.95, 5, 5.05, 4.95, 5, 5.05)

  it('has no limits before there are enough samples for them', () => {
    expect(lineChart(calm.slice(1), calm.slice(1), 'westernElectric', limits)).toMatchObject({ basis: null, points: [], signals: [] })
    expect(lineChart(calm, calm, 'westernElectric', limits)).toMatchObject({ kind: 'meanRange', signals: [], basis: { subgroups: 8, values: 16 } })
  })

  it('rings for a value that is far from what was before, by limits that it has no part in', () => {
    const all = [...calm, own([5.6, 5.7])]
    const chart = lineChart(all, basisSamples(all, { from: 'before' }, 'own', dayOf), 'limits', limits)
    expect(chart.signals).toEqual([{ rule: 'beyond', at: 8, points: [8] }])
  })

  it('is the chart of what came before, also while the sample is just begun', () => {
    const all = [...calm, own([5.6])]
    expect(lineChart(all, calm, 'limits', limits).kind).toBe('meanRange')
    expect(lineChart([own([5.6])], [], 'limits', limits).kind).toBe('individuals')
  })
})

describe('a drift ahead', () => {
  const rising = [1, 2.1, 2.9, 4, 5.1, 6].map((mean) => [mean])
  it('says after how many samples which limit is reached', () => {
    expect(driftAhead(rising, { lower: 0, upper: 10 })).toMatchObject({ limit: 'upper', samples: expect.closeTo(4, 0) })
    expect(driftAhead(rising.toReversed(), { lower: -3, upper: 10 })).toMatchObject({ limit: 'lower', samples: expect.closeTo(4, 0) })
  })
  it('is none where there are few points, no limit ahead, or nothing but chance', () => {
    expect(driftAhead(rising.slice(1), { lower: 0, upper: 10 })).toBeNull()
    expect(driftAhead(rising, { lower: 0, upper: null })).toBeNull()
    expect(driftAhead(rising, { lower: 0, upper: 5 })).toBeNull()
    expect(driftAhead([[1], [3], [2], [3], [1], [2.2]], { lower: 0, upper: 10 })).toBeNull()
    // A slope of p = 0.2, towards a limit that it would reach in some ten samples.
    expect(driftAhead([[1], [3], [2], [3], [2], [3.5]], { lower: 0, upper: 6 })).toBeNull()
  })
})
