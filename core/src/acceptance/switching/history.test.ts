import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { historyOf } from '../frequency/frequencyHistory'
import { describeFrequencyRule, expectedShare, isDue, type FrequencyRule } from '../frequency/frequencyRule'
import { replay, summariseReplay, type PastLot } from '../replay/replay'
import { switchingSteps, type JudgedLot } from './switching'

const code = (expected: string) => expect.objectContaining({ code: expected })
const lots = (pattern: string): JudgedLot[] => [...pattern].map((letter) => ({ isAccepted: letter !== 'x', accept: 1, isInGap: letter === 'g' }))
const states = (pattern: string, allowsReduced = true) => switchingSteps(lots(pattern), { allowsReduced }).map((step) => step.next)

describe('the switching rules', () => {
  it('tighten after 2 of 5 lots not accepted, and say why', () => {
    const steps = switchingSteps(lots('ooxoox'), { allowsReduced: false })
    expect(steps[4]).toMatchObject({ under: 'normal', next: 'normal', because: null })
    expect(switchingSteps(lots('ooxox'), { allowsReduced: false }).at(-1)).toMatchObject({
      next: 'tightened',
      because: { kind: 'refused', refused: 2, of: 5 },
    })
    expect(steps.at(-1)?.next).toBe('tightened')
    expect(states('xooooxo', false).at(-1)).toBe('normal')
  })

  it('return to normal after 5 accepted in a row, and stop after 5 not accepted under tightened inspection', () => {
    expect(states('xxooooo').at(-1)).toBe('normal')
    expect(states('xxoxooxoxxx', false).slice(-2)).toEqual(['tightened', 'discontinued'])
    expect(states('xxxxxxxoooooo').at(-1)).toBe('discontinued')
  })

  it('stay tightened after 4 accepted in a row, and after a fifth that comes after one that was not', () => {
    expect(states('xxoooo', false).at(-1)).toBe('tightened')
    expect(states('xxooooxo', false).at(-1)).toBe('tightened')
    expect(states('xxooooo', false).at(-1)).toBe('normal')
  })

  it('reduce at a score of 30, in steps of 2 for acceptance on 0 or 1, only where that is allowed (ISO 2859-1)', () => {
    expect(states('o'.repeat(14)).at(-1)).toBe('normal')
    expect(switchingSteps(lots('o'.repeat(15)), { allowsReduced: true }).at(-1)).toMatchObject({ next: 'reduced', score: 30 })
    expect(states('o'.repeat(40), false).at(-1)).toBe('normal')
    expect(states(`${'o'.repeat(15)}x`).at(-1)).toBe('normal')
    expect(states(`${'o'.repeat(15)}g`).at(-1)).toBe('normal')
  })

  it('score 3 for larger acceptance numbers only when the lot would pass one AQL tighter', () => {
    const easy = Array.from({ length: 10 }, () => ({ isAccepted: true, accept: 3, isAcceptedTighter: true }))
    expect(switchingSteps(easy, { allowsReduced: true }).at(-1)?.next).toBe('reduced')
    const [first, ...rest] = easy
    expect(
      switchingSteps([...rest, { ...first, isAccepted: true, accept: 3, isAcceptedTighter: false }], { allowsReduced: true }).at(-1),
    ).toMatchObject({ score: 0 })
    expect(() => switchingSteps([{ isAccepted: true, accept: -1 }], { allowsReduced: true })).toThrow(code('acceptance_number_invalid'))
  })

  it('never go from reduced to tightened directly, nor out of discontinued, for any history', () => {
    fc.assert(
      fc.property(fc.array(fc.constantFrom('o', 'o', 'o', 'o', 'x', 'g'), { maxLength: 200 }), (letters) =>
        switchingSteps(lots(letters.join('')), { allowsReduced: true }).every(
          ({ under, next }) =>
            !(under === 'reduced' && next === 'tightened') &&
            !(under === 'tightened' && next === 'reduced') &&
            !(under === 'discontinued' && next !== 'discontinued'),
        ),
      ),
    )
  })
})

const arrival = (i: number) => ({
  id: `lot ${i}`,
  day: `2026-0${1 + Math.floor(i / 28)}-${String(1 + (i % 28)).padStart(2, '0')}`,
  atHours: i * 24,
  quantity: 100,
})
/** Runs a rule over arrivals whose inspected lots are accepted unless named; gives the numbers of the inspected ones. */
function inspected(rule: FrequencyRule, count: number, failing: readonly number[] = []): number[] {
  const before = historyOf([])
  const failed = new Set(failing)
  return Array.from({ length: count }, (_, i) => i).filter((i) => {
    const { isDue: isInspected } = isDue(rule, arrival(i), before)
    before.note({ ...arrival(i), isInspected, isAccepted: isInspected ? !failed.has(i) : null })
    return isInspected
  })
}

