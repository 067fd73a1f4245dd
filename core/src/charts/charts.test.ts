import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import cases from '../../testdata/charts.json'
import { chartConstants, meanDeviationFactor } from './chartConstants'
import { chartBasis, chartKindFor, chartPoints, chartSigma, type ChartBasis, type ChartKind } from './controlChart'
import { driftOf } from './drift'
import { runLength } from './runLength'
import { signalSets, signalsOf, SignalWatch, type SignalRule } from './signals'

/** Every case names its source, an independent library; it passes within the tolerance that it states. */
interface Case {
  readonly id: string
  readonly inputs: Record<string, unknown>
  readonly expected: Record<string, unknown>
  readonly tolerance: { readonly rel: number; readonly abs: number; readonly fields?: Record<string, { rel: number; abs: number }> }
}
const ofKind = (kind: string) => (cases as unknown as Case[]).filter(({ inputs }) => String(inputs['kind']).startsWith(kind))

function expectCase({ id, expected, tolerance }: Case, got: Record<string, unknown>): void {
  for (const [key, wanted] of Object.entries(expected)) {
    if (!(key in got)) continue
    const { rel, abs } = tolerance.fields?.[key] ?? tolerance
    const near = (a: unknown, b: unknown): void => {
      if (Array.isArray(b)) return void b.forEach((value, i) => near((a as unknown[])[i], value))
      if (b === null) return expect(a, `${id} ${key}`).toBeNull()
      expect(Math.abs(Number(a) - Number(b)), `${id} ${key}: ${String(a)}, wanted ${String(b)}`).toBeLessThanOrEqual(
        Math.max(abs, rel * Math.abs(Number(b))),
      )
    }
    near(got[key], wanted)
  }
}

function basisOf(kind: ChartKind, subgroups: readonly (readonly number[])[]): ChartBasis {
  const basis = chartBasis(kind, subgroups)
  if (basis === null) throw new Error('No limits.')
  return basis
}

/** The check values' names of the rules. */
const named: Readonly<Record<string, SignalRule>> = {
  r1_beyond_3s: 'beyond',
  r2_2of3_beyond_2s: 'twoOfThree',
  r3_4of5_beyond_1s: 'fourOfFive',
  r4_8_one_side: 'eightOneSide',
  r5_9_one_side: 'nineOneSide',
  r6_6_trend: 'sixTrend',
  r7_14_alternating: 'fourteenAlternating',
  r8_15_within_1s: 'fifteenWithin',
  r9_8_beyond_1s: 'eightOutside',
}
function expectRules({ id, expected }: Case, z: readonly number[]): void {
  for (const [name, positions] of Object.entries(expected['rules'] as Record<string, number[]>)) {
    const rule = named[name] as SignalRule
    const found = signalsOf(z, [rule]).map(({ at }) => at + 1)
    expect(found, `${id} ${rule}`).toEqual(positions)
  }
}

describe('constants of control charts', () => {
  it('are those of independent calculations, and of the tables of ASTM and ISO to the printed place', () => {
    for (const check of ofKind('constants')) {
      const n = Number(check.inputs['n'])
      if (check.inputs['kind'] === 'constants.c4') expectCase(check, { c4: meanDeviationFactor(n) })
      if (n > 25) continue
      const { c4, d2, d3 } = chartConstants(n)
      const relative = Math.sqrt(1 - c4 * c4) / c4
      expectCase(check, {
        c4,
        d2,
        d3,
        A2: 3 / (d2 * Math.sqrt(n)),
        A3: 3 / (c4 * Math.sqrt(n)),
        B3: Math.max(0, 1 - 3 * relative),
        B4: 1 + 3 * relative,
        D3: Math.max(0, 1 - (3 * d3) / d2),
        D4: 1 + (3 * d3) / d2,
      })
    }
  })

  it('are not there for what has no range', () => {
    for (const n of [0, 1, 2.5, 26]) expect(() => chartConstants(n)).toThrow(/subgroups of 2 to 25/)
  })
})

