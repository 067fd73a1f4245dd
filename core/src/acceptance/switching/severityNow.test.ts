import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { LineFinding } from '../finding/finding'
import { judgeLine } from '../finding/finding'
import { describeLine } from '../finding/describeFinding'
import { describeSamplingRule } from '../rules/describeSamplingRule'
import { sampleFor } from '../rules/sampleFor'
import { judgedLotOf, type SchemeRule } from './judgedLot'
import { ruleUnder } from './ruleUnder'
import { describeSeverity, describeSwitch } from './describeSwitch'
import { severityNow, type SwitchEvent } from './severityNow'
import { switchingSteps, type SwitchState } from './switching'

/** o: accepted, x: not accepted, a: a person answered; every lot under the inspection in force. */
function live(pattern: string, allowsReduced = true) {
  const events: SwitchEvent[] = []
  for (const letter of pattern) {
    const { state } = severityNow(events, { allowsReduced })
    events.push(letter === 'a' ? { kind: 'answered' } : { kind: 'lot', isAccepted: letter === 'o', accept: 1, under: state })
  }
  return severityNow(events, { allowsReduced })
}

// MIL-STD-105E, 4.7 and 4.8.
describe('the inspection that the next lot gets', () => {
  it('is normal, until 2 of 5 lots are not accepted, and normal again after 5 accepted', () => {
    expect(describeSeverity(live(''))).toBe('normal inspection')
    expect(describeSeverity(live('oo'))).toBe('normal inspection, switching score 4')
    expect(describeSeverity(live('oxoox'))).toBe('tightened inspection: 2 of 5 consecutive lots not accepted')
    expect(live('oxooxoooo').state).toBe('tightened')
    expect(describeSeverity(live('oxooxooooo'))).toBe('normal inspection: 5 consecutive lots accepted')
  })

  it('stays discontinued until a person answers, and is tightened then; an answer without a stop changes nothing', () => {
    const stopped = 'xxxxxxx'
    expect(describeSeverity(live(stopped))).toBe('inspection discontinued: 5 lots not accepted under tightened inspection')
    expect(live(`${stopped}ooooo`).state).toBe('discontinued')
    expect(live(`${stopped}a`)).toEqual({ state: 'tightened', because: { kind: 'answered' }, score: 0 })
    expect(live(`${stopped}axxxx`).state).toBe('tightened')
    expect(live(`${stopped}axxxxx`).state).toBe('discontinued')
    expect(live('ooa')).toEqual(live('oo'))
  })

  it('is not moved by a lot that was looked at under another one', () => {
    const late = (under: SwitchState): SwitchEvent => ({ kind: 'lot', isAccepted: false, accept: 1, under })
    const tightened: SwitchEvent[] = [late('normal'), late('normal')]
    expect(severityNow([...tightened, ...Array.from({ length: 9 }, () => late('normal'))], { allowsReduced: false }).state).toBe('tightened')
    expect(severityNow([...tightened, ...Array.from({ length: 5 }, () => late('tightened'))], { allowsReduced: false }).state).toBe('discontinued')
  })

  it('is the one that the steps of the standard end with, for any history in which every lot came in its turn', () => {
    fc.assert(
      fc.property(fc.array(fc.constantFrom('o', 'o', 'o', 'x'), { maxLength: 80 }), (letters) => {
        const steps = switchingSteps(
          letters.map((letter) => ({ isAccepted: letter === 'o', accept: 1 })),
          { allowsReduced: true },
        )
        return live(letters.join('')).state === (steps.at(-1)?.next ?? 'normal')
      }),
    )
  })

  it('begins where it is told to, never with reduced inspection that is not allowed', () => {
    expect(severityNow([], { allowsReduced: true, start: 'reduced' }).state).toBe('reduced')
    expect(severityNow([], { allowsReduced: false, start: 'reduced' }).state).toBe('normal')
    expect(describeSwitch({ kind: 'score', score: 30 })).toBe('switching score 30 reached 30')
  })
})

