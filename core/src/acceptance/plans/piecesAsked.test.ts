import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { judgeLine, piecesAsked, type Mark } from '../../index'

const stages = [
  { sampleSize: 3, accept: 0, reject: 2 },
  { sampleSize: 3, accept: 1, reject: 2 },
]
const line = (change: object = {}) => ({ recording: 'pieces' as const, sampleSize: 6, stages, isDecisive: false, marginalConforms: true, ...change })
const asked = (asked: ReturnType<typeof line>, marks: readonly Mark[]) =>
  piecesAsked(asked, (piece) => (marks[piece - 1] ? { mark: marks[piece - 1] as Mark } : null))
const [O, T, X] = ['conforming', 'marginal', 'nonconforming'] as const

describe('the pieces that are asked for', () => {
  it('are those of the first stage until it is answered and undecided', () => {
    expect(asked(line(), [])).toBe(3)
    expect(asked(line(), [O, O, O])).toBe(3)
    expect(asked(line(), [X, X, O])).toBe(3)
    expect(asked(line(), [X, O, O])).toBe(6)
  })

  it('go on after a marginal piece where the characteristic counts it as nonconforming, and not where it conforms', () => {
    expect(asked(line({ marginalConforms: false }), [T, O, O])).toBe(6)
    expect(asked(line(), [T, O, O])).toBe(3)
  })

  it('are all of a decisive line and of a single sample, and one cell of a summary', () => {
    expect(asked(line({ isDecisive: true }), [X, X, X])).toBe(6)
    expect(asked(line({ stages: null }), [])).toBe(6)
    expect(asked(line({ recording: 'summary' }), [])).toBe(1)
  })

  it('are never fewer than the finding wants: once they are answered, a required line is judged', () => {
    const mark = fc.constantFrom<Mark>(O, T, X)
    const anyStages = fc
      .array(fc.record({ sampleSize: fc.integer({ min: 1, max: 5 }), step: fc.integer({ min: 0, max: 2 }) }), { minLength: 2, maxLength: 4 })
      .map((parts) => {
        let accept = -1
        return parts.map(({ sampleSize, step }, i) => {
          accept += step + (i === 0 ? 1 : 0)
          return { sampleSize, accept, reject: i === parts.length - 1 ? accept + 1 : accept + 2 }
        })
      })
    fc.assert(
      fc.property(
        anyStages,
        fc.array(mark, { minLength: 20, maxLength: 20 }),
        fc.boolean(),
        fc.boolean(),
        (plan, marks, marginalConforms, isDecisive) => {
          const sampleSize = plan.reduce((sum, stage) => sum + stage.sampleSize, 0)
          const rejects = plan.map((stage, i) => ({ ...stage, reject: Math.max(stage.reject, plan[i - 1]?.reject ?? 0) }))
          const drawn = line({ stages: rejects, sampleSize, marginalConforms, isDecisive })
          const given: Mark[] = []
          while (given.length < asked(drawn, given)) given.push(marks[given.length] as Mark)
          const finding = judgeLine({
            name: 'x',
            sampleSize,
            accept: rejects.at(-1)?.accept ?? 0,
            isRequired: true,
            isDecisive,
            marginalConforms,
            stages: rejects,
            marks: given,
          })
          expect([finding.verdict === 'notJudged', finding.blank]).toEqual([false, 0])
        },
      ),
    )
  })
})