describe('control charts', () => {
  const kinds: Readonly<Record<string, ChartKind>> = {
    'chart.xbar_r': 'meanRange',
    'chart.xbar_s': 'meanDeviation',
    'chart.xbar_s_variable': 'meanDeviation',
    'chart.imr': 'individuals',
  }
  it('have the limits, points and signals of independent calculations', () => {
    for (const [name, kind] of Object.entries(kinds))
      for (const check of ofKind(name).filter(({ inputs }) => inputs['kind'] === name)) {
        const { x, subgroups } = check.inputs as { x?: number[]; subgroups?: number[][] }
        const groups = subgroups ?? (x ?? []).map((value) => [value])
        const basis = basisOf(kind, groups)
        const points = chartPoints(basis, groups)
        const isVariable = name === 'chart.xbar_s_variable'
        const one = <T>(values: readonly T[]) => (isVariable ? values : values.at(-1))
        const spreads = points.map(({ spread }) => spread)
        expectCase(check, {
          center: basis.center,
          ucl: one(points.map(({ upper }) => upper)),
          lcl: one(points.map(({ lower }) => lower)),
          points: points.map(({ value }) => value),
          ranges: spreads.map((spread) => spread?.value),
          sds: spreads.map((spread) => spread?.value),
          Rbar: basis.meanSpread,
          sbar: basis.meanSpread,
          MRbar: basis.meanSpread,
          R_ucl: spreads.at(-1)?.upper,
          R_lcl: spreads.at(-1)?.lower,
          MR_ucl: spreads.at(-1)?.upper,
          s_ucl: one(spreads.map((spread) => spread?.upper)),
          s_lcl: one(spreads.map((spread) => spread?.lower)),
          ...(isVariable ? {} : { sigma: chartSigma(basis, groups[0]?.length ?? 1) }),
        })
        expectRules(
          check,
          points.map(({ z }) => z),
        )
      }
  })

  it('are chosen by how many were measured together', () => {
    const groups = (...sizes: number[]) => sizes.map((size) => Array.from({ length: size }, () => 1))
    expect([groups(1, 1), groups(5, 5), groups(10, 10), groups(4, 5), []].map(chartKindFor)).toEqual([
      ...['individuals', 'meanRange', 'meanDeviation', 'meanDeviation', 'individuals'],
    ])
  })

  it('have no limits without a spread, and a point beyond all of them where nothing ever varied', () => {
    expect([chartBasis('individuals', [[1]]), chartBasis('meanDeviation', [[1], [2]])]).toEqual([null, null])
    // 0.1 is no double: the mean of many is not quite 0.1, and is no signal.
    const tenths = basisOf('meanDeviation', [
      [0.1, 0.1, 0.1],
      [0.1, 0.1, 0.1],
      [0.1, 0.1],
    ])
    expect(
      chartPoints(tenths, [
        [0.1, 0.1, 0.1],
        [0.1, 0.1],
        [0.2, 0.2],
      ]).map(({ z }) => z),
    ).toEqual([0, 0, Infinity])
    const still = basisOf('individuals', [[5], [5], [5]])
    expect(chartPoints(still, [[5], [5.1], [4.9]]).map(({ z }) => z)).toEqual([0, Infinity, -Infinity])
    // One that is smaller than those of the basis has wider limits by the same σ.
    const threes = basisOf('meanRange', [
      [1, 2, 3],
      [2, 3, 4],
    ])
    const [whole, begun] = chartPoints(threes, [
      [1, 2, 3],
      [1, 2],
    ])
    const { d2, d3 } = chartConstants(2)
    expect([(begun?.upper ?? 0) - 2.5, begun?.spread?.upper]).toEqual([
      expect.closeTo(((whole?.upper ?? 0) - 2.5) * Math.sqrt(1.5), 12),
      expect.closeTo((d2 + 3 * d3) * chartSigma(threes, 2), 12),
    ])
    const mixed = basisOf('meanDeviation', [[1, 2, 3], [4]])
    expect(chartPoints(mixed, [[4]])[0]).toMatchObject({ size: 1, spread: null, lower: mixed.center - 3, upper: mixed.center + 3 })
  })
})

