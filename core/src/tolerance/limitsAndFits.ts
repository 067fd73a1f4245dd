/**
 * The ISO code system for tolerances on linear sizes: standard tolerance grades and fundamental deviations up to 500 mm.
 * Source: ISO 286-1:2010, tables 1 to 5, values from memory; `drawing.test.ts` holds them against check values and the formulas.
 */
import { CoreError } from '../errors'
import { addDecimal, type Decimal } from './decimal'
import type { Limits } from './limits'

/** Upper ends of the steps of nominal size, mm. */
const mainSteps = [3, 6, 10, 18, 30, 50, 80, 120, 180, 250, 315, 400, 500] as const
const fineSteps = [3, 6, 10, 14, 18, 24, 30, 40, 50, 65, 80, 100, 120, 140, 160, 180, 200, 225, 250, 280, 315, 355, 400, 450, 500] as const

const list = (text: string) => text.split(' ').map((value) => (value === '-' ? null : Number(value)))

/** Standard tolerance grades IT1 to IT18, µm, a column a main step. */
const grades: readonly (readonly (number | null)[])[] = [
  '0.8 1 1 1.2 1.5 1.5 2 2.5 3.5 4.5 6 7 8',
  '1.2 1.5 1.5 2 2.5 2.5 3 4 5 7 8 9 10',
  '2 2.5 2.5 3 4 4 5 6 8 10 12 13 15',
  '3 4 4 5 6 7 8 10 12 14 16 18 20',
  '4 5 6 8 9 11 13 15 18 20 23 25 27',
  '6 8 9 11 13 16 19 22 25 29 32 36 40',
  '10 12 15 18 21 25 30 35 40 46 52 57 63',
  '14 18 22 27 33 39 46 54 63 72 81 89 97',
  '25 30 36 43 52 62 74 87 100 115 130 140 155',
  '40 48 58 70 84 100 120 140 160 185 210 230 250',
  '60 75 90 110 130 160 190 220 250 290 320 360 400',
  '100 120 150 180 210 250 300 350 400 460 520 570 630',
  '140 180 220 270 330 390 460 540 630 720 810 890 970',
  '250 300 360 430 520 620 740 870 1000 1150 1300 1400 1550',
  '400 480 580 700 840 1000 1200 1400 1600 1850 2100 2300 2500',
  '600 750 900 1100 1300 1600 1900 2200 2500 2900 3200 3600 4000',
  '1000 1200 1500 1800 2100 2500 3000 3500 4000 4600 5200 5700 6300',
  '1400 1800 2200 2700 3300 3900 4600 5400 6300 7200 8100 8900 9700',
].map(list)

