import { ServerError } from '../../kernel/base/serverError'
import type { Work } from '../../kernel/work/unitOfWork'
import type { PartRow } from '../../define/masters/entities'
import { lotWithLabel } from './repository'

/** What a piece with a serial number is called in the plant: two parts may number their pieces alike. */
export const labelOfSerial = ({ code }: Pick<PartRow, 'code'>, serial: string): string => `${code} ${serial}`

/**
 * A part that is traced by serial numbers comes with one for each piece, none of which it had before; containers and serial numbers do not go
 * together, as a piece is told apart by one of them.
 * @throws {ServerError} `serials_missing`, `already_exists`, `input_invalid`.
 */
export async function checkSerials(
  work: Work,
  part: Pick<PartRow, 'code' | 'tracking'>,
  line: { serials: readonly string[]; quantity: number; containers?: readonly unknown[]; field: string; words: string },
  /** Where numbers stand that are given with these, on earlier lines. */
  seen = new Map<string, string>(),
): Promise<void> {
  const { serials, quantity, containers = [], field, words } = line
  if (serials.length === 0 && part.tracking !== 'serial') return
  if (serials.length !== quantity)
    throw new ServerError('serials_missing', `${words}: ${serials.length} serial numbers for ${quantity} pieces of ${part.code}.`, {
      field,
      received: serials.length,
      quantity,
    })
  if (containers.length > 0)
    throw new ServerError('input_invalid', `${words}: pieces are told apart by serial numbers or by containers, not by both.`, { field })
  for (const serial of serials) {
    const label = labelOfSerial(part, serial)
    const known = seen.get(label)
    const lot = known === undefined ? await lotWithLabel(work.manager, label) : null
    const where = known ?? (lot === null ? null : `lot ${lot}`)
    if (where !== null)
      throw new ServerError('already_exists', `${words}: the serial number ${serial} of ${part.code} is given already: ${where} has it.`, {
        field,
        received: serial,
      })
    seen.set(label, words.charAt(0).toLowerCase() + words.slice(1))
  }
}
