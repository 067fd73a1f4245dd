import { describe, expect, it } from 'vitest'
import { concededOf, dispositionsFor, frees, mayChoose, mayDecideOn, needsReason, standingsInPlant } from './decideOn'
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
    expect(dispositionsFor(standing, { hasFailed, isMade: true })).toEqual(expected.filter((choice) => choice !== 'returnToSupplier'))
  })

  it('is a quality manager’s; an inspector releases what is acceptable and not set aside', () => {
    const [manager, inspector, nobody] = [
      { isManager: true, isInspector: false },
      { isManager: false, isInspector: true },
      { isManager: false, isInspector: false },
    ]
    const findings = [
      { hasFailed: false, setAside: 0 },
      { hasFailed: false, setAside: 2 },
      { hasFailed: true, setAside: 0 },
    ]
    const whose = (who: typeof manager) => findings.map((finding) => mayDecideOn(who, finding))
    expect([whose(manager), whose(inspector), whose(nobody)]).toEqual([
      [true, true, true],
      [true, false, false],
      [false, false, false],
    ])
    const chosen = (who: typeof manager) => dispositions.filter((disposition) => mayChoose(who, disposition))
    expect([chosen(manager), chosen(inspector), chosen(nobody)]).toEqual([dispositions, ['release'], []])
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