describe('a frequency rule', () => {
  it.each<readonly [FrequencyRule, number, readonly number[]]>([
    [{ kind: 'everyArrival' }, 4, [0, 1, 2, 3]],
    [{ kind: 'oneIn', k: 4 }, 10, [0, 4, 8]],
    [{ kind: 'oncePer', period: 'week' }, 16, [0, 4, 11]],
    [{ kind: 'oncePer', period: 'month' }, 40, [0, 28]],
    [{ kind: 'perPieces', pieces: 300 }, 8, [0, 3, 6]],
    [{ kind: 'perHours', hours: 48 }, 6, [0, 2, 4]],
    [{ kind: 'certificateOnly', clearance: 3 }, 8, [0, 1, 2]],
    [{ kind: 'earnedSkipping', clearance: 3, k: 3 }, 10, [0, 1, 2, 5, 8]],
  ])('%j looks at the right arrivals', (rule, count, wanted) => {
    expect(inspected(rule, count)).toEqual(wanted)
    expect(describeFrequencyRule(rule)).not.toBe('')
  })

  it('looks at everything again after a failure, as long as it says', () => {
    expect(inspected({ kind: 'oneIn', k: 4, fullAfterFailure: 3 }, 14, [4])).toEqual([0, 4, 5, 6, 7, 11])
    expect(inspected({ kind: 'earnedSkipping', clearance: 3, k: 3 }, 12, [5])).toEqual([0, 1, 2, 5, 6, 7, 8, 11])
  })

  it.each<readonly [FrequencyRule, number]>([
    [{ kind: 'oneIn', k: 5 }, 0.9],
    [{ kind: 'randomShare', percent: 25 }, 0.9],
    [{ kind: 'earnedSkipping', clearance: 4, k: 3 }, 0.9],
    [{ kind: 'earnedSkipping', clearance: 8, k: 5 }, 0.97],
    [{ kind: 'oneIn', k: 5, fullAfterFailure: 10 }, 0.8],
    [{ kind: 'randomShare', percent: 20, fullAfterFailure: 6 }, 0.9],
    [{ kind: 'earnedSkipping', clearance: 4, k: 3, fullAfterFailure: 9 }, 0.85],
  ])('%j looks at the share that is expected on the long run', (rule, accepted) => {
    // A congruential generator (Numerical Recipes) says which lots would fail, so that the run is the same each time.
    let seed = 7
    const count = 6000
    const failing = Array.from({ length: count }, (_, i) => i).filter(
      () => (seed = (seed * 1_664_525 + 1_013_904_223) % 2 ** 32) / 2 ** 32 > accepted,
    )
    expect(Math.abs(inspected(rule, count, failing).length / count - (expectedShare(rule, accepted) ?? 0))).toBeLessThan(0.03)
    expect(expectedShare({ kind: 'oncePer', period: 'day' }, accepted)).toBeNull()
  })

  it('remembers a standing however many came since, and asks nothing of what passed by', () => {
    const history = historyOf(Array.from({ length: 3 }, (_, i) => ({ ...arrival(i), isInspected: true, isAccepted: true })))
    for (let i = 3; i < 5000; i++) history.note({ ...arrival(i % 200), isInspected: false, isAccepted: null })
    expect(isDue({ kind: 'certificateOnly', clearance: 3 }, arrival(1), history)).toMatchObject({ isDue: false, because: { row: 3 } })
    expect(isDue({ kind: 'oneIn', k: 6000 }, arrival(1), history)).toMatchObject({ isDue: false, because: { since: 4998 } })
    // What was not inspected after a failure does not bring skipping nearer.
    history.note({ ...arrival(1), isInspected: true, isAccepted: false })
    for (let i = 0; i < 10; i++) history.note({ ...arrival(2), isInspected: false, isAccepted: null })
    expect(isDue({ kind: 'oneIn', k: 100, fullAfterFailure: 1 }, arrival(3), history).because).toEqual({ kind: 'afterFailure', lots: 1 })
  })

  it('looks at every arrival that belongs to no order, and at the first of each order', () => {
    const rule = { kind: 'oncePerOrder' } as const
    const history = historyOf([{ ...arrival(0), order: 'A-1', isInspected: true, isAccepted: true }])
    history.note({ ...arrival(1), order: 'B-2', isInspected: false, isAccepted: null })
    history.note({ ...arrival(2), isInspected: true, isAccepted: true })
    const looks = (order?: string) => isDue(rule, { ...arrival(3), order }, history).isDue
    expect([looks('A-1'), looks('B-2'), looks(''), looks()]).toEqual([false, true, true, true])
  })

  it('draws a random share by the identity: the same again, and about so many', () => {
    const rule = { kind: 'randomShare', percent: 30 } as const
    const drawn = Array.from({ length: 2000 }, (_, i) => isDue(rule, { ...arrival(1), id: `L-${i}` }, historyOf([])).isDue)
    expect(drawn).toEqual(Array.from({ length: 2000 }, (_, i) => isDue(rule, { ...arrival(1), id: `L-${i}` }, historyOf([])).isDue))
    expect(drawn.filter(Boolean).length / 2000).toBeCloseTo(0.3, 1)
  })

  it.each<readonly [FrequencyRule, string]>([
    [{ kind: 'oneIn', k: 0 }, 'frequency_invalid'],
    [{ kind: 'randomShare', percent: 101 }, 'percent_invalid'],
    [{ kind: 'perHours', hours: 0 }, 'frequency_invalid'],
    [{ kind: 'everyArrival', fullAfterFailure: 1.5 }, 'frequency_invalid'],
  ])('is refused when it could never be carried out: %j', (rule, error) => {
    expect(() => isDue(rule, arrival(0), historyOf([]))).toThrow(code(error))
  })
})

