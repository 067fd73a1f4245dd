import { describe, expect, it } from 'vitest'
import { concededOf, dispositionsFor, frees, needsReason, standingsInPlant } from './decideOn'
import { dispositions, sealMeaning, standings } from './standings'

describe('what can be decided on pieces', () => {
  // Common practice: what failed is not plainly released, and what left the plant is not decided on.
  it.each([
    ['onHold', false, ['release', 'concession', 'quarantine', 'returnToSupplier', 'scrap']],
    ['onHold', true, ['concession', 'quarantine', 'returnToSupplier', 'scrap']],
    ['released', false, ['quarantine', 'returnToSupplier', 'scrap']],
    ['released', true, ['concession', 'quarantine', 'returnToSupplier', 'scrap']],
    ['quarantined', false, ['release', 'concession', 'returnToSupplier', 'scrap']],
    ['quarantined', true, ['concession', 'returnToSupplier', 'scrap']],
    ['inRework', false, ['scrap']],
    ['rejected', true, ['quarantine', 'returnToSupplier', 'scrap']],
    ['scrapped', false, ['quarantine']],
    ['returned', false, []],
    ['shipped', false, []],
    ['used', true, []],
  ] as const)('that are %s, failed %s', (standing, hasFailed, expected) => {
    expect(dispositionsFor(standing, { hasFailed, isMade: false })).toEqual(expected)
    // What was made here can go back to no supplier.
    expect(dispositionsFor(standing, { hasFailed, isMade: true })).toEqual(expected.filter((of) => of !== 'returnToSupplier'))
  })

  it('is possible in the plant only', () => {
    expect(standings.filter((standing) => !standingsInPlant.includes(standing))).toEqual(['returned', 'shipped', 'used', 'notArrived'])
  })

  it('wants a reason, but for a plain release; and frees by release and concession', () => {
    expect(dispositions.filter(needsReason)).toEqual(['concession', 'quarantine', 'returnToSupplier', 'scrap'])
    expect(dispositions.filter(frees)).toEqual(['release', 'concession'])
  })

  it('counts as conceded what the gates conceded together, and no more than is freed', () => {
    expect([concededOf(100, []), concededOf(100, [30, 20]), concededOf(40, [30, 20])]).toEqual([0, 50, 40])
  })

  it('is said on the seal: one disposition for all, several, or none', () => {
    const seal = (...asked: (typeof dispositions)[number][]) => sealMeaning(asked.map((disposition) => ({ disposition })))
    expect([seal(), seal('scrap', 'scrap'), seal('release', 'scrap')]).toEqual(['noted', 'scrap', 'split'])
  })
})
