import type { PartRow } from '../define/entities'
import type { Reader } from '../kernel/database'
import { considerAt, type Coming, type ConsideredPoint } from '../record/consider'
import { operationsOf } from './repository'

export interface Asked {
  readonly coming: Coming
  readonly considered: ConsideredPoint
}

/** What the receiving operations of a part ask of a lot from a supplier, operation by operation. */
export async function receiptOf(
  reader: Reader,
  { part, supplierId, quantity, at }: { part: PartRow; supplierId: string; quantity: number; at: string },
  newId: () => string,
): Promise<Asked[]> {
  const asked: Asked[] = []
  for (const operationId of await operationsOf(reader, part.id, 'receiving')) {
    const coming: Coming = { operationId, moment: 'arrival', part, supplierId, customerId: null, quantity, at }
    for (const considered of await considerAt(reader, coming, newId)) asked.push({ coming, considered })
  }
  return asked
}
