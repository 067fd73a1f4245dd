import type { CharacteristicFields } from '@nemawashi/contract'
import type { RevisionState } from '@nemawashi/core'
import { EntitySchema } from 'typeorm'
import { id, int, maybeJson, mayReference, maybeText, references, text, uniqueText } from '../../kernel/database/columns'

export interface CharacteristicRow {
  id: string
  code: string
  version: number
  /** The import that made it, so that the import can be undone as a whole. */
  importId: string | null
}

export const CharacteristicEntity = new EntitySchema<CharacteristicRow>({
  name: 'characteristic',
  columns: { id, code: uniqueText, version: int, importId: maybeText },
})

export interface CharacteristicRevisionRow extends Omit<CharacteristicFields, 'details'> {
  /** Null in revisions made before there were details. */
  details: CharacteristicFields['details'] | null
  id: string
  characteristicId: string
  revision: number
  state: RevisionState
  releasedAt: string | null
  releasedById: string | null
}

/** What a revision of a definition has, whatever it defines. */
export const revisionColumns = { id, revision: int, state: text, releasedAt: maybeText, releasedById: mayReference('person') }

export const CharacteristicRevisionEntity = new EntitySchema<CharacteristicRevisionRow>({
  name: 'characteristic_revision',
  columns: {
    ...revisionColumns,
    characteristicId: references('characteristic'),
    name: text,
    kind: text,
    class: text,
    method: text,
    instruction: text,
    nominal: maybeText,
    lower: maybeText,
    upper: maybeText,
    unit: maybeText,
    resolution: maybeText,
    acceptableState: maybeText,
    details: maybeJson,
  },
  uniques: [{ columns: ['characteristicId', 'revision'] }],
})
