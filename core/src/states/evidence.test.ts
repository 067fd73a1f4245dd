import { expect, it } from 'vitest'
import { checkEvidence, describeEvidence, type EvidenceFacts } from './evidence'

const nothing: EvidenceFacts = { faultCode: null, count: null, words: '', hasPicture: false, hasDocument: false, place: null }
const refusalOf = (change: Partial<EvidenceFacts>) => {
  try {
    checkEvidence({ ...nothing, ...change })
    return null
  } catch (error) {
    return (error as { code: string }).code
  }
}

it('says something: a fault with its number, words, or a file', () => {
  expect(refusalOf({})).toBe('evidence_empty')
  expect(refusalOf({ words: '  ' })).toBe('evidence_empty')
  expect(refusalOf({ words: 'scratched' })).toBeNull()
  expect(refusalOf({ hasDocument: true })).toBeNull()
  expect(refusalOf({ faultCode: 'PORE', count: 1 })).toBeNull()
  expect(refusalOf({ faultCode: 'PORE' })).toBe('count_invalid')
  expect(refusalOf({ words: 'x', count: 2 })).toBe('count_invalid')
  for (const count of [0, -1, 1.5, 100_001, Number.NaN]) expect(refusalOf({ faultCode: 'PORE', count })).toBe('count_invalid')
})

it('marks a place on a picture, from one corner to the other, and on nothing else', () => {
  const picture = { hasPicture: true, hasDocument: true }
  for (const place of [
    { x: 0, y: 0 },
    { x: 1000, y: 1000 },
  ])
    expect(refusalOf({ ...picture, place })).toBeNull()
  expect(refusalOf({ hasDocument: true, place: { x: 1, y: 1 } })).toBe('place_invalid')
  for (const place of [
    { x: -1, y: 0 },
    { x: 0, y: 1001 },
    { x: 0.5, y: 0 },
  ])
    expect(refusalOf({ ...picture, place })).toBe('place_invalid')
})

it('reads as one line', () => {
  const place = { x: 1, y: 2 }
  expect(describeEvidence({ ...nothing, piece: 3, faultCode: 'PORE', count: 2, words: 'at the gate', place })).toBe(
    'piece 3: PORE × 2, at the gate, marked on the picture',
  )
  expect(describeEvidence({ ...nothing, piece: null, faultCode: 'LAP', count: 1 })).toBe('LAP')
  expect(describeEvidence({ ...nothing, piece: 1 })).toBe('piece 1')
})
