import { readRows } from '../../kernel/database/readRows'
import { CharacteristicEntity, CharacteristicRevisionEntity } from './entities'

/** Rows that other areas read here; only this one writes them. */
export const characteristicRows = readRows(CharacteristicEntity)
export const characteristicRevisionRows = readRows(CharacteristicRevisionEntity)
