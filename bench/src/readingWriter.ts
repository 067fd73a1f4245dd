import { v7 } from 'uuid'
import type { Wire } from './measure'

/** Writes one reading after the other on the next free piece, whoever's connection it is; throws where one is refused. */
export function readingWriter(inspectionId: string, lineId: string): (wire: Wire) => Promise<void> {
  let piece = 0
  return async (wire) => {
    const reading = { id: v7(), lineId, piece: ++piece, value: '0.30', typedAt: new Date().toISOString(), isConfirmedOutside: false, corrects: null }
    const { status, text } = await wire.send('POST', `/api/v1/inspections/${inspectionId}/readings`, { readings: [reading] })
    if (status !== 200) throw new Error(`${status} ${text}`)
  }
}
