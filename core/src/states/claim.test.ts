import { expect, it } from 'vitest'
import { plannedMinutes } from '../acceptance/plans/plannedMinutes'
import { takingOf } from './claim'

it('an inspection is taken by one person, as long as it is open', () => {
  expect(takingOf({ state: 'toDo', holderId: null }, 'rosa')).toBe('free')
  expect(takingOf({ state: 'started', holderId: 'rosa' }, 'rosa')).toBe('own')
  expect(takingOf({ state: 'started', holderId: 'tomek' }, 'rosa')).toBe('taken')
  expect(takingOf({ state: 'finished', holderId: null }, 'rosa')).toBe('closed')
})

it('minutes are planned from the pieces, rounded up, and are unknown where no line says how long it takes', () => {
  const line = { sampleSize: 13, minutesPerPiece: 0.7 } as const
  expect(plannedMinutes([line, { ...line, sampleSize: 5, minutesPerPiece: null }])).toBe(10)
  expect(plannedMinutes([line, { ...line, sampleSize: 2, minutesPerPiece: 4 }])).toBe(18)
  expect(plannedMinutes([{ ...line, minutesPerPiece: null }])).toBeNull()
  expect(plannedMinutes([])).toBeNull()
})
