import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { checkSplit, type SplitRow } from './decisionSplit'
import { afterMovement, balancesOf, checkMovement, quantityByStanding, type Movement } from './movement'
import { dispositions, nextStandings, standings } from './standings'

const code = (expected: string) => expect.objectContaining({ code: expected })
const arrival: Movement = { containerId: null, quantity: 240, from: null, to: { placeId: 'bay', standing: 'onHold' } }
const move = (quantity: number, to: (typeof standings)[number], from: (typeof standings)[number] = 'onHold'): Movement => ({
  containerId: null,
  quantity,
  from: { placeId: 'bay', standing: from },
  to: { placeId: 'bay', standing: to },
})

describe('the ledger', () => {
  it('sums movements to where quantities stand', () => {
    const balances = balancesOf([arrival, move(100, 'released'), move(40, 'used', 'released')])
    expect(quantityByStanding(balances)).toMatchObject({ onHold: 140, released: 60, used: 40, shipped: 0 })
  })

  it('moves all that is there and leaves no empty spot; a movement is one of one place, standing and container', () => {
    const boxed: Movement = { ...arrival, containerId: 'K-01', quantity: 10 }
    expect(balancesOf([arrival, boxed, move(240, 'released')])).toEqual([
      { containerId: 'K-01', placeId: 'bay', standing: 'onHold', sublot: '', quantity: 10 },
      { containerId: null, placeId: 'bay', standing: 'released', sublot: '', quantity: 240 },
    ])
    const balances = balancesOf([boxed, arrival])
    expect(() => checkMovement(balances, move(240, 'released'))).not.toThrow()
    expect(() => checkMovement(balances, { ...move(10, 'released'), containerId: 'K-01' })).not.toThrow()
    expect(() => checkMovement(balances, { ...move(1, 'released'), from: { placeId: 'store', standing: 'onHold' } })).toThrow(
      expect.objectContaining({ code: 'movement_exceeds_balance', facts: { received: 1, available: 0 } }),
    )
    expect(() => checkMovement([], arrival)).not.toThrow()
  })

  it('takes a lot of the largest size and no larger one, and says what it received', () => {
    const most = (quantity: number) => checkMovement([], { ...arrival, quantity })
    expect(() => most(1_000_000_000)).not.toThrow()
    expect(() => most(1_000_000_001)).toThrow(
      expect.objectContaining({ code: 'quantity_invalid', facts: { received: 1_000_000_001, unit: 'piece' } }),
    )
    expect(() => checkMovement(balancesOf([arrival]), move(1, 'used'))).toThrow(
      expect.objectContaining({ code: 'movement_not_allowed', facts: { from: 'onHold', to: 'used' } }),
    )
  })

  it('refuses to move more than there is, nothing, or a fraction', () => {
    const balances = balancesOf([arrival])
    expect(() => checkMovement(balances, move(241, 'released'))).toThrow(code('movement_exceeds_balance'))
    expect(() => checkMovement(balances, move(0, 'released'))).toThrow(code('quantity_invalid'))
    expect(() => checkMovement(balances, move(1.5, 'released'))).toThrow(code('quantity_invalid'))
    expect(() => checkMovement(balances, { ...move(1, 'released'), containerId: 'K-01' })).toThrow(code('movement_exceeds_balance'))
  })

  it('never lets pieces on hold be used or shipped, and brings scrap back to quarantine only', () => {
    const balances = balancesOf([arrival])
    expect(() => checkMovement(balances, move(1, 'used'))).toThrow(code('movement_not_allowed'))
    expect(() => checkMovement(balances, move(1, 'shipped'))).toThrow(code('movement_not_allowed'))
    expect(nextStandings.scrapped).toEqual(['quarantined'])
  })

  it('conserves quantity and stays above zero under any sequence of movements that it takes', () => {
    const step = fc.record({ quantity: fc.integer({ min: -2, max: 300 }), from: fc.constantFrom(...standings), to: fc.constantFrom(...standings) })
    fc.assert(
      fc.property(fc.array(step, { maxLength: 40 }), (steps) => {
        const taken: Movement[] = [arrival]
        let kept = afterMovement([], arrival)
        for (const { quantity, from, to } of steps) {
          const movement = move(quantity, to, from)
          try {
            checkMovement(balancesOf(taken), movement)
            taken.push(movement)
            kept = afterMovement(kept, movement)
          } catch (error) {
            expect(error).toHaveProperty('code')
          }
        }
        const balances = balancesOf(taken)
        // The same one by one, in the same order; emptied spots keep their place in it.
        expect(kept.filter(({ quantity }) => quantity > 0)).toEqual(balances)
        expect(balances.reduce((sum, balance) => sum + balance.quantity, 0)).toBe(240)
        return balances.every((balance) => balance.quantity > 0)
      }),
    )
  })
})

describe('a decision', () => {
  const held = [
    { containerId: 'K-01', quantity: 108 },
    { containerId: 'K-02', quantity: 240 },
  ]
  const row = (containerId: string, quantity: number): SplitRow => ({ containerId, quantity, disposition: 'release' })

  it('has to add up to what is held, container by container', () => {
    expect(() => checkSplit(held, [row('K-01', 108), row('K-02', 200), row('K-02', 40)])).not.toThrow()
    expect(() => checkSplit(held, [row('K-01', 108)])).toThrow(/240 are left without a decision/)
    expect(() => checkSplit(held, [row('K-01', 148), row('K-02', 200)])).toThrow(/40 too many/)
    expect(() => checkSplit(held, [row('K-01', 108), row('K-02', 240), row('K-03', 1)])).toThrow(code('split_does_not_add_up'))
    expect(() => checkSplit(held, [row('K-01', 108), row('K-02', -240)])).toThrow(code('quantity_invalid'))
  })

  it('adds up for every way of cutting a held quantity into rows', () => {
    fc.assert(
      fc.property(
        fc.array(fc.record({ quantity: fc.integer({ min: 1, max: 50 }), disposition: fc.constantFrom(...dispositions) }), { minLength: 1 }),
        (cuts) => {
          const rows = cuts.map((cut) => ({ ...cut, containerId: null }))
          const quantity = cuts.reduce((sum, cut) => sum + cut.quantity, 0)
          checkSplit([{ containerId: null, quantity }], rows)
          expect(() => checkSplit([{ containerId: null, quantity: quantity + 1 }], rows)).toThrow()
        },
      ),
    )
  })
})
