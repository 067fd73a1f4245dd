import { parseDecimal, parseFactor, type MeasureUnit } from '@nemawashi/core'
import { endpoints, type MeasureUnitRecord } from '@nemawashi/contract'
import type { Routes } from '../../kernel/routes'
import type { Reader } from '../../kernel/work/database'
import { MeasureUnitEntity } from './entities'
import { master } from './masterRoutes'
import { masterColumns } from './repository'

const asUnit = ({ code, name, quantity, factor, shift }: MeasureUnitRecord): MeasureUnit => ({ symbol: code, name, quantity, factor, shift })

/** The plant's units of measure, in the order of what they measure; also those that are not in use any more, as old characteristics have them. */
async function unitRecords(reader: Reader): Promise<MeasureUnitRecord[]> {
  return reader.find(MeasureUnitEntity, { order: { quantity: 'ASC', id: 'ASC' } })
}

/** What the core converts by. */
export async function knownUnits(reader: Reader): Promise<MeasureUnit[]> {
  return (await unitRecords(reader)).map(asUnit)
}

/** Brings the numbers to their kept form. @throws {CoreError} `factor_invalid`, `not_a_number`, `number_too_long`. */
function checked<F extends Partial<MeasureUnitRecord>>(fields: F): F {
  const { factor = null, shift = null } = fields
  if (factor === null) return { ...fields, shift: null }
  const { times, per } = parseFactor(factor)
  return { ...fields, factor: per === '1' ? times : `${times}/${per}`, shift: shift === null ? null : parseDecimal(shift) }
}

export function measureUnitRoutes(routes: Routes): void {
  const { knownUnits: all, measureUnits } = endpoints.define
  routes.read(all, async (reader) => ({
    units: (await unitRecords(reader)).map((record) => ({ ...asUnit(record), isActive: record.isActive })),
  }))
  // Readings were converted by them: what converts a unit in use stays as it is.
  master<MeasureUnitRecord>(routes, measureUnits, MeasureUnitEntity, 'unit of measure', masterColumns.measureUnits, {
    kept: ['code', 'quantity', 'factor', 'shift'],
    checked,
  })
}
