import { describe, expect, it } from 'vitest'
import { switchingHistory, switchingSteps } from '../../index'

describe('switching over recorded lots', () => {
  const scheme = { level: 'II', aqlPercent: 1 } as const
  it('holds no count against the number of a sample of another size', () => {
    // Letter L: 200 pieces, Ac 5. Two of 20 recorded are a tenth; a sample of 200 would find about 20.
    const [step] = switchingHistory([{ quantity: 5000, recorded: 20, found: 2 }], scheme, { allowsReduced: true })
    expect(step?.judged).toMatchObject({ accept: 5, isAccepted: false })
  })

  it('is what the rules say of the judged lots, one after the other', () => {
    const lots = Array.from({ length: 300 }, (_, i) => ({ quantity: 500, recorded: 50, found: i % 60 === 7 || i % 60 === 9 ? 6 : 0 }))
    const steps = switchingHistory(lots, scheme, { allowsReduced: true })
    expect(
      switchingSteps(
        steps.map(({ judged }) => judged),
        { allowsReduced: true },
      ).map(({ next }) => next),
    ).toEqual(steps.map(({ next }) => next))
    expect(new Set(steps.map(({ next }) => next))).toContain('tightened')
  })

  it('never begins reduced where that is not allowed', () => {
    expect(switchingSteps([{ isAccepted: true, accept: 1 }], { allowsReduced: false, start: 'reduced' })[0]?.under).toBe('normal')
  })
})
