import { expect, it } from 'vitest'
import { inputOf, newRule, wordsOf } from './placeRules'

it('a rule says what it is for', () => {
  expect(wordsOf(newRule())).toBe('everything')
  expect(wordsOf({ ...newRule(), standing: 'onHold', familyId: 'f', familyName: 'Springs' })).toBe('what is on hold of the family Springs')
  expect(
    wordsOf({
      ...newRule(),
      standing: 'released',
      partId: 'p',
      partCode: 'BX-02',
      supplierId: 's',
      supplierName: 'Saltmere',
      fromPlaceId: 'd',
      fromPlaceName: 'Dock 1',
      moment: 'later',
    }),
  ).toBe('what is released of BX-02 by Saltmere, from Dock 1, once they are in the plant')
})

it('a new rule has no id, and one that is edited keeps its own', () => {
  const [one, two] = [newRule(), newRule()]
  expect(one.key).not.toBe(two.key)
  expect(inputOf(one)).toMatchObject({ id: null, toPlaceId: '' })
  expect(inputOf({ ...two, id: 'r', toPlaceId: 'p' })).toMatchObject({ id: 'r', toPlaceId: 'p', moment: 'always' })
})
