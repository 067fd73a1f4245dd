import { noDetails, type InspectionLine, type Reading } from '@nemawashi/contract'
import { describe, expect, it } from 'vitest'
import { usualUnits } from '@nemawashi/core'
import { cellKey, askedPieces, cellsOf, marksOfCells, mayBecomeNumber, nextOpen, readOn } from './cells'
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
    unit: 'mm',
    resolution: '0.1',
    details: noDetails,
    stages: null,
    shared: [] as InspectionLine['shared'],
    variables: null,
    counting: 'nonconforming',
  }) as InspectionLine
const lines = [line('gap', 3), line('burr', 2, 'judged')]
const stored = (lineId: string, piece: number, value: string, id = `${lineId}${piece}`): Reading => ({
  id,
  lineId,
  piece,
  value,
  entered: null,
  mark: 'conforming',
  typedAt: '2026-03-01T08:00:00Z',
  gaugeCode: null,
  isSent: false,
  inspectedByName: null,
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
  personId: 'p',
  sequence: 1,
  refusal,
})

describe('the cells of the bench', () => {
  it('are read in the units of the plant; a text in a unit that it does not have stands as it is', () => {
    const hub = { symbol: 'hub', name: 'hub', quantity: 'length', factor: '2.5', shift: null }
    const [gap] = lines as [InspectionLine]
    expect(readOn(gap, '0.6 hub', [...usualUnits, hub])).toMatchObject({ value: '1.5', mark: 'conforming' })
    expect(readOn(gap, '0.6 hub')).toEqual({ value: '0.6 hub', mark: 'notJudged' })
    expect(cellsOf(lines, [], [waiting('gap', 1, '0.6 hub')], [...usualUnits, hub]).get(cellKey('gap', 1))?.value).toBe('1.5')
  })

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
    const [gap] = marksOfCells(lines, cellsOf(lines, [stored('gap', 1, '1.5')], []))
    expect(gap).toMatchObject({ marks: ['conforming'], sampleSize: 3 })
  })

  it('ask for the second stage only when the first does not decide, and for one cell of a summary', () => {
    const staged = {
      ...line('gap', 6),
      stages: [
        { sampleSize: 3, accept: 0, reject: 2 },
        { sampleSize: 3, accept: 1, reject: 2 },
      ],
    }
    const good = [1, 2, 3].map((piece) => stored('gap', piece, '1.5'))
    expect(askedPieces(staged, cellsOf([staged], [], []))).toBe(3)
    expect(askedPieces(staged, cellsOf([staged], good, []))).toBe(3)
    expect(askedPieces(staged, cellsOf([staged], good, [waiting('gap', 3, '9')]))).toBe(6)
    expect(askedPieces({ ...staged, stages: null, details: { ...noDetails, recording: 'summary' } }, new Map())).toBe(1)
  })

  it('show a value entered in another unit as it will be kept', () => {
    expect(cellsOf(lines, [], [waiting('gap', 1, '0.05 in')]).get(cellKey('gap', 1))).toMatchObject({ value: '1.27', mark: 'conforming' })
  })

  it('never let a letter into a number cell', () => {
    expect(['', '-', '12', '12,', '12.5', ',5'].every(mayBecomeNumber)).toBe(true)
    expect(['1e4', '12.5mm', '1 2', '1.2.3', '--1', 'O'].some(mayBecomeNumber)).toBe(false)
  })
})
