import { describe, expect, it } from 'vitest'
import { chainAcceptance } from './chainSampling'
import { continuousDesign, continuousOutgoingLimit, continuousPerformance } from './continuousSampling'

const refused = (code: string, facts: object) => expect.objectContaining({ code, facts: expect.objectContaining(facts) as object })

describe('chain sampling', () => {
  it('of one piece after one lot is the smallest there is: q + p·q·q', () => {
    const accepted = chainAcceptance({ sampleSize: 1, lotsBefore: 1 })
    expect([0, 0.5, 1].map(accepted)).toEqual([1, 0.5 + 0.5 * 0.5, 0])
  })

  it('refuses what is no plan or no fraction, and says what it received', () => {
    for (const sampleSize of [0, 1.5])
      expect(() => chainAcceptance({ sampleSize, lotsBefore: 1 })).toThrow(
        refused('sample_size_invalid', { received: sampleSize, field: 'sampleSize' }),
      )
    for (const lotsBefore of [0, 0.5])
      expect(() => chainAcceptance({ sampleSize: 1, lotsBefore })).toThrow(
        refused('clearance_invalid', { received: lotsBefore, field: 'lotsBefore' }),
      )
    for (const p of [-0.1, 1.1])
      expect(() => chainAcceptance({ sampleSize: 1, lotsBefore: 1 })(p)).toThrow(refused('fraction_invalid', { received: p }))
  })
})

describe('continuous sampling', () => {
  const plan = { clearance: 10, fraction: 0.1 }

  it('refuses what is no plan, no fraction and no limit, and says what it received', () => {
    for (const clearance of [0, 1.5, -3])
      expect(() => continuousOutgoingLimit({ ...plan, clearance })).toThrow(refused('clearance_invalid', { received: clearance, field: 'clearance' }))
    for (const fraction of [0, 1.01, -1])
      expect(() => continuousOutgoingLimit({ ...plan, fraction })).toThrow(refused('fraction_invalid', { received: fraction, field: 'fraction' }))
    for (const p of [-0.1, 1.1]) expect(() => continuousPerformance(plan, p)).toThrow(refused('fraction_invalid', { received: p }))
    for (const limit of [0, 1, -1, 2])
      expect(() => continuousDesign(0.1, limit)).toThrow(refused('fraction_invalid', { received: limit, field: 'outgoingLimit' }))
    expect(() => continuousDesign(0.1, 1e-9)).toThrow(refused('design_not_found', { outgoingLimit: 1e-9, fraction: 0.1 }))
  })

  it('stays under sampling for ever where everything conforms, and looks at every unit where the fraction is all', () => {
    expect(continuousPerformance(plan, 0)).toEqual({ fullRun: 10, sampledRun: Infinity, inspected: 0.1, outgoing: 0, accepted: 1 })
    expect(continuousPerformance({ ...plan, fraction: 1 }, 0.2)).toMatchObject({ inspected: 1, outgoing: 0 })
  })

  it('keeps the limit that it was designed for, and would not with one unit less', () => {
    const clearance = continuousDesign(0.1, 0.02)
    expect(continuousOutgoingLimit({ clearance, fraction: 0.1 }).value).toBeLessThanOrEqual(0.02)
    expect(continuousOutgoingLimit({ clearance: clearance - 1, fraction: 0.1 }).value).toBeGreaterThan(0.02)
  })
})
