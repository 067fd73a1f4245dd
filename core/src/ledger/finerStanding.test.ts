import { describe, expect, it } from 'vitest'
import { allowsStep, finerAt, freeSteps, refinable } from './finerStanding'
import { standings } from './standings'

const prototypes = { standing: 'released', mayUse: true, mayPick: false, mayShip: false, countsForPlanning: false } as const

describe('a finer standing', () => {
  it('takes away from what its standing allows, and gives nothing that it does not', () => {
    expect(freeSteps.map((step) => allowsStep('released', prototypes, step))).toEqual([true, false, false])
    expect(freeSteps.map((step) => allowsStep('released', null, step))).toEqual([true, true, true])
    for (const standing of standings.filter((standing) => standing !== 'released'))
      for (const each of refinable)
        for (const step of freeSteps) expect(allowsStep(standing, { ...prototypes, standing: each, mayPick: true, mayShip: true }, step)).toBe(false)
  })

  it('of a kind of another standing says nothing of pieces that are free', () => {
    expect(allowsStep('released', { ...prototypes, standing: 'quarantined' }, 'ship')).toBe(true)
  })

  it('of a container goes before that of its lot, and lapses with the standing that it is a kind of', () => {
    const ofLot = { ...prototypes, containerId: null }
    const ofBox = { ...prototypes, containerId: 'box' }
    const held = { ...prototypes, standing: 'onHold', containerId: null } as const
    expect(finerAt([ofLot, ofBox, held], { containerId: 'box', standing: 'released' })).toBe(ofBox)
    expect(finerAt([ofLot, ofBox, held], { containerId: 'other', standing: 'released' })).toBe(ofLot)
    expect(finerAt([ofBox], { containerId: null, standing: 'released' })).toBeNull()
    expect(finerAt([ofLot, held], { containerId: 'box', standing: 'onHold' })).toBe(held)
    expect(finerAt([ofLot], { containerId: 'box', standing: 'scrapped' })).toBeNull()
  })
})