/** Fundamental deviations of shafts, µm: upper for a to h (negative), lower for k to z. 13 values stand on the main steps, 25 on the fine ones. */
const shafts: Readonly<Record<string, readonly (number | null)[]>> = {
  a: list('-270 -270 -280 -290 -290 -300 -300 -310 -320 -340 -360 -380 -410 -460 -520 -580 -660 -740 -820 -920 -1050 -1200 -1350 -1500 -1650'),
  b: list('-140 -140 -150 -150 -150 -160 -160 -170 -180 -190 -200 -220 -240 -260 -280 -310 -340 -380 -420 -480 -540 -600 -680 -760 -840'),
  c: list('-60 -70 -80 -95 -95 -110 -110 -120 -130 -140 -150 -170 -180 -200 -210 -230 -240 -260 -280 -300 -330 -360 -400 -440 -480'),
  d: list('-20 -30 -40 -50 -65 -80 -100 -120 -145 -170 -190 -210 -230'),
  e: list('-14 -20 -25 -32 -40 -50 -60 -72 -85 -100 -110 -125 -135'),
  f: list('-6 -10 -13 -16 -20 -25 -30 -36 -43 -50 -56 -62 -68'),
  g: list('-2 -4 -5 -6 -7 -9 -10 -12 -14 -15 -17 -18 -20'),
  h: list('0 0 0 0 0 0 0 0 0 0 0 0 0'),
  k: list('0 1 1 1 2 2 2 3 3 4 4 4 5'),
  m: list('2 4 6 7 8 9 11 13 15 17 20 21 23'),
  n: list('4 8 10 12 15 17 20 23 27 31 34 37 40'),
  p: list('6 12 15 18 22 26 32 37 43 50 56 62 68'),
  r: list('10 15 19 23 23 28 28 34 34 41 43 51 54 63 65 68 77 80 84 94 98 108 114 126 132'),
  s: list('14 19 23 28 28 35 35 43 43 53 59 71 79 92 100 108 122 130 140 158 170 190 208 232 252'),
  t: list('- - - - - - 41 48 54 66 75 91 104 122 134 146 166 180 196 218 240 268 294 330 360'),
  u: list('18 23 28 33 33 41 48 60 70 87 102 124 144 170 190 210 236 258 284 315 350 390 435 490 540'),
  v: list('- - - - 39 47 55 68 81 102 120 146 172 202 228 252 284 310 340 385 425 475 530 595 660'),
  x: list('20 28 34 40 45 54 64 80 97 122 146 178 210 248 280 310 350 385 425 475 525 590 660 740 820'),
  y: list('- - - - - 63 75 94 114 144 174 214 254 300 340 380 425 470 520 580 650 730 820 920 1000'),
  z: list('26 35 42 50 60 73 88 112 136 172 210 258 310 365 415 465 520 575 640 710 790 900 1000 1100 1250'),
}
/** Grades IT01 and IT0, µm, a column a main step. Source: ISO 286-1:2010, annex, from memory. */
const finest: Readonly<Record<string, readonly (number | null)[]>> = {
  '01': list('0.3 0.4 0.4 0.5 0.6 0.6 0.8 1 1.2 2 2.5 3 4'),
  '0': list('0.5 0.6 0.6 0.8 1 1 1.2 1.5 2 3 4 5 6'),
}
/** Deviations of j and J, which follow no formula: shaft lower, hole upper, by grade. */
const shaftJ: Readonly<Record<number, readonly (number | null)[]>> = {
  5: list('-2 -2 -2 -3 -4 -5 -7 -9 -11 -13 -16 -18 -20'),
  6: list('-2 -2 -2 -3 -4 -5 -7 -9 -11 -13 -16 -18 -20'),
  7: list('-4 -4 -5 -6 -8 -10 -12 -15 -18 -21 -26 -28 -32'),
}
const holeJ: Readonly<Record<number, readonly (number | null)[]>> = {
  6: list('2 5 5 6 8 10 13 16 18 22 25 29 33'),
  7: list('4 6 8 10 12 14 18 22 26 30 36 39 43'),
  8: list('6 10 12 15 20 24 28 34 41 47 55 60 66'),
}

function stepOf(steps: readonly number[], size: number): number {
  return steps.findIndex((end) => size <= end)
}

/**
 * Standard tolerance of a grade, µm. Shape: nominal size mm (over 0, up to 500), grade 1..18 → µm.
 * Source: ISO 286-1, table 1.
 * @throws {CoreError} `fit_unknown`.
 */
export function standardTolerance(sizeMm: number, grade: number): number {
  const tolerance = grades[grade - 1]?.[sizeMm > 0 ? stepOf(mainSteps, sizeMm) : -1]
  if (typeof tolerance === 'number') return tolerance
  throw new CoreError(
    'fit_unknown',
    `There is no tolerance grade IT${grade} for a size of ${sizeMm} mm here: sizes over 0 to 500 mm, grades 1 to 18.`,
    {
      sizeMm,
      grade,
      field: 'tolerance',
    },
  )
}

/** Tolerance units i that grades IT5 to IT18 have. */
const unitsOfGrade = [7, 10, 16, 25, 40, 64, 100, 160, 250, 400, 640, 1000, 1600, 2500] as const

