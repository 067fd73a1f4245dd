import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Mark } from '../../tolerance/judgeReading'
import { singleStage } from '../plans/stagedPlan'
import { judgeLine, type LineMarks, type SharedPlan } from './finding'
import { describeLine } from './describeFinding'

const plan = (sampleSize: number, accept: number, change: Partial<SharedPlan> = {}): SharedPlan => ({
  planName: `n ${sampleSize}`,
  sampleSize,
  accept,
  stages: null,
  variables: null,
  ...change,
})
const line = (marks: readonly Mark[], accept: number, also: readonly SharedPlan[] = [], change: Partial<LineMarks> = {}): LineMarks => ({
  name: 'Bore',
  sampleSize: marks.length,
  accept,
  isRequired: true,
  isDecisive: false,
  marks,
  also,
  ...change,
})
const marksOf = (words: string): Mark[] => [...words].map((mark) => (mark === 'x' ? 'nonconforming' : 'conforming'))

describe('a line that several plans ask', () => {
  it('is not acceptable where the gate refuses its own sample, whatever the larger one of another accepts', () => {
    // A gate with n 3, Ac 0 beside a plan that only notes, with n 8, Ac 1.
    const found = judgeLine(line(marksOf('oxoooooo'), 1, [plan(3, 0)]))
    expect(found).toMatchObject({ verdict: 'notAcceptable', because: { kind: 'shared', planName: 'n 3', inspected: 3, nonconforming: 1, accept: 0 } })
    expect(describeLine(found)).toBe('8 inspected, 1 nonconforming; of the first 3 1, n 3: Ac 0 → not acceptable')
    expect(judgeLine(line(marksOf('ooooxooo'), 1, [plan(3, 0)])).verdict).toBe('acceptable')
  })

  it('by a summary counts all that was found against each: nobody knows which pieces they were', () => {
    const summary = { count: 8, mean: 5, deviation: 1, nonconforming: 1 }
    expect(judgeLine(line([], 1, [plan(3, 0)], { sampleSize: 8, summary })).verdict).toBe('notAcceptable')
    expect(judgeLine(line([], 1, [plan(3, 1)], { sampleSize: 8, summary })).verdict).toBe('acceptable')
  })

  it('accepts what each of them accepts by itself, on its own first pieces, and nothing else', () => {
    const mark = fc.constantFrom<Mark>('conforming', 'nonconforming', 'conforming', 'conforming')
    const stated = fc.record({ sampleSize: fc.integer({ min: 1, max: 20 }), accept: fc.nat(3), gap: fc.nat(2) })
    fc.assert(
      fc.property(fc.array(mark, { minLength: 20, maxLength: 20 }), fc.nat(4), fc.array(stated, { maxLength: 4 }), (marks, accept, others) => {
        const plans = others.map((other) =>
          plan(other.sampleSize, other.accept, {
            stages: other.gap === 0 ? null : [{ sampleSize: other.sampleSize, accept: other.accept, reject: other.accept + 1 + other.gap }],
          }),
        )
        const alone = (shared: SharedPlan) =>
          judgeLine(
            line(marks.slice(0, shared.sampleSize), shared.accept, [], { stages: shared.stages ?? singleStage(shared.sampleSize, shared.accept) }),
          ).verdict
        const own = judgeLine(line(marks, accept)).verdict
        const isAccepted = [own, ...plans.map(alone)].every((verdict) => verdict === 'acceptable')
        expect(judgeLine(line(marks, accept, plans)).verdict).toBe(isAccepted ? 'acceptable' : 'notAcceptable')
      }),
    )
  })
})

describe('a line that need not be answered', () => {
  it('and was answered in part, all conforming, is acceptable on a plan of stages and on one with a gap, too', () => {
    const stages = [
      { sampleSize: 5, accept: 0, reject: 2 },
      { sampleSize: 5, accept: 1, reject: 2 },
    ]
    const partly = (marks: readonly Mark[], given: typeof stages) =>
      judgeLine(line(marks, 1, [], { isRequired: false, sampleSize: 10, stages: given })).verdict
    expect([partly(marksOf('ooo'), stages), partly(marksOf('oxo'), stages), partly(marksOf('xxo'), stages)]).toEqual([
      'acceptable',
      'notAcceptable',
      'notAcceptable',
    ])
    const gap = [{ sampleSize: 10, accept: 0, reject: 2 }]
    expect([partly(marksOf('ooo'), gap), partly(marksOf('oxo'), gap), partly(marksOf('xx'), gap)]).toEqual([
      'acceptable',
      'acceptable',
      'notAcceptable',
    ])
  })

  it('says the same of a summary as of its pieces: one in the gap is accepted, and normal inspection comes back', () => {
    const gap = [{ sampleSize: 8, accept: 0, reject: 2 }]
    const byPiece = judgeLine(line(marksOf('oxoooooo'), 0, [], { stages: gap }))
    const summary = { count: 8, mean: 5, deviation: 1, nonconforming: 1 }
    const summed = judgeLine(line([], 0, [], { sampleSize: 8, stages: gap, summary }))
    for (const found of [byPiece, summed]) expect(found).toMatchObject({ verdict: 'acceptable', because: { returnsToNormal: true, reject: 2 } })
    const refused = { ...summary, nonconforming: 2 }
    expect(judgeLine(line([], 0, [], { sampleSize: 8, stages: gap, summary: refused })).verdict).toBe('notAcceptable')
  })
})
