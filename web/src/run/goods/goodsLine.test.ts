import { expect, it } from 'vitest'
import { againstOrder, goodsLine, isBlankLine, knownLine, quantityOf } from './goodsLine'

const order = {
  lines: [
    { partId: 'bar', open: 60 },
    { partId: 'bar', open: 20 },
    { partId: 'ring', open: 0 },
  ],
}

it('lines of one part share what is open of it, in their order; what goes beyond is said', () => {
  const lines = [
    { partId: 'bar', quantity: 50 },
    { partId: 'bar', quantity: 40 },
    { partId: 'ring', quantity: 1 },
    { partId: 'nut', quantity: 5 },
    { partId: null, quantity: NaN },
  ]
  expect(againstOrder(lines, order)).toEqual([{ open: 80, beyond: 0 }, { open: 30, beyond: 10 }, { open: 0, beyond: 1 }, null, null])
  expect(againstOrder(lines, null)).toEqual([null, null, null, null, null])
})

it('a line is blank until somebody writes in it, and keeps apart from every other', () => {
  const [a, b] = [goodsLine(), goodsLine()]
  expect([isBlankLine(a), a.key === b.key]).toEqual([true, false])
  const known = knownLine({ partId: 'bar', partCode: 'BR-1', partName: 'Bar', unit: 'piece', tracking: 'lot', packQuantity: null }, 1200, 'H-7')
  expect([isBlankLine(known), known.partWords, known.supplierLot, quantityOf({ ...known, quantity: '1 200' })]).toEqual([
    false,
    'BR-1 · Bar',
    'H-7',
    1200,
  ])
  expect(quantityOf(a)).toBeNaN()
})