/**
 * The formula behind the table: so many tolerance units i = 0.45·∛D + 0.001·D, D the geometric mean of the step's ends, unrounded. The table
 * holds what the standard rounded it to. Shape: nominal size mm (over 0, up to 500), grade 5..18 → µm. Source: ISO 286-1:2010, annex.
 * @throws {CoreError} `fit_unknown`.
 */
export function toleranceByFormula(sizeMm: number, grade: number): number {
  const step = sizeMm > 0 ? stepOf(mainSteps, sizeMm) : -1
  const count = unitsOfGrade[grade - 5]
  if (step < 0 || count === undefined)
    throw new CoreError('fit_unknown', `The formula reaches from over 0 to 500 mm and from IT5 to IT18; received ${sizeMm} mm, IT${grade}.`, {
      sizeMm,
      grade,
      field: 'tolerance',
    })
  const mean = Math.sqrt((step === 0 ? 1 : (mainSteps[step - 1] as number)) * (mainSteps[step] as number))
  return count * (0.45 * Math.cbrt(mean) + 0.001 * mean)
}

/** Deviations from the nominal size, µm; upper ≥ lower. */
export interface Deviations {
  readonly upperUm: number
  readonly lowerUm: number
}

function unknown(symbol: string, sizeMm: number, help: string): CoreError {
  return new CoreError('fit_unknown', `${symbol} is not defined for ${sizeMm} mm. ${help}`, { symbol, sizeMm, field: 'tolerance' })
}

function fromTable(values: readonly (number | null)[] | undefined, sizeMm: number): number | null {
  if (!values) return null
  return values[stepOf(values.length === fineSteps.length ? fineSteps : mainSteps, sizeMm)] ?? null
}

/** Upper deviation (a to h) or lower deviation (j to z) of a shaft. */
function shaftDeviation(letter: string, grade: number, sizeMm: number): number | null {
  if (letter === 'j') return fromTable(shaftJ[grade], sizeMm)
  if (letter === 'k' && (grade < 4 || grade > 7)) return 0
  return fromTable(shafts[letter], sizeMm)
}

/** The hole's rules: A to H mirror the shaft; K, M, N up to grade 8 and P to Z up to grade 7 are moved by Δ = ITn − IT(n−1). */
function holeDeviation(letter: string, grade: number, sizeMm: number): number | null {
  if (letter === 'j') return fromTable(holeJ[grade], sizeMm)
  const mirrored = fromTable(shafts[letter], sizeMm)
  if (mirrored === null || letter <= 'h') return mirrored === null ? null : 0 - mirrored
  if (letter === 'n' && grade > 8) return sizeMm <= 3 ? -mirrored : 0
  if (letter === 'k' && grade > 8) return sizeMm <= 3 ? 0 : null
  // ISO 286-1, table 3, footnote: M6 over 250 up to 315 mm is −9 and not −11.
  if (letter === 'm' && grade === 6 && sizeMm > 250 && sizeMm <= 315) return -9
  const isMoved = sizeMm > 3 && grade >= 3 && grade <= (letter <= 'n' ? 8 : 7)
  return 0 - mirrored + (isMoved ? standardTolerance(sizeMm, grade) - standardTolerance(sizeMm, grade - 1) : 0)
}

/**
 * Deviations of a tolerance class such as H7 (hole) or g6 (shaft).
 * Shape: nominal size mm, letter and grade as written → Deviations. Source: ISO 286-1:2010.
 * @throws {CoreError} `fit_unknown` (size over 500 mm, a letter or grade outside the tables).
 */