describe('signals', () => {
  it('complete where independent calculations say', () => {
    for (const check of ofKind('rules.z')) expectRules(check, check.inputs['z'] as number[])
  })

  it('name the points that they are made of', () => {
    expect(signalsOf([0, 2.5, -0.1, 2.2], signalSets.westernElectric.rules)).toEqual([{ rule: 'twoOfThree', at: 3, points: [1, 3] }])
    expect(signalsOf([1, 2, 3, 4, 5, 6], ['sixTrend'])).toEqual([{ rule: 'sixTrend', at: 5, points: [0, 1, 2, 3, 4, 5] }])
  })

  it('are the same whether points come one by one or all at once, and for a chart turned over', () => {
    fc.assert(
      fc.property(fc.array(fc.double({ min: -4, max: 4, noNaN: true }), { maxLength: 60 }), (z) => {
        const watch = new SignalWatch(signalSets.nelson.rules)
        const all = signalsOf(z, signalSets.nelson.rules)
        expect(z.flatMap((value) => watch.push(value))).toEqual(all)
        expect(
          signalsOf(
            z.map((value) => -value),
            signalSets.nelson.rules,
          ),
        ).toEqual(all)
      }),
    )
  })
})

describe('the average run length', () => {
  const rulesOf: Readonly<Record<string, readonly SignalRule[]>> = {
    'rule 1 (beyond 3 sigma) or 2 of 3 beyond 2 sigma same side': ['beyond', 'twoOfThree'],
    'rule 1 or 4 of 5 beyond 1 sigma same side': ['beyond', 'fourOfFive'],
    'rule 1 or 8 in a row one side': ['beyond', 'eightOneSide'],
  }
  it('is that of independent calculations', () => {
    for (const check of ofKind('shewhart.arl')) {
      const { delta, n } = check.inputs as { delta: number; n: number }
      expectCase(check, { arl: runLength(['beyond'], delta * Math.sqrt(n)).mean })
    }
    for (const check of ofKind('shewhart.runsrules')) {
      const { rules, mu } = check.inputs as { rules: string; mu: number }
      expectCase(check, { arl: runLength(rulesOf[rules] ?? [], mu).mean })
    }
  })

  it('of the four rules of Western Electric is 91.75 points (Champ and Woodall 1987, from memory)', () => {
    expect(runLength(signalSets.westernElectric.rules).mean).toBeCloseTo(91.75, 2)
  })

  it('that is played agrees with one that is worked out, within its error, and is the same each time', () => {
    const nelson = runLength(signalSets.nelson.rules)
    expect(nelson).toEqual(runLength(signalSets.nelson.rules))
    // Of 15 within one the chance is small: a rule more can only ring sooner.
    const more = runLength([...signalSets.westernElectric.rules, 'fifteenWithin'])
    expect(more.error).toBeLessThan(2)
    expect(Math.abs(more.mean - 91.75)).toBeLessThan(15)
    expect(nelson.mean).toBeLessThan(91.75)
  })
})

describe('a drift', () => {
  it('has the line, and the stretch in which it meets the limit, of independent calculations', () => {
    for (const check of ofKind('drift.line')) {
      const { x, y, limit } = check.inputs as { x: number[]; y: number[]; limit: number }
      const { intercept, slope, deviation, chance, meets, between } = driftOf(x, y, limit) ?? {}
      expectCase(check, { intercept, slope, s: deviation, p_slope: chance, meets, mean: between })
    }
  })

  it('is none of two points, nor of points at one place', () => {
    expect([driftOf([1, 2], [1, 2], 3), driftOf([1, 1, 1], [1, 2, 3], 3)]).toEqual([null, null])
    expect(driftOf([1, 2, 3], [5, 5, 5], 9)).toMatchObject({ slope: 0, chance: 1, meets: null, between: null })
  })
})
