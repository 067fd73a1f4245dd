import { CoreError } from '../errors'

/** As many as a line, or an order, may have. */
export const maxSerials = 500

/** As many numbers are given to one lot at once at most. */
const maxGiven = 100_000
const rangeWords = 'Write serial numbers with blanks between them, and a run of them as its first and last: 0001..0012.'

function lastDigits(serial: string): { readonly head: string; readonly digits: string } {
  const digits = /\d*$/.exec(serial)?.[0] ?? ''
  return { head: serial.slice(0, serial.length - digits.length), digits }
}

function run(word: string, first: string, last: string): string[] {
  const from = lastDigits(first)
  const to = lastDigits(last)
  const [low, high] = [Number(from.digits), Number(to.digits)]
  const isRun = from.digits !== '' && from.head === to.head && from.digits.length === to.digits.length && from.digits.length <= 15 && low <= high
  if (!isRun)
    throw new CoreError('serials_not_understood', `Received "${word}": the first and the last differ in their last digits only. ${rangeWords}`, {
      received: word,
    })
  if (high - low >= maxSerials)
    throw new CoreError('serials_not_understood', `Received "${word}": that is ${high - low + 1} numbers; at most ${maxSerials} at once.`, {
      received: word,
    })
  return Array.from({ length: high - low + 1 }, (_, i) => from.head + String(low + i).padStart(from.digits.length, '0'))
}

/**
 * Serial numbers as they are typed or scanned: `A-0001 A-0007`, or a run of them with its first and last, `A-0001..A-0012`. Blanks, commas and
 * line ends part them.
 * Shape: text → serial numbers in the order written, each once.
 * @throws {CoreError} `serials_not_understood` for a run that is none, a number twice, or more than `maxSerials`.
 */
export function serialsIn(text: string): string[] {
  const all: string[] = []
  for (const word of text.split(/[\s,;]+/).filter((entry) => entry !== '')) {
    const [first = '', last, more] = word.split('..')
    if (more !== undefined || first === '' || last === '')
      throw new CoreError('serials_not_understood', `Received "${word}". ${rangeWords}`, { received: word })
    all.push(...(last === undefined ? [first] : run(word, first, last)))
    if (all.length > maxSerials)
      throw new CoreError('serials_not_understood', `These are more than ${maxSerials} serial numbers.`, { received: all.length })
  }
  const twice = all.find((serial, i) => all.indexOf(serial) !== i)
  if (twice !== undefined) throw new CoreError('serials_not_understood', `The serial number ${twice} stands there twice.`, { received: twice })
  return all
}

/**
 * Numbers that the plant gives where nobody has: those of the lot, counted on, all as long.
 * @throws {CoreError} `serials_not_understood` for more than `maxGiven`, or none.
 */
export function serialsFor(lotCode: string, count: number): string[] {
  if (!Number.isInteger(count) || count < 1 || count > maxGiven)
    throw new CoreError('serials_not_understood', `Received ${count} serial numbers to give; from 1 to ${maxGiven} at once.`, { received: count })
  const digits = Math.max(3, String(count).length)
  return Array.from({ length: count }, (_, i) => `${lotCode.replace(/^L-0*/, '')}-${String(i + 1).padStart(digits, '0')}`)
}
