import { CoreError } from '../errors'
import { addDecimal, compareDecimal, parseDecimal, subtractDecimal, type Decimal } from './decimal'
import type { Limits } from './limits'
import { limitsOfClass } from './limitsAndFits'
import { usualUnits, type MeasureUnit } from './usualUnits'

/** A tolerance as it was understood. */
export interface UnderstoodTolerance extends Limits {
  /** Unit written behind it, when one was. */
  readonly unit: string | null
  /** How it was read, e.g. `nominal with equal deviations`, `hole 25 H7 (ISO 286-1)`. */
  readonly reading: string
}

interface Token {
  /** n number, c tolerance class, u unit, d diameter sign, or the symbol itself; t for "to", l for at most, g for at least. */
  readonly kind: string
  readonly text: string
  readonly at: number
}

const signs: readonly (readonly [RegExp, string])[] = [
  // A second point right behind the first is a range: 1..2.
  [/^(\d+(?:[.,](?![.])\d*)?|[.,]\d+)/, 'n'],
  [/^(±|\+\/-|\+-)/, '±'],
  [/^(≥|>=|min\.?(?=[\s\d]|$)|at least|from(?=\s))/i, 'g'],
  [/^(≤|<=|max\.?(?=[\s\d]|$)|at most|up to)/i, 'l'],
  [/^(…|\.\.\.|\.\.|–|to(?=[\s\d]))/i, 't'],
  [/^[⌀Øø∅]/, 'd'],
  [/^\+/, '+'],
  [/^-/, '-'],
  [/^\//, '/'],
  [/^(JS|js|[A-Za-z])\d{1,2}(?![A-Za-z\d])/, 'c'],
]

function refuse(typed: string, at: number, problem: string): CoreError {
  const symbol = typed.slice(at, at + 12).trim()
  return new CoreError(
    'tolerance_not_understood',
    `Received "${typed}". ${problem}${symbol === '' ? '' : ` at "${symbol}"`}. Write it like 12.5 ±0.05, 8 +0.02/-0.01, 25 H7, 11.94 to 12.06, ≥ 145 or ≤ 0.8.`,
    { received: typed, position: at, symbol, field: 'tolerance' },
  )
}

function tokensOf(typed: string, known: readonly MeasureUnit[]): Token[] {
  // Longest first, so that mm² is not read as mm.
  const unitSymbols = known.map(({ symbol }) => symbol).sort((a, b) => b.length - a.length)
  const tokens: Token[] = []
  let at = 0
  while (at < typed.length) {
    const rest = typed.slice(at)
    const space = /^\s+/.exec(rest)?.[0].length ?? 0
    if (space > 0) {
      at += space
      continue
    }
    // `20 min` is a limit and no time: a bare number has no tolerance.
    const isBound = /^(min|max)\.?\s*$/i.test(rest) && tokens.every(({ kind }) => 'n-d'.includes(kind))
    const unit =
      !isBound && ['n', 'c'].includes(tokens.at(-1)?.kind ?? '')
        ? unitSymbols.find((symbol) => rest === symbol || (rest.startsWith(symbol) && /^(\s|±|\+|-|…|\.\.|–)/.test(rest.slice(symbol.length))))
        : undefined
    const found = unit === undefined ? signs.find(([pattern]) => pattern.test(rest)) : undefined
    const text = unit ?? found?.[0].exec(rest)?.[0]
    if (text === undefined) {
      const isStrict = rest.startsWith('<') || rest.startsWith('>')
      throw refuse(typed, at, isStrict ? 'A limit includes its own value here, write ≤ or ≥' : 'Not understood')
    }
    // `1e3` is a number with an exponent to most people and a shaft class to nobody.
    if (found?.[1] === 'c' && /^e/i.test(text) && space === 0 && tokens.at(-1)?.kind === 'n' && /[\d.,]/.test(typed.charAt(at - 1)))
      throw refuse(typed, at, 'That could be an exponent. Write the number out, or a blank before the class')
    tokens.push({ kind: unit === undefined ? (found?.[1] as string) : 'u', text, at })
    at += text.length
  }
  return tokens
}

/** Reads the numbers of a matched signature, each with its sign. */
function numbersOf(tokens: readonly Token[]): Decimal[] {
  return tokens.flatMap((token, i) => {
    if (token.kind !== 'n') return []
    const before = tokens[i - 1]
    // A minus belongs to the number when it stands right before it.
    return [parseDecimal(before?.kind === '-' ? `-${token.text}` : token.text)]
  })
}

type Read = (numbers: Decimal[], tokens: readonly Token[], typed: string) => Limits & { reading: string }

const forms: readonly (readonly [RegExp, Read])[] = [
  [
    /^-?n±n$/,
    ([nominal = '0', deviation = '0']) => ({
      nominal,
      lower: subtractDecimal(nominal, deviation),
      upper: addDecimal(nominal, deviation),
      reading: 'nominal with equal deviations',
    }),
  ],
  [/^g?-?nt-?n$/, ([lower = '0', upper = '0']) => ({ nominal: null, lower, upper, reading: 'between two limits' })],
  [/^(g-?n|-?ng)$/, ([lower = '0']) => ({ nominal: null, lower, upper: null, reading: 'at least' })],
  [/^(l-?n|-?nl)$/, ([upper = '0']) => ({ nominal: null, lower: null, upper, reading: 'at most' })],
  [
    /^-?n[+-]n\/?[+-]?n$/,
    ([nominal = '0', first = '0', second = '0'], tokens, typed) => {
      const last = tokens.at(-1) as Token
      if (!/[+-]n$/.test(signatureOf(tokens)) && compareDecimal(second, '0') !== 0) throw refuse(typed, last.at, 'A deviation needs its sign + or −')
      const [upper, lower] = compareDecimal(first, second) >= 0 ? [first, second] : [second, first]
      return { nominal, lower: addDecimal(nominal, lower), upper: addDecimal(nominal, upper), reading: 'nominal with two deviations' }
    },
  ],
  [
    /^-?nn\/?[+-]n$/,
    ([nominal = '0', first = '0', second = '0'], tokens, typed) => {
      if (compareDecimal(first, '0') !== 0) throw refuse(typed, (tokens[1] as Token).at, 'A deviation needs its sign + or −')
      const [upper, lower] = compareDecimal(first, second) >= 0 ? [first, second] : [second, first]
      return { nominal, lower: addDecimal(nominal, lower), upper: addDecimal(nominal, upper), reading: 'nominal with two deviations' }
    },
  ],
  [
    /^nc$/,
    ([nominal = '0'], tokens) => {
      const symbol = (tokens.find((token) => token.kind === 'c') as Token).text
      const isHole = symbol.charAt(0) !== symbol.charAt(0).toLowerCase()
      return { ...limitsOfClass(nominal, symbol), reading: `${isHole ? 'hole' : 'shaft'} ${nominal} ${symbol} (ISO 286-1)` }
    },
  ],
]

function signatureOf(tokens: readonly Token[]): string {
  return tokens.map((token) => token.kind).join('')
}

/**
 * Reads a tolerance as it stands on a drawing: `12.5 ±0.05`, `8 +0.02/-0.01`, `25 H7`, `0.25 to 0.35`, `min 20`, `≤ 0.8`; a unit may stand
 * behind it. Arithmetic is decimal: 0.3 ± 0.05 gives 0.25 and 0.35 exactly. The order of two stated limits is not judged here, see
 * `checkLimits`.
 * @param known the plant's units of measure
 * @throws {CoreError} `tolerance_not_understood` (gives the place and the symbol), `number_too_long`, `fit_unknown`.
 */
export function parseTolerance(text: string, known: readonly MeasureUnit[] = usualUnits): UnderstoodTolerance {
  const typed = text.trim().replaceAll('−', '-').replaceAll('μ', 'µ')
  if (typed.length > 80) throw refuse(typed.slice(0, 80), 80, 'It has more than 80 characters')
  const all = tokensOf(typed, known)
  // A unit may stand behind each number, the same one.
  const named = all.filter((token) => token.kind === 'u')
  const other = named.find((token) => token.text !== named[0]?.text)
  if (other) throw refuse(typed, other.at, `Two units, ${named[0]?.text} and ${other.text}; write one`)
  const unit = named[0]?.text ?? null
  const tokens = all.filter((token, i) => token.kind !== 'u' && !(token.kind === 'd' && i === 0))
  const signature = signatureOf(tokens)
  const form = forms.find(([pattern]) => pattern.test(signature))
  if (!form) throw refuse(typed, placeOfProblem(tokens, typed), problemOf(signature))
  const isClass = tokens.some((token) => token.kind === 'c')
  if (isClass && unit !== null && unit !== 'mm')
    throw refuse(typed, (named[0] as Token).at, 'Tolerance classes are defined in mm; write the size in mm')
  const { reading, ...limits } = form[1](numbersOf(tokens), tokens, typed)
  const { nominal, lower, upper } = limits
  // With both limits on one side of it the nominal is a name, not a target: no reading is meant to fall on it.
  const isOutside =
    nominal !== null && ((lower !== null && compareDecimal(nominal, lower) < 0) || (upper !== null && compareDecimal(nominal, upper) > 0))
  return isOutside
    ? { nominal: null, lower, upper, unit, reading: `${reading}; the nominal ${nominal} lies outside and is no target` }
    : { ...limits, unit, reading }
}

function problemOf(signature: string): string {
  if (signature === '') return 'It is empty'
  if (/^-?n$/.test(signature)) return 'A single number has no limits'
  if (/^nc\/?c$/.test(signature)) return 'A fit names two parts; write the hole or the shaft'
  if (/^-?n-n$/.test(signature)) return 'A minus between two numbers can mean two things; write "to" between limits'
  if (/^-?n[+]n$/.test(signature)) return 'One deviation is missing'
  return 'The rest is not understood'
}

/** The first token after which no known form could go on. */
function placeOfProblem(tokens: readonly Token[], typed: string): number {
  const known = [
    'n±n',
    '-n±n',
    'ntn',
    '-nt-n',
    '-ntn',
    'nt-n',
    'gn',
    'g-n',
    'ng',
    'ln',
    'l-n',
    'nl',
    'n+n/-n',
    'n+n/+n',
    'n-n/-n',
    'n-n/+n',
    'n+nn',
    'nn/-n',
    'nn-n',
    'nn+n',
    'gntn',
    'n+n-n',
    'n-n-n',
    'n-n+n',
    'n+n/n',
    'n-n/n',
    'nc',
  ]
  for (let length = tokens.length; length > 0; length--) {
    const start = signatureOf(tokens.slice(0, length))
    if (known.some((form) => form.startsWith(start))) return length === tokens.length ? typed.length : (tokens[length] as Token).at
  }
  return tokens[0]?.at ?? 0
}
