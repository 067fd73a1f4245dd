import { describe, expect, it } from 'vitest'
import { dispatchLife, dispatchStates } from './dispatchStates'
import { expectedLife, expectedStates } from './expectedDelivery'
import { inspectionLife, inspectionStates, isOpen, isSettled } from './inspectionStates'
import { isAtItsEnd, may, type Life } from './life'
import { revisionLife, revisionStates } from './revisionStates'

const lives: readonly (readonly [string, Life<string>, readonly string[], string])[] = [
  ['an inspection', inspectionLife, inspectionStates, 'toDo'],
  ['a revision', revisionLife, revisionStates, 'draft'],
  ['an expected delivery', expectedLife, expectedStates, 'announced'],
  ['a dispatch', dispatchLife, dispatchStates, 'planned'],
]

/** States that one comes to from here, by any acts. */
function reached(life: Life<string>, from: string, seen = new Set([from])): Set<string> {
  for (const [act, { to }] of Object.entries(life)) {
    if (to !== null && may(life, act, from) && !seen.has(to)) reached(life, to, seen.add(to))
  }
  return seen
}

describe.each(lives)('the life of %s', (_name, life, states, first) => {
  it('comes to every state that there is, and to no other', () => {
    expect([...reached(life, first)].sort()).toEqual([...states].sort())
  })

  it('can end from wherever it is', () => {
    for (const state of states) expect([...reached(life, state)].some((other) => isAtItsEnd(life, other))).toBe(true)
  })
})

describe('an inspection', () => {
  it('takes readings until it is finished, and is waited for until it is decided or called off', () => {
    expect(inspectionStates.filter(isOpen)).toEqual(['toDo', 'started'])
    expect(inspectionStates.filter(isSettled)).toEqual(['decided', 'cancelled'])
  })

  it('is taken up again only before it is decided', () => {
    expect(inspectionStates.filter((state) => may(inspectionLife, 'reopen', state))).toEqual(['finished'])
  })
})

describe('an expected delivery', () => {
  it('is received from where it is, in one step or in two, and is turned away only before that', () => {
    const from = (act: keyof typeof expectedLife) => expectedStates.filter((state) => may(expectedLife, act, state))
    expect([from('register'), from('receive'), from('turnAway')]).toEqual([['announced'], ['announced', 'registered'], ['announced', 'registered']])
  })
})

describe('a revision', () => {
  it('is changed no more once it is released, and never comes back', () => {
    expect(revisionStates.filter((state) => may(revisionLife, 'discard', state))).toEqual(['draft'])
    expect(reached(revisionLife, 'retired')).toEqual(new Set(['retired']))
    expect(reached(revisionLife, 'released').has('draft')).toBe(false)
  })
})