const past = (i: number, found: number, sampleSize = 20): PastLot => ({
  ...arrival(i),
  code: `L-${i}`,
  sampleSize: sampleSize,
  accept: 0,
  readings: Array.from({ length: sampleSize }, (_, piece) => ({
    value: piece < found ? '10.5' : (9.9 + 0.01 * piece).toFixed(2),
    isConforming: piece >= found,
  })),
})

describe('the past replayed', () => {
  const history = [past(0, 0), past(1, 1), past(2, 3), past(3, 0)]

  it('changes nothing when nothing is changed', () => {
    const seen = [...replay(history, {})]
    expect(seen.map((lot) => lot.accepted)).toEqual([1, 0, 0, 1])
    expect(summariseReplay(seen, 5)).toMatchObject({ expectedChanges: 0, piecesBefore: 80, piecesAfter: 80, poorLots: 1, poorPassed: 0 })
  })

  it('judges the values anew under other limits', () => {
    const wide = [...replay(history, { limits: { nominal: null, lower: '9', upper: '11' } })]
    expect(wide.map((lot) => lot.accepted)).toEqual([1, 1, 1, 1])
    expect(summariseReplay(wide, 5)).toMatchObject({ certainChanges: 2, expectedChanges: 2, changesDeviation: 0 })
  })

  it('draws a smaller sample without replacement: a chance, with its spread', () => {
    const [, one] = [...replay(history, { sampling: { kind: 'fixedNumber', sampleSize: 5, accept: 0 } })]
    expect(one?.accepted).toBeCloseTo(0.75, 12)
    const summary = summariseReplay([...replay(history, { sampling: { kind: 'fixedNumber', sampleSize: 5, accept: 0 } })], 4)
    expect(summary.piecesAfter).toBe(20)
    expect(summary.changesDeviation).toBeGreaterThan(0)
    expect(summary.poorPassed).toBeGreaterThan(0.75)
  })

  it('estimates the pieces that a larger sample would add, from what was recorded', () => {
    const [none] = [...replay([past(0, 0, 9)], { sampling: { kind: 'fixedNumber', sampleSize: 10, accept: 0 } })]
    // Laplace's rule of succession: after nine conforming, the next one conforms 10 times in 11.
    expect(none?.accepted).toBeCloseTo(10 / 11, 12)
    expect(none?.missing).toBe(1)
  })

  it('lets lots pass that a frequency rule skips, and counts them', () => {
    const seen = [...replay(history, { frequency: { kind: 'oneIn', k: 2 } })]
    expect(seen.map((lot) => lot.isInspected)).toEqual([true, false, true, false])
    expect(summariseReplay(seen, 1)).toMatchObject({ notInspected: 2, poorLots: 2, poorPassed: 1 })
  })

  it('judges measured values by variables', () => {
    const change = {
      limits: { nominal: null, lower: '9', upper: '11' },
      sampling: { kind: 'variablesPlan', method: 's', sampleSize: 20, k: 1.5, sigma: null },
    } as const
    const [first] = [...replay(history, change)]
    expect(first?.because).toMatch(/estimated outside/)
  })
})
