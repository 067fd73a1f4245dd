import {
  bandEdges,
  checkLimits,
  compareDecimal,
  parseDecimal,
  parseTolerance,
  roundToStep,
  unitOf,
  type Decimal,
  type MeasureUnit,
} from '@nemawashi/core'
import { CharacteristicDetails, noDetails, type CharacteristicFields } from '@nemawashi/contract'
import { ServerError } from '../../kernel/base/serverError'

/** Details as they are kept: text in a query's rows, parsed in an entity's, null in revisions made before there were any. */
export function detailsOf(stored: string | CharacteristicDetails | null): CharacteristicDetails {
  if (stored === null) return noDetails
  return CharacteristicDetails.parse(typeof stored === 'string' ? JSON.parse(stored) : stored)
}

const noLimits = { nominal: null, lower: null, upper: null, unit: null, resolution: null }
/** Details that belong to one kind only, as they are when there is nothing to say. */
const { typed, band, rounding, recording, answerListId, answers, faultCodes, countUnit, noteType } = noDetails
const ofMeasured = { typed, band, rounding, recording }
const ofCoded = { answerListId, answers }
const ofCounted = { faultCodes, countUnit }
const ofNoted = { noteType }

function missing(problem: string, field: string): ServerError {
  return new ServerError('input_invalid', problem, { field })
}

function checkMeasured(input: CharacteristicFields, known: readonly MeasureUnit[]): CharacteristicFields {
  if (input.unit === null) throw missing('A measured characteristic needs a unit.', 'unit')
  if (input.resolution === null) throw missing('A measured characteristic needs a resolution, e.g. 0.01.', 'resolution')
  unitOf(input.unit, known)
  const decimal = (text: string | null): Decimal | null => (text === null || text.trim() === '' ? null : parseDecimal(text))
  const limits = { nominal: decimal(input.nominal), lower: decimal(input.lower), upper: decimal(input.upper) }
  const resolution = parseDecimal(input.resolution)
  checkLimits(limits, resolution)
  const details = { ...input.details, ...ofCoded, ...ofCounted, ...ofNoted }
  if (details.band) bandEdges(limits, details.band)
  if (details.rounding !== null) roundToStep('0', parseDecimal(details.rounding))
  // The typed tolerance is kept only as long as it says what the limits say.
  if (details.typed !== null) {
    const said = parseTolerance(details.typed, known)
    const isSame = (['lower', 'upper'] as const).every((side) => sameDecimal(said[side], limits[side]))
    if (!isSame) details.typed = null
  }
  return { ...input, ...limits, resolution, acceptableState: null, details }
}

function sameDecimal(a: Decimal | null, b: Decimal | null): boolean {
  return a === null || b === null ? a === b : compareDecimal(a, b) === 0
}

function checkCoded(input: CharacteristicFields): CharacteristicFields {
  const { answers: offered } = input.details
  if (offered.length < 2) throw missing('A coded characteristic offers at least two answers.', 'answers')
  const codes = offered.map((answer) => answer.code.toLowerCase())
  const twice = codes.find((code, i) => codes.indexOf(code) !== i)
  if (twice !== undefined) throw missing(`The answer ${twice} stands twice in the list. Give each its own code.`, 'answers')
  return { ...input, ...noLimits, acceptableState: null, details: { ...input.details, ...ofMeasured, ...ofCounted, ...ofNoted } }
}

/**
 * Checks what a revision says and brings it to its kept form: decimals in their shortest writing, nothing that its kind has no use for.
 * @param known the plant's units of measure
 */
export function checkedFields(input: CharacteristicFields, known: readonly MeasureUnit[]): CharacteristicFields {
  switch (input.kind) {
    case 'measured':
      return checkMeasured(input, known)
    case 'judged':
      if (!input.acceptableState) throw missing('A judged characteristic needs its acceptable state in words.', 'acceptableState')
      return { ...input, ...noLimits, details: { ...input.details, ...ofMeasured, ...ofCoded, ...ofCounted, ...ofNoted } }
    case 'coded':
      return checkCoded(input)
    case 'counted':
      if (!input.details.countUnit) throw missing('A counted characteristic says what is counted on what, e.g. pores on a casting.', 'countUnit')
      return { ...input, ...noLimits, acceptableState: null, details: { ...input.details, ...ofMeasured, ...ofCoded, ...ofNoted } }
    case 'noted':
      if (input.details.noteType === null)
        throw missing('A noted characteristic says what is noted: text, a number, a day, yes or no, or a document.', 'noteType')
      return { ...input, ...noLimits, acceptableState: null, details: { ...input.details, ...ofMeasured, ...ofCoded, ...ofCounted } }
  }
}
