import { describe, expect, it } from 'vitest'
import type { Stage } from '../plans/stagedPlan'
import { describeSamplingRule } from './describeSamplingRule'
import { piecePositions, sampleFor } from './sampleFor'
import { checkSamplingRule, type SamplingRule } from './samplingRule'

const code = (name: string) => expect.objectContaining({ code: name }) as Error
const double: readonly Stage[] = [
  { sampleSize: 8, accept: 0, reject: 2 },
  { sampleSize: 8, accept: 1, reject: 2 },
]

describe('a sampling rule', () => {
  it.each<readonly [SamplingRule, number, number, number, string]>([
    [{ kind: 'squareRoot', accept: 0 }, 500, 24, 0, '√500 rounded up, plus 1: 24 pieces, Ac 0'],
    [{ kind: 'positions', first: 2, last: 1, every: 50, accept: 0 }, 200, 6, 0, 'the first 2, every 50th, the last piece of 200: 6 pieces, Ac 0'],
    [
      { kind: 'zeroAcceptance', limitingPercent: 2, consumersRisk: 0.1 },
      500,
      102,
      0,
      'a lot of 500 with 10 nonconforming passes at most 10 in 100 → 102 pieces, Ac 0',
    ],
    [
      { kind: 'attributesScheme', level: 'II', aqlPercent: 0.65, severity: 'reduced' },
      2000,
      50,
      1,
      'lot 2000, level II → letter K; AQL 0.65 %, reduced → 50 pieces, Ac 1, Re 3',
    ],
    [
      { kind: 'attributesScheme', level: 'II', aqlPercent: 1, form: 'double' },
      500,
      64,
      1,
      'lot 500, level II → letter H; AQL 1 % → double sampling; 32 pieces: accept 0, Re 2; then 32: accept 1, Re 2',
    ],
    [
      { kind: 'variablesScheme', level: 'IV', aqlPercent: 1, severity: 'normal' },
      40,
      5,
      0,
      'lot 40, level IV → letter D; AQL 1 %, normal → 5 pieces, mean at least 1.53 s inside the limit',
    ],
  ])('%j in a lot of %d: %d, accept %d', (rule, lot, size, accept, reasoning) => {
    expect(sampleFor(rule, lot)).toMatchObject({ sampleSize: size, accept, reasoning })
    expect(describeSamplingRule(rule)).not.toBe('')
  })

  it('looks at every piece where the stages would take more than the lot', () => {
    expect(sampleFor({ kind: 'stages', stages: double }, 12)).toMatchObject({ sampleSize: 12, accept: 1, isEveryPiece: true })
    expect(sampleFor({ kind: 'variablesPlan', method: 's', sampleSize: 20, k: 1.5, sigma: null }, 12)).toMatchObject({
      variables: null,
      accept: 0,
      isEveryPiece: true,
    })
  })

  it('names the places of the pieces in a run', () => {
    expect(piecePositions({ kind: 'positions', first: 3, last: 2, every: 10, accept: 0 }, 25)).toEqual([1, 2, 3, 10, 20, 24, 25])
  })

  it.each<readonly [SamplingRule, string]>([
    [{ kind: 'positions', first: 0, last: 0, every: null, accept: 0 }, 'sample_size_invalid'],
    [{ kind: 'zeroAcceptance', limitingPercent: 0, consumersRisk: 0.1 }, 'percent_invalid'],
    [{ kind: 'variablesPlan', method: 'sigma', sampleSize: 5, k: 1, sigma: null }, 'spread_not_positive'],
    [{ kind: 'twoPoints', model: 'series', goodPercent: 5, poorPercent: 1, producersRisk: 0.05, consumersRisk: 0.1 }, 'qualities_reversed'],
  ])('is refused when it could never be carried out: %j', (rule, error) => {
    expect(() => checkSamplingRule(rule)).toThrow(code(error))
  })
})
