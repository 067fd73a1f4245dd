import { describe, expect, it } from 'vitest'
import { replay, type OtherLimits, type PastLot, type SamplingRule } from '../../index'

describe('the past under another plan', () => {
  const lot = (recorded: number, bad: number): PastLot => ({
    id: 'l',
    code: 'L',
    day: '2026-01-01',
    atHours: 0,
    quantity: 1000,
    readings: Array.from({ length: recorded }, (_, i) => ({ value: null, isConforming: i >= bad })),
    sampleSize: recorded,
    accept: 0,
  })
  const double: SamplingRule = {
    kind: 'stages',
    stages: [
      { sampleSize: 50, accept: 0, reject: 2 },
      { sampleSize: 50, accept: 3, reject: 4 },
    ],
  }

  it('decides at every stage, also where the recorded pieces do not suffice for all of them', () => {
    const [some] = [...replay([lot(80, 3)], { sampling: double })]
    expect(some?.accepted).toBeCloseTo(0.157, 3)
    const [none] = [...replay([lot(80, 0)], { sampling: double })]
    expect([none?.accepted, none?.piecesAfter]).toEqual([1, 50])
  })

  it('by variables draws the smaller sample from the recorded readings', () => {
    const values = [...Array.from({ length: 15 }, (_, i) => String(10 + (i % 3) * 0.1)), '13', '13', '13', '13', '13']
    const pastLot: PastLot = { ...lot(0, 0), readings: values.map((value) => ({ value, isConforming: true })) }
    const sampling = { kind: 'variablesPlan', method: 's', sampleSize: 5, k: 1.5, sigma: null } as const
    const [found] = [...replay([pastLot], { sampling, limits: { nominal: null, lower: null, upper: '13.2' } })]
    expect(found?.accepted).toBeGreaterThan(0.3)
    expect(found?.accepted).toBeLessThan(0.9)
  })

  it('judges under other limits as the characteristic does: rounded first, with its band, and with what that counts as', () => {
    const values = ['10.04', '10.11', '10.14', '10.16', '10.31']
    const pastLot: PastLot = { ...lot(0, 0), readings: values.map((value) => ({ value, isConforming: true })) }
    const found = (change: Partial<OtherLimits>) =>
      [...replay([pastLot], { limits: { nominal: null, lower: '9.9', upper: '10.1', ...change } })][0]?.foundAfter
    expect(found({})).toBe(4)
    expect(found({ rounding: '0.1' })).toBe(2)
    const band = { side: 'outside', width: { kind: 'amount', amount: '0.05' }, countsAsConforming: true } as const
    expect([found({ band }), found({ band, marginalConforms: false })]).toEqual([2, 4])
  })

  it('once an order looks at the first lot of each order, and at what belongs to none', () => {
    const lots = ['A', 'A', 'B', '', 'A'].map((order) => ({ ...lot(5, 0), order }))
    expect([...replay(lots, { frequency: { kind: 'oncePerOrder' } })].map(({ isInspected }) => isInspected)).toEqual([true, false, true, true, false])
  })
})
