import { CoreError } from '../errors'

/** A place on a picture, in thousandths of its width and height from its upper left corner. */
export interface PicturePlace {
  readonly x: number
  readonly y: number
}

/** What somebody says of a piece, a line or an inspection beyond its answers. */
export interface EvidenceFacts {
  /** A fault, and how often it is on the piece; both or neither. */
  readonly faultCode: string | null
  readonly count: number | null
  readonly words: string
  readonly hasPicture: boolean
  readonly hasDocument: boolean
  /** Where on the picture. */
  readonly place: PicturePlace | null
}

export const maxFaults = 100_000

/**
 * Refuses what says nothing, a count without its fault, and a place without a picture.
 * @throws {CoreError} `evidence_empty`, `count_invalid`, `place_invalid`.
 */
export function checkEvidence({ faultCode, count, words, hasPicture, hasDocument, place }: EvidenceFacts): void {
  if (faultCode === null && words.trim() === '' && !hasDocument)
    throw new CoreError('evidence_empty', 'Received neither a fault nor words nor a file.', { field: 'words' })
  if ((count === null) !== (faultCode === null))
    throw new CoreError(
      'count_invalid',
      faultCode === null ? `Received a count of ${count} without a fault.` : `Received ${faultCode} without a count.`,
      {
        field: 'count',
      },
    )
  if (count !== null && (!Number.isInteger(count) || count < 1 || count > maxFaults))
    throw new CoreError('count_invalid', `Received a count of ${count}. It is a whole number from 1 to ${maxFaults}.`, {
      received: count,
      field: 'count',
    })
  if (place === null) return
  if (!hasPicture) throw new CoreError('place_invalid', 'Received a place without a picture that it is on.', { field: 'place' })
  for (const [axis, value] of Object.entries(place))
    if (!Number.isInteger(value) || value < 0 || value > 1000)
      throw new CoreError('place_invalid', `Received ${axis} ${value}. A place is in whole thousandths of the picture, 0 to 1000.`, {
        field: 'place',
      })
}

/** `piece 3: PORE × 2, marked on the picture: at the gate` without the piece where it is of all. */
export function describeEvidence({
  piece,
  faultCode,
  count,
  words,
  place,
}: Pick<EvidenceFacts, 'faultCode' | 'count' | 'words' | 'place'> & { readonly piece: number | null }): string {
  const fault = faultCode === null ? '' : `${faultCode}${(count ?? 1) > 1 ? ` × ${count}` : ''}`
  const said = [fault, words.trim(), place === null ? '' : 'marked on the picture'].filter(Boolean).join(', ')
  return piece === null ? said : `piece ${piece}${said === '' ? '' : `: ${said}`}`
}
