import type { InspectionLine, Reading } from '@nemawashi/contract'
import { describe, expect, it } from 'vitest'
import { cellKey, cellsOf, marksOf, mayBecomeNumber, nextOpen } from './cells'
import type { WaitingReading } from './outbox'

const line = (id: string, sampleSize: number, kind: 'measured' | 'judged' = 'measured') =>
  ({
    id,
    sampleSize,
    kind,
    name: id,
    accept: 0,
    isRequired: true,
    isDecisive: false,
    nominal: null,
    lower: '1',
    upper: '2',
    resolution: '0.1',
  }) as InspectionLine
const lines = [line('gap', 3), line('burr', 2, 'judged')]
const stored = (lineId: string, piece: number, value: string, id = `${lineId}${piece}`): Reading => ({
  id,
  lineId,
  piece,
  value,
  mark: 'conforming',
  typedAt: '2026-03-01T08:00:00Z',
  recordedByName: 'R',
  corrections: 0,
})
const waiting = (lineId: string, piece: number, value: string | null, refusal: string | null = null): WaitingReading => ({
  id: `w${lineId}${piece}`,
  lineId,
  piece,
  value,
  typedAt: '',
  isConfirmedOutside: false,
  corrects: null,
  inspectionId: 'i',
  sequence: 1,
  refusal,
})

describe('the cells of the bench', () => {
  it('show what waits to be sent over what is stored, and judge it at once', () => {
    const cells = cellsOf(lines, [stored('gap', 1, '1.5')], [waiting('gap', 1, '2.1'), waiting('burr', 1, 'X')])
    expect(cells.get(cellKey('gap', 1))).toMatchObject({ value: '2.1', mark: 'nonconforming', status: 'waiting', corrections: 1 })
    expect(cells.get(cellKey('burr', 1))?.mark).toBe('nonconforming')
  })

  it('leave a refused answer out, so that a refusal never counts', () => {
    expect(cellsOf(lines, [], [waiting('gap', 1, '9', 'refused')]).size).toBe(0)
  })

  it('lead to the next open one, down a line or across a piece, and round to the first', () => {
    const cells = cellsOf(lines, [stored('gap', 2, '1.5')], [])
    expect(nextOpen(lines, cells, { line: 0, piece: 1 }, 'down')).toEqual({ line: 0, piece: 3 })
    expect(nextOpen(lines, cells, { line: 0, piece: 1 }, 'across')).toEqual({ line: 1, piece: 1 })
    expect(nextOpen(lines, cells, { line: 1, piece: 2 }, 'down')).toEqual({ line: 0, piece: 1 })
    const full = cellsOf(lines, [1, 2, 3].map((piece) => stored('gap', piece, '1.5')).concat([1, 2].map((piece) => stored('burr', piece, 'O'))), [])
    expect(nextOpen(lines, full, { line: 0, piece: 1 }, 'down')).toBeNull()
  })

  it('give blanks to the finding for what was not answered', () => {
    expect(marksOf(lines, cellsOf(lines, [stored('gap', 1, '1.5')], []))[0]?.marks).toEqual(['conforming', 'notJudged', 'notJudged'])
  })

  it('never let a letter into a number cell', () => {
    expect(['', '-', '12', '12,', '12.5', ',5'].every(mayBecomeNumber)).toBe(true)
    expect(['1e4', '12.5mm', '1 2', '1.2.3', '--1', 'O'].some(mayBecomeNumber)).toBe(false)
  })
})
