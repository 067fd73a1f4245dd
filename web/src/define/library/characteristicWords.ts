import type { Characteristic, CharacteristicFields } from '@nemawashi/contract'
import { bandWords } from '@nemawashi/core'
import { limitsWords } from '../../format/format'

/** What a kind of characteristic is answered by. */
export const kindWords: Readonly<Record<CharacteristicFields['kind'], string>> = {
  measured: 'measuring a value',
  judged: 'judging against a stated state',
  coded: 'choosing from a list',
  counted: 'counting nonconformities',
  noted: 'noting a fact',
}
export const noteWords = {
  text: 'words',
  number: 'a number',
  date: 'a day',
  yesNo: 'yes or no',
  document: 'a document, e.g. the certificate',
} as const

/** What a revision accepts, in one line: for lists, plan lines and comparisons. */
export function acceptsWords(fields: CharacteristicFields): string {
  switch (fields.kind) {
    case 'measured':
      return fields.lower === null && fields.upper === null ? '' : limitsWords(fields)
    case 'judged':
      return fields.acceptableState ?? ''
    case 'coded':
      return fields.details.answers.map(({ code, words, verdict }) => `${code} ${words} (${verdict})`).join(', ')
    case 'counted':
      return fields.details.countUnit ?? ''
    case 'noted':
      return fields.details.noteType === null ? '' : noteWords[fields.details.noteType]
  }
}

/** A revision as labelled words, so that two can be laid side by side. */
export function revisionWords(fields: CharacteristicFields): readonly { label: string; words: string }[] {
  const { details } = fields
  let band = ''
  try {
    band = details.band ? bandWords(fields, details.band, fields.unit ?? '') : ''
  } catch {
    band = 'cannot be read'
  }
  return [
    { label: 'Name', words: fields.name },
    { label: 'Answered by', words: kindWords[fields.kind] },
    { label: 'Class', words: fields.class },
    { label: 'Tolerance as typed', words: details.typed ?? '' },
    { label: 'Lower limit', words: fields.lower ?? '' },
    { label: 'Nominal', words: fields.nominal ?? '' },
    { label: 'Upper limit', words: fields.upper ?? '' },
    { label: 'Unit', words: fields.unit ?? '' },
    { label: 'Resolution', words: fields.resolution ?? '' },
    { label: 'Marginal band', words: band },
    { label: 'Rounded before comparison', words: details.rounding === null ? '' : `to ${details.rounding}` },
    { label: 'Recorded', words: fields.kind !== 'measured' ? '' : details.recording === 'summary' ? 'as a summary' : 'piece by piece' },
    { label: 'Acceptable state', words: fields.acceptableState ?? '' },
    { label: 'Answers', words: fields.kind === 'coded' ? acceptsWords(fields) : '' },
    { label: 'Counted', words: details.countUnit ?? '' },
    { label: 'Fault codes', words: details.faultCodes.join(', ') },
    { label: 'Noted', words: fields.kind === 'noted' ? acceptsWords(fields) : '' },
    { label: 'Method', words: fields.method },
    { label: 'Gauge kind', words: details.gaugeKind ?? '' },
    { label: 'Instruction', words: fields.instruction },
    { label: 'On failure', words: details.adviceOnFailure },
    { label: 'Responsible', words: details.responsible ?? '' },
    { label: 'Minutes a piece', words: details.minutesPerPiece === null ? '' : String(details.minutesPerPiece) },
    { label: 'Lines may be detached', words: details.isAdaptable ? 'yes' : 'no' },
    { label: 'Documents', words: details.documentIds.length === 0 ? '' : String(details.documentIds.length) },
  ]
}

/** What a release means for the plans that ask for the characteristic: `three plans follow this; one is detached`. */
export function releaseWords(characteristic: Characteristic): string {
  const following = characteristic.uses.lines.filter((line) => line.detached === null).map((line) => line.planCode)
  const detached = characteristic.uses.lines.filter((line) => line.detached !== null)
  const count = (list: readonly unknown[]) => `${list.length} plan${list.length === 1 ? '' : 's'}`
  const first =
    following.length === 0
      ? 'No plan follows this.'
      : `${count(following)} ${following.length === 1 ? 'follows' : 'follow'} this and will ask for the new revision: ${following.join(', ')}.`
  const parts = characteristic.uses.lines.reduce((sum, line) => sum + line.targets, 0)
  const own = parts === 0 ? '' : parts === 1 ? ' One part keeps limits of its own.' : ` ${parts} parts keep limits of their own.`
  if (detached.length === 0) return first + own
  const differing = detached.map(
    ({ planCode, detached: kept }) => `${planCode} (${limitsWords({ lower: kept?.lower ?? null, upper: kept?.upper ?? null, unit: null })})`,
  )
  return `${first} ${count(detached)} ${detached.length === 1 ? 'is' : 'are'} detached and ${detached.length === 1 ? 'keeps its' : 'keep their'} own limits: ${differing.join(', ')}.${own}`
}

/** What still asks for a characteristic that is to be retired. */
export function usesWords({ uses }: Pick<Characteristic, 'uses'>): string {
  const plans = [...new Set(uses.lines.map((line) => line.planCode))]
  return plans.length === 0 ? 'No plan asks for it.' : `${plans.join(', ')} ${plans.length === 1 ? 'asks' : 'ask'} for it.`
}
