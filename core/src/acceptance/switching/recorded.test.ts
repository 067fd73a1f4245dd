import { describe, expect, it } from 'vitest'
import { switchingHistory, type RecordedLot } from './switchingHistory'

/** Lot of 1,000 at level II is letter J: 80 pieces, Ac 2, Re 3 at 1 %. Source: MIL-STD-105E, Tables I and II-A (from memory). */
const scheme = { level: 'II', aqlPercent: 1 } as const
const lot = (found: number, recorded = 80, quantity = 1000): RecordedLot => ({ quantity, recorded, found })
const run = (lots: readonly RecordedLot[], options: object = {}) => switchingHistory(lots, scheme, { allowsReduced: true, ...options })
const times = <T>(count: number, value: T): T[] => Array.from({ length: count }, () => value)

describe('recorded lots under the switching rules', () => {
  it('are judged by the plan in force where just its sample was recorded', () => {
    expect([0, 1, 2, 3, 4].map((found) => run([lot(found)])[0]?.judged.isAccepted)).toEqual([true, true, true, false, false])
    // Tightened, J at 1 %: Ac 1, Re 2.
    expect([0, 1, 2].map((found) => run([lot(found)], { start: 'tightened' })[0]?.judged.isAccepted)).toEqual([true, true, false])
    expect(run([lot(0)])[0]?.judged.accept).toBe(2)
    expect(run([lot(0)], { start: 'tightened' })[0]?.judged.accept).toBe(1)
  })

  it('earn reduced inspection by ten lots that one class tighter would take too, and by none where it would not', () => {
    const clean = run(times(11, lot(0)))
    expect(clean.map(({ under }) => under).slice(8)).toEqual(['normal', 'normal', 'reduced'])
    expect(run(times(20, lot(2))).every(({ under }) => under === 'normal')).toBe(true)
    expect(run(times(20, lot(0)), { allowsReduced: false }).every(({ under }) => under === 'normal')).toBe(true)
  })

  it('tighten by two refused of five, go back after five accepted, and stop after five refused', () => {
    const [bad, good] = [lot(5), lot(0)]
    const tightened = run([bad, good, good, good, bad, ...times(5, good), good])
    expect(tightened.map(({ under }) => under)).toEqual([...times(5, 'normal'), ...times(5, 'tightened'), 'normal'])
    const far = run([bad, good, good, good, good, bad, good])
    expect(far.at(-1)?.under).toBe('normal')
    expect(run(times(8, bad)).at(-1)?.next).toBe('discontinued')
  })

  it('begin where they are told to; reduced only where that is allowed', () => {
    expect(run([lot(0)], { start: 'reduced' })[0]?.under).toBe('reduced')
    expect(run([lot(0)], { start: 'reduced', allowsReduced: false })[0]?.under).toBe('normal')
  })

  it('say of a sample of another size what is likelier, and look at every piece of a lot that is smaller than the sample', () => {
    // A sample of 80 out of these 200 has about 8, or about 1.
    expect(run([lot(20, 200)])[0]?.judged.isAccepted).toBe(false)
    expect(run([lot(2, 200)])[0]?.judged.isAccepted).toBe(true)
    const small = (found: number) => run([lot(found, 10, 10)])[0]?.judged
    expect([small(0)?.isAccepted, small(1)?.isAccepted]).toEqual([true, false])
  })
})