export function toleranceClass(sizeMm: number, symbol: string): Deviations {
  const [, letters = '', digits = ''] = /^([A-Za-z]{1,2})(\d{1,2})$/.exec(symbol) ?? []
  const grade = Number(digits)
  const letter = letters.toLowerCase()
  const isHole = letters !== letter
  if (letters === '' || (letters.length > 1 && letter !== 'js') || (letters.length > 1 && letters !== 'js' && letters !== 'JS')) {
    throw unknown(symbol, sizeMm, 'Write a capital letter and a grade for a hole (H7), a small letter for a shaft (g6).')
  }
  if (!(sizeMm > 0 && sizeMm <= 500)) throw unknown(symbol, sizeMm, 'Tolerance classes reach from over 0 up to 500 mm; write the limits instead.')
  const isFinest = digits.startsWith('0')
  if (isFinest && letter !== 'h' && letter !== 'js')
    throw unknown(symbol, sizeMm, 'Grades 01 and 0 go with H, h, JS and js; write the limits instead.')
  const tolerance = isFinest ? fromTable(finest[digits], sizeMm) : standardTolerance(sizeMm, grade)
  if (tolerance === null) throw unknown(symbol, sizeMm, 'Grades are 01, 0 and 1 to 18.')
  if (letter === 'js') return { upperUm: tolerance / 2, lowerUm: -tolerance / 2 }
  const deviation = isHole ? holeDeviation(letter, grade, sizeMm) : shaftDeviation(letter, grade, sizeMm)
  if (deviation === null) throw unknown(symbol, sizeMm, 'Choose a letter and grade that ISO 286-1 has for this size, or write the limits.')
  const isUpper = isHole ? letter > 'h' : letter <= 'h'
  return isUpper ? { upperUm: deviation, lowerUm: round(deviation - tolerance) } : { upperUm: round(deviation + tolerance), lowerUm: deviation }
}

/** Tenths of a micrometre are the finest step of the tables; half of an odd tolerance adds one place. */
function round(um: number): number {
  return Number(um.toFixed(2))
}

function inMm(um: number): Decimal {
  const [whole = '0', decimals = ''] = Math.abs(um).toString().split('.')
  const digits = whole.padStart(4, '0') + decimals
  return `${um < 0 ? '-' : ''}${digits.slice(0, whole.padStart(4, '0').length - 3)}.${digits.slice(whole.padStart(4, '0').length - 3)}`
}

/** Limits of a nominal size with a tolerance class, mm, exact. @throws {CoreError} `fit_unknown`. */
export function limitsOfClass(nominal: Decimal, symbol: string): Limits {
  const { upperUm, lowerUm } = toleranceClass(Number(nominal), symbol)
  return { nominal, lower: addDecimal(nominal, inMm(lowerUm)), upper: addDecimal(nominal, inMm(upperUm)) }
}

export interface Fit {
  readonly hole: Deviations
  readonly shaft: Deviations
  /** Clearance positive, interference negative, µm. */
  readonly maxClearanceUm: number
  readonly minClearanceUm: number
  readonly kind: 'clearance' | 'interference' | 'transition'
}

/** What a hole and a shaft of one nominal size give together. @throws {CoreError} `fit_unknown`. */
export function fitOf(nominal: Decimal, holeSymbol: string, shaftSymbol: string): Fit {
  if (!/^[A-Z]/.test(holeSymbol) || !/^[a-z]/.test(shaftSymbol)) {
    throw new CoreError(
      'fit_unknown',
      `Received ${holeSymbol} for the hole and ${shaftSymbol} for the shaft. A hole has a capital letter, a shaft a small one.`,
      {
        symbol: holeSymbol,
        shaftSymbol,
        field: 'tolerance',
      },
    )
  }
  const hole = toleranceClass(Number(nominal), holeSymbol)
  const shaft = toleranceClass(Number(nominal), shaftSymbol)
  const maxClearanceUm = round(hole.upperUm - shaft.lowerUm)
  const minClearanceUm = round(hole.lowerUm - shaft.upperUm)
  return {
    hole,
    shaft,
    maxClearanceUm,
    minClearanceUm,
    kind: minClearanceUm >= 0 ? 'clearance' : maxClearanceUm <= 0 ? 'interference' : 'transition',
  }
}
