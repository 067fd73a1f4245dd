import type { EntitySchemaColumnOptions } from 'typeorm'

/** Column shapes that the entities are made of. Types are explicit, so that every tool reads the same schema. */
export const id: EntitySchemaColumnOptions = { type: 'text', primary: true }
export const text: EntitySchemaColumnOptions = { type: 'text' }
export const maybeText: EntitySchemaColumnOptions = { type: 'text', nullable: true }
export const uniqueText: EntitySchemaColumnOptions = { type: 'text', unique: true }
export const int: EntitySchemaColumnOptions = { type: 'integer' }
export const flag: EntitySchemaColumnOptions = { type: 'boolean' }
export const json: EntitySchemaColumnOptions = { type: 'simple-json' }
export const maybeJson: EntitySchemaColumnOptions = { type: 'simple-json', nullable: true }
export const references = (target: string): EntitySchemaColumnOptions => ({ type: 'text', foreignKey: { target } })
export const mayReference = (target: string): EntitySchemaColumnOptions => ({ type: 'text', nullable: true, foreignKey: { target } })
