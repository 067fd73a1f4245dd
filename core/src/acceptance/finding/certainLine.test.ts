import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Mark } from '../../tolerance/judgeReading'
import { certainLine, describeCertainty } from './certainLine'
import { judgeLine, type LineMarks } from './finding'

const line = (good: number, bad: number, change: Partial<LineMarks> = {}): LineMarks => ({
  name: 'Gap',
  sampleSize: 10,
  accept: 1,
  isRequired: true,
  isDecisive: false,
  marks: [...Array<Mark>(bad).fill('nonconforming'), ...Array<Mark>(good).fill('conforming')],
  ...change,
})
const words = (given: LineMarks) => {
  const certain = certainLine(given)
  return certain && describeCertainty(certain)
}

describe('a line that is certain already', () => {
  it('has found as many as refuse it, or too few pieces left to refuse it', () => {
    expect(words(line(1, 1))).toBeNull()
    expect(words(line(1, 2))).toBe('2 nonconforming, Re 2, 7 not answered yet → certainly not acceptable, whatever they are')
    expect(words(line(8, 0))).toBeNull()
    expect(words(line(9, 0))).toBe('0 nonconforming, Ac 1, 1 not answered yet → certainly acceptable, whatever it is')
    expect(words(line(10, 0))).toBeNull()
  })

  it('is refused by one nonconforming piece where it is decisive, also by variables, which is else never certain', () => {
    const variables = { method: 's', k: 1.5, sigma: null } as unknown as NonNullable<LineMarks['variables']>
    const limits = { lower: 0, upper: 1 }
    expect(words(line(2, 1, { isDecisive: true }))).toMatch(/Re 1, 7 not answered yet → certainly not acceptable/)
    expect(words(line(1, 2, { variables, limits, values: [2, 3, 0.5] }))).toBeNull()
    expect(words(line(2, 1, { variables, limits, values: [2, 0.5, 0.6], isDecisive: true }))).toMatch(/certainly not acceptable/)
  })

  it('is never certainly acceptable by nonconformities, of which a piece may have many, nor while another plan asks the same', () => {
    expect(words(line(9, 0, { nonconformities: 0 }))).toBeNull()
    expect(words(line(5, 0, { nonconformities: 2 }))).toMatch(/^2 nonconformities, Re 2, 5 not answered yet/)
    const also = [{ planName: 'Other', sampleSize: 10, accept: 0, stages: null, variables: null }]
    expect(words(line(9, 0, { also }))).toBeNull()
  })

  it('says the stage of a double plan', () => {
    const stages = [
      { sampleSize: 5, accept: 0, reject: 2 },
      { sampleSize: 5, accept: 1, reject: 2 },
    ]
    expect(words(line(1, 2, { stages }))).toBe('stage 1: 2 nonconforming, Re 2, 2 not answered yet → certainly not acceptable, whatever they are')
  })

  it('agrees with the finding, whatever the answers to come are', () => {
    fc.assert(
      fc.property(fc.nat(12), fc.nat(12), fc.nat(4), fc.boolean(), fc.boolean(), (good, bad, accept, isDecisive, isRest) => {
        const sampleSize = 13
        if (good + bad >= sampleSize) return
        const open = line(good, bad, { sampleSize, accept, isDecisive })
        const certain = certainLine(open)
        const ended = (mark: Mark) => judgeLine({ ...open, marks: [...open.marks, ...Array<Mark>(sampleSize - good - bad).fill(mark)] }).verdict
        const [best, worst] = [ended('conforming'), ended('nonconforming')]
        expect(certain?.verdict ?? null).toBe(best === worst ? best : null)
        if (certain) expect(ended(isRest ? 'conforming' : 'nonconforming')).toBe(certain.verdict)
      }),
    )
  })
})