const rule: SchemeRule = { kind: 'attributesScheme', level: 'II', aqlPercent: 1, switching: 'withReduced' }
const found = (change: Partial<LineFinding> = {}): LineFinding => ({
  name: 'Burr',
  inspected: 80,
  blank: 0,
  nonconforming: 0,
  counting: 'nonconforming',
  accept: 2,
  isDecisive: false,
  verdict: 'acceptable',
  isComplete: true,
  because: { kind: 'counted', stage: null, accept: 2, reject: 3, returnsToNormal: false },
  ...change,
})

describe('a lot as the switching rules see it', () => {
  // MIL-STD-105E, Table II-A: letter J, 80 pieces, Ac 2 at an AQL of 1.0 and Ac 1 at 0.65.
  it('is accepted one AQL tighter when it has no more than that plan accepts', () => {
    expect(judgedLotOf(rule, 1000, found({ nonconforming: 1 }))).toMatchObject({ isAccepted: true, accept: 2, isAcceptedTighter: true })
    expect(judgedLotOf(rule, 1000, found({ nonconforming: 2 }))).toMatchObject({ isAcceptedTighter: false })
    expect(judgedLotOf({ ...rule, aqlPercent: 0.01 }, 1000, found())?.isAcceptedTighter).toBe(false)
    expect(judgedLotOf({ ...rule, counting: 'nonconformities' }, 1000, found({ nonconforming: 90 }))?.isAcceptedTighter).toBe(false)
  })

  it('says nothing where it was not judged, and whether it was in the gap of reduced inspection', () => {
    expect(judgedLotOf(rule, 1000, found({ verdict: 'notJudged' }))).toBeNull()
    const gap = { kind: 'counted', stage: null, accept: 0, reject: 2, returnsToNormal: true } as const
    expect(judgedLotOf(rule, 1000, found({ because: gap }))?.isInGap).toBe(true)
  })

  it.each([
    ['double', 1, true],
    ['double', 2, false],
    ['multiple', 3, true],
    ['multiple', 4, false],
  ] as const)('of a %s plan, decided in stage %i, is accepted early: %s', (form, stage, isEarly) => {
    const because = { kind: 'counted', stage, accept: 1, reject: 3, returnsToNormal: false } as const
    expect(judgedLotOf({ ...rule, form }, 1000, found({ because }))?.isAcceptedEarly).toBe(isEarly)
  })
})

describe('a rule under the inspection in force', () => {
  // MIL-STD-105E, Tables II-A, II-B and II-C, letter J, AQL 1.0.
  it.each([
    ['normal', 80, 2, 3],
    ['tightened', 80, 1, 2],
    ['discontinued', 80, 1, 2],
    ['reduced', 32, 1, 3],
  ] as const)('%s: n %i, Ac %i, Re %i', (state, sampleSize, accept, reject) => {
    expect(sampleFor(ruleUnder(rule, state), 1000)).toMatchObject({ sampleSize, accept, reject })
  })

  it('has none where the rule knows no severity, and its words say that it switches', () => {
    const fixed = { kind: 'fixedNumber', sampleSize: 5, accept: 0 } as const
    expect(ruleUnder(fixed, 'tightened')).toBe(fixed)
    expect(describeSamplingRule(rule)).toBe('MIL-STD-105E, level II, AQL 1 %, switching by history')
  })
})

describe('a line on which acceptance is stopped', () => {
  it('is not acceptable whatever was found, and is not judged before it is answered', () => {
    const line = { name: 'Burr', sampleSize: 2, accept: 1, isRequired: true, isDecisive: false, isStopped: true }
    expect(judgeLine({ ...line, marks: ['conforming'] }).verdict).toBe('notJudged')
    const full = judgeLine({ ...line, marks: ['conforming', 'conforming'] })
    expect(full).toMatchObject({ verdict: 'notAcceptable', because: { kind: 'stopped' } })
    expect(describeLine(full)).toBe('2 inspected, 0 nonconforming, inspection is discontinued: a person decides → not acceptable')
    expect(judgeLine({ ...line, isStopped: false, marks: ['conforming', 'conforming'] }).verdict).toBe('acceptable')
  })
})
