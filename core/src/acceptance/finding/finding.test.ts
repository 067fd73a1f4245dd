import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Mark } from '../../tolerance/judgeReading'
import { judgeLine, judgeLot, type LineMarks } from './finding'
import { describeFinding, describeLine } from './describeFinding'

function line(ok: number, nok: number, change: Partial<LineMarks> = {}): LineMarks {
  const marks: Mark[] = [...Array<Mark>(ok).fill('conforming'), ...Array<Mark>(nok).fill('nonconforming')]
  return { name: 'Gate gap', sampleSize: ok + nok, accept: 1, isRequired: true, isDecisive: false, marks, ...change }
}

describe('the finding of a line', () => {
  it('carries its arithmetic in one sentence', () => {
    expect(describeLine(judgeLine(line(30, 2)))).toBe('32 inspected, 2 nonconforming, Ac 1 → not acceptable')
    expect(describeLine(judgeLine(line(31, 1)))).toBe('32 inspected, 1 nonconforming, Ac 1 → acceptable')
  })

  it('is open while a required answer is blank', () => {
    expect(judgeLine(line(12, 0, { sampleSize: 13 }))).toMatchObject({ verdict: 'notJudged', blank: 1 })
    expect(describeLine(judgeLine(line(12, 0, { sampleSize: 13 })))).toBe('12 inspected, 0 nonconforming, 1 of 13 not answered yet')
    const left = judgeLine(line(0, 0, { sampleSize: 3, isRequired: false }))
    expect(left.verdict).toBe('notJudged')
    expect(describeLine(left)).toBe('not answered, not required')
  })

  it('accepts none when the line is decisive, whatever its acceptance number', () => {
    expect(judgeLine(line(12, 1, { isDecisive: true }))).toMatchObject({ verdict: 'notAcceptable', accept: 0 })
  })
})

describe('the finding of a lot', () => {
  it('is not acceptable when one line is not', () => {
    const finding = judgeLot([line(13, 0), line(11, 2, { name: 'Burrs' })])
    expect(finding.verdict).toBe('notAcceptable')
    expect(describeFinding(finding)).toBe('Burrs: 2 nonconforming of 13, Ac 1 → lot not acceptable')
  })

  it('names the decisive line that failed it alone', () => {
    expect(describeFinding(judgeLot([line(13, 0), line(12, 1, { name: 'Marking', isDecisive: true })]))).toContain('decisive → lot not acceptable')
    expect(describeFinding(judgeLot([line(9, 4), line(12, 1, { name: 'Marking', isDecisive: true })]))).toContain('(decisive: Marking)')
  })

  it('is blocked by blanks, even when a line has failed already', () => {
    const finding = judgeLot([line(1, 3), line(12, 0, { name: 'Burrs', sampleSize: 13 })])
    expect(finding.verdict).toBe('notJudged')
    expect(describeFinding(finding)).toBe('1 reading still blank on Burrs → not judged')
  })

  it('is not judged when there is nothing to judge', () => {
    expect(judgeLot([]).verdict).toBe('notJudged')
    expect(judgeLot([line(0, 0, { sampleSize: 2, isRequired: false })]).verdict).toBe('notJudged')
  })

  it('never passes with a blank on a required line, and never passes with a failed line', () => {
    const any = fc.record({ ok: fc.nat(5), nok: fc.nat(5), blank: fc.nat(2), accept: fc.nat(4), isRequired: fc.boolean(), isDecisive: fc.boolean() })
    fc.assert(
      fc.property(fc.array(any, { minLength: 1, maxLength: 4 }), (lines) => {
        const finding = judgeLot(lines.map(({ ok, nok, blank, ...rest }) => line(ok, nok, { ...rest, sampleSize: ok + nok + blank })))
        const hasBlank = lines.some((entry) => entry.isRequired && entry.blank > 0)
        const hasFailed = finding.lines.some((entry) => entry.verdict === 'notAcceptable')
        return finding.verdict !== 'acceptable' || (!hasBlank && !hasFailed)
      }),
    )
  })
})

describe('a line of another plan', () => {
  const marks = (pattern: string): Mark[] =>
    [...pattern].map((letter) => (letter === 'o' ? 'conforming' : letter === 'x' ? 'nonconforming' : 'marginal'))
  const base = { name: 'bore', sampleSize: 16, accept: 1, isRequired: true, isDecisive: false }
  const stages = [
    { sampleSize: 8, accept: 0, reject: 2 },
    { sampleSize: 8, accept: 1, reject: 2 },
  ]

  it('of two stages needs the second only when the first does not decide', () => {
    expect(judgeLine({ ...base, stages, marks: marks('oooooooo') })).toMatchObject({ verdict: 'acceptable', blank: 0 })
    expect(judgeLine({ ...base, stages, marks: marks('ooooooox') })).toMatchObject({ verdict: 'notJudged', blank: 8, isComplete: false })
    expect(judgeLine({ ...base, stages, marks: marks('oooooxx') })).toMatchObject({ verdict: 'notJudged', blank: 1 })
    expect(describeLine(judgeLine({ ...base, stages, marks: marks('ooooooxx') }))).toBe(
      '8 inspected, 2 nonconforming, stage 1: Ac 0, Re 2 → not acceptable',
    )
    expect(judgeLine({ ...base, stages, marks: marks('oooooooxoooooooo') })).toMatchObject({ verdict: 'acceptable', blank: 0 })
  })

  it('by variables is judged by mean and spread, and by counting where there is no spread', () => {
    const variables = { method: 's', sampleSize: 4, k: 1.45, sigma: null } as const
    const line = { ...base, sampleSize: 4, marks: marks('oooo'), variables, limits: { lower: null, upper: 10 } }
    expect(judgeLine({ ...line, values: [9.1, 9.3, 9.2, 9.4] }).verdict).toBe('acceptable')
    expect(judgeLine({ ...line, values: [9.9, 9.3, 9.9, 9.4] }).verdict).toBe('notAcceptable')
    expect(describeLine(judgeLine({ ...line, values: [9, 9, 9, 9] }))).toMatch(/all readings alike/)
  })

  it('counts nonconformities, and △ as it is told', () => {
    expect(judgeLine({ ...base, sampleSize: 2, marks: marks('xo'), nonconformities: 3 })).toMatchObject({
      verdict: 'notAcceptable',
      nonconforming: 3,
    })
    const band = { ...base, sampleSize: 3, accept: 0, marks: marks('oom') }
    expect(judgeLine({ ...band, marginalConforms: true }).verdict).toBe('acceptable')
    expect(judgeLine({ ...band, marginalConforms: false }).verdict).toBe('notAcceptable')
  })

  it('that only notes facts has no verdict and holds nothing up', () => {
    const noted = { ...base, sampleSize: 1, accept: 0, marks: [], unjudged: 1 }
    expect(judgeLine(noted)).toMatchObject({ verdict: 'notJudged', isComplete: true })
    expect(judgeLot([noted]).verdict).toBe('acceptable')
    expect(judgeLot([{ ...noted, unjudged: 0 }]).verdict).toBe('notJudged')
  })
})
