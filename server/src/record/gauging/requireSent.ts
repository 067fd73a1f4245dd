import { readAnswer, sentText } from '@nemawashi/core'
import { askedOf, type InspectionLine, type ReadingInput } from '@nemawashi/contract'
import { knownUnits } from '../../define/masters/measureUnits'
import { sentValuesAt } from '../../equip/instrumentRepository'
import { ServerError } from '../../kernel/base/serverError'
import type { Work } from '../../kernel/work/unitOfWork'

/**
 * What says that an instrument sent it has to be what the instrument sent, of the gauge that the line is measured with, and of no reading before.
 * @throws {ServerError} `sent_value_other`, `sent_value_used`, each with the fact `readingId`; {CoreError} as `readAnswer`.
 */
export async function requireSent(work: Work, lines: ReadonlyMap<string, InspectionLine>, inputs: readonly ReadingInput[]): Promise<void> {
  const claimed = inputs.flatMap(({ sentValueId, ...input }) => (sentValueId == null ? [] : [{ ...input, sentValueId }]))
  if (claimed.length === 0) return
  const sent = new Map((await sentValuesAt(work.manager, [...new Set(claimed.map(({ sentValueId }) => sentValueId))])).map((row) => [row.id, row]))
  const units = await knownUnits(work.manager)
  const taken = new Set<string>()
  for (const { id, lineId, piece, value, gaugeId, sentValueId } of claimed) {
    const facts = { readingId: id, lineId, piece }
    const line = lines.get(lineId)
    const row = sent.get(sentValueId)
    if (!line || !row || value === null || row.gaugeId !== gaugeId || row.outcome === 'doubled')
      throw new ServerError('sent_value_other', `Piece ${piece} names a value that its instrument did not send for it.`, facts)
    const text = sentText(row, { lineUnit: line.unit, gaugeUnit: row.gaugeUnit })
    if (readAnswer(askedOf(line), text, units).value !== readAnswer(askedOf(line), value, units).value)
      throw new ServerError('sent_value_other', `Piece ${piece} of ${line.name} says ${value}; the instrument sent ${text}.`, {
        ...facts,
        sent: text,
      })
    if (row.readingId !== null || taken.has(sentValueId))
      throw new ServerError('sent_value_used', `Piece ${piece} of ${line.name}: the ${text} that was sent stands for another piece already.`, facts)
    taken.add(sentValueId)
  }
}
