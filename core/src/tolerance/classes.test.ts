import { describe, expect, it } from 'vitest'
import { fitOf, limitsOfClass, standardTolerance, toleranceByFormula, toleranceClass } from './limitsAndFits'

const refused = (facts: object) =>
  expect.objectContaining({ code: 'fit_unknown', facts: expect.objectContaining({ ...facts, field: 'tolerance' }) as object })

describe('tolerance classes at the edges of their tables (ISO 286-1 and -2, from memory)', () => {
  it.each([
    // Holes K, M, N are moved by Δ up to grade 8, P and later up to 7; not up to 3 mm, where N9 mirrors the shaft too.
    [40, 'K8', 12, -27],
    [40, 'N8', -3, -42],
    [2, 'N9', -4, -29],
    [3, 'N9', -4, -29],
    [40, 'N9', 0, -62],
    [2, 'K9', 0, -25],
    [40, 'P8', -26, -65],
    [40, 'P7', -17, -42],
    [40, 'R7', -25, -50],
    [3, 'P7', -6, -16],
    [3, 'N7', -4, -14],
    [30, 'K3', -0.5, -4.5],
    // M6 is −9 in one step only.
    [250, 'M6', -8, -37],
    [251, 'M6', -9, -41],
    [315, 'M6', -9, -41],
    [316, 'M6', -10, -46],
    [300, 'M7', 0, -52],
    [300, 'N6', -25, -57],
    // Shafts k have a deviation from grade 4 to 7 only.
    [30, 'k8', 33, 0],
    [30, 'k3', 4, 0],
    [30, 'k4', 8, 2],
    [30, 'k7', 23, 2],
    [30, 'j6', 9, -4],
    [30, 'J8', 20, -13],
    [30, 'H7', 21, 0],
    [30, 'G7', 28, 7],
    [3, 'JS6', 3, -3],
    [500, 'H7', 63, 0],
  ] as const)('%f %s is %f and %f µm', (size, symbol, upperUm, lowerUm) => {
    expect(toleranceClass(size, symbol)).toEqual({ upperUm, lowerUm })
  })

  it('steps belong to the size at their upper end', () => {
    expect([3, 3.1, 6, 6.1].map((size) => standardTolerance(size, 7))).toEqual([10, 12, 12, 15])
  })

  it('refuse sizes, letters and grades that they do not hold, and say which', () => {
    for (const [size, symbol] of [
      [0, 'H7'],
      [-5, 'H7'],
      [500.1, 'js7'],
      [0, 'js7'],
      [30, 'K9'],
      [30, 'J9'],
      [30, 'xH7'],
      [30, 'H7x'],
      [30, '7'],
      [30, 'CD7'],
      [30, 'jS7'],
      [30, 'g0'],
      [30, 'h00'],
    ] as const)
      expect(() => toleranceClass(size, symbol), `${size} ${symbol}`).toThrow(refused({ symbol, sizeMm: size }))
    expect(() => standardTolerance(0, 7)).toThrow(refused({ sizeMm: 0, grade: 7 }))
    expect(() => standardTolerance(30, 19)).toThrow(refused({ sizeMm: 30, grade: 19 }))
    for (const [size, grade] of [
      [0, 7],
      [-1, 7],
      [30, 4],
      [30, 19],
    ] as const)
      expect(() => toleranceByFormula(size, grade), `${size} IT${grade}`).toThrow(refused({ sizeMm: size, grade }))
  })

  it('give limits in mm, down to a tenth of a micrometre and on both sides of the nominal', () => {
    expect(limitsOfClass('25', 'h01')).toEqual({ nominal: '25', lower: '24.9994', upper: '25' })
    expect(limitsOfClass('25', 'C11')).toEqual({ nominal: '25', lower: '25.11', upper: '25.24' })
    expect(limitsOfClass('400', 'a13')).toEqual({ nominal: '400', lower: '397.76', upper: '398.65' })
  })
})

describe('a fit', () => {
  it('wants a hole and a shaft, in that order', () => {
    for (const [hole, shaft] of [
      ['h7', 'g6'],
      ['H7', 'G6'],
      ['1H7', 'g6'],
      ['H7', '1g6'],
    ] as const)
      expect(() => fitOf('25', hole, shaft), `${hole}/${shaft}`).toThrow(refused({ symbol: hole, shaftSymbol: shaft }))
  })

  it('is a clearance fit when they just touch, an interference fit when they are pressed, a transition fit between', () => {
    expect([fitOf('25', 'H7', 'h6'), fitOf('25', 'H7', 'k6'), fitOf('25', 'H7', 's6'), fitOf('25', 'P7', 'h6')].map(({ kind }) => kind)).toEqual([
      'clearance',
      'transition',
      'interference',
      'interference',
    ])
  })
})
