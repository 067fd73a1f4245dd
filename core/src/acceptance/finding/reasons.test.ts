import { describe, expect, it } from 'vitest'
import type { Mark } from '../../tolerance/judgeReading'
import { judgeLine, type LineMarks } from './finding'

const letters: Readonly<Record<string, Mark>> = { o: 'conforming', x: 'nonconforming', '-': 'notJudged' }
const line = (pattern: string, change: Partial<LineMarks> = {}) =>
  judgeLine({
    name: 'Bore',
    sampleSize: pattern.length,
    accept: 1,
    isRequired: true,
    isDecisive: false,
    marks: [...pattern].map((letter) => letters[letter] as Mark),
    ...change,
  })
const counted = { kind: 'counted', stage: null, accept: 1, reject: null, returnsToNormal: false }

describe('what a verdict rests on', () => {
  it('is a count of pieces that say something, against Ac', () => {
    expect(line('oox')).toMatchObject({ inspected: 3, nonconforming: 1, counting: 'nonconforming', verdict: 'acceptable', because: counted })
    expect(line('oxx')).toMatchObject({ verdict: 'notAcceptable', because: counted })
    expect(line('o-x')).toMatchObject({ inspected: 2, blank: 1, verdict: 'notJudged', isComplete: false })
    expect(line('o-', { isRequired: false })).toMatchObject({ inspected: 1, verdict: 'acceptable', isComplete: true })
    expect(line('--', { isRequired: false })).toMatchObject({
      isComplete: true,
      because: { kind: 'open', of: 2, stage: null, isRequired: false },
    })
    expect(line('', { sampleSize: 2, unjudged: 2 }).because).toEqual({ kind: 'noted', count: 2 })
  })

  it('counts nonconformities where these are counted, also when there are none or more than pieces', () => {
    expect(line('ooo', { nonconformities: null }).counting).toBe('nonconforming')
    expect(line('ooo', { nonconformities: 0 })).toMatchObject({ counting: 'nonconformities', verdict: 'acceptable' })
    const stages = [
      { sampleSize: 3, accept: 1, reject: 9 },
      { sampleSize: 3, accept: 8, reject: 9 },
    ]
    expect(line('xxx', { sampleSize: 6, nonconformities: 5, stages })).toMatchObject({ verdict: 'notJudged', blank: 3 })
    expect(() => line('xxx', { sampleSize: 6, summary: null, stages: [{ sampleSize: 2, accept: 0, reject: 2 }] })).toThrow(/no piece counts twice/)
  })

  it('names the stage where there are several, and Re where it is not Ac + 1', () => {
    const double = [
      { sampleSize: 3, accept: 0, reject: 2 },
      { sampleSize: 3, accept: 1, reject: 2 },
    ]
    expect(line('oxx', { stages: double }).because).toEqual({ ...counted, stage: 1, accept: 0, reject: 2 })
    expect(line('ooxoo', { sampleSize: 6, stages: double })).toMatchObject({
      blank: 1,
      because: { kind: 'open', of: 6, stage: 2, isRequired: true },
    })
    expect(line('oox', { stages: [{ sampleSize: 3, accept: 1, reject: 2 }] }).because).toEqual(counted)
    const reduced = [{ sampleSize: 3, accept: 0, reject: 2 }]
    expect(line('oox', { accept: 0, stages: reduced })).toMatchObject({
      verdict: 'acceptable',
      because: { ...counted, accept: 0, reject: 2, returnsToNormal: true },
    })
    expect(line('oo-', { stages: reduced }).because).toMatchObject({ kind: 'open', stage: null })
    const late = [{ sampleSize: 3, accept: null, reject: 2 }, ...double.slice(1)]
    expect(line('oxx', { stages: late }).because).toMatchObject({ stage: 1, accept: null, reject: 2 })
  })

  it('is none at all on a decisive line, whatever its stages or its measured spread say', () => {
    const decisive = { isDecisive: true, stages: [{ sampleSize: 3, accept: 0, reject: 2 }] }
    expect(line('oox', decisive)).toMatchObject({ verdict: 'notAcceptable', because: { ...counted, accept: 0 } })
    const variables = { method: 's', sampleSize: 3, k: 1, sigma: null } as const
    const measured = { variables, values: [5, 6, 7], limits: { lower: 0, upper: null } }
    expect(line('oox', { ...measured, isDecisive: true })).toMatchObject({ verdict: 'notAcceptable', because: { kind: 'counted', accept: 0 } })
    expect(line('ooo', { ...measured, isDecisive: true })).toMatchObject({ verdict: 'acceptable', because: { kind: 'measured' } })
    expect(line('oox', measured)).toMatchObject({ verdict: 'acceptable', because: { kind: 'measured' } })
  })

  it('is mean and spread by variables: (mean − L) / s against k', () => {
    const variables = { method: 's', sampleSize: 4, k: 1.45, sigma: null } as const
    const limits = { lower: 2, upper: null }
    expect(line('oooo', { variables, limits, values: [4, 6, 8, 6] }).because).toMatchObject({
      kind: 'measured',
      mean: 6,
      spread: Math.sqrt(8 / 3),
      lowerIndex: 4 / Math.sqrt(8 / 3),
      upperIndex: null,
    })
    const summary = { count: 4, mean: 6, deviation: 2.5, nonconforming: 0 }
    expect(line('o', { sampleSize: 4, variables, limits, summary })).toMatchObject({ inspected: 4, because: { kind: 'measured', lowerIndex: 1.6 } })
    expect(line('oooo', { variables, values: [4, 6, 8, 6] }).because.kind).toBe('counted')
    expect(line('oooo', { limits, values: [4, 6, 8, 6] }).because.kind).toBe('counted')
    expect(line('oooo', { variables, limits }).because.kind).toBe('counted')
  })

  it('falls back on counting where there is no spread, and says whether that is for want of pieces', () => {
    const variables = { method: 's', sampleSize: 2, k: 1, sigma: null } as const
    const sampled = (pattern: string, values: number[]) => line(pattern, { variables, values, limits: { lower: 2, upper: null } })
    expect(sampled('o', [4])).toMatchObject({ verdict: 'acceptable', because: { kind: 'noSpread', isTooFew: true } })
    expect(sampled('oo', [4, 4])).toMatchObject({ verdict: 'acceptable', because: { kind: 'noSpread', isTooFew: false } })
    expect(sampled('xx', [1, 1])).toMatchObject({ verdict: 'notAcceptable', because: { kind: 'noSpread', isTooFew: false } })
    expect(sampled('oo', [4, 5]).because.kind).toBe('measured')
  })
})
