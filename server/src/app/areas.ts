import { verificationsOf, type Area } from '../kernel/area'
import { kernelEntities } from '../kernel/database/entities'
import type { Schema } from '../kernel/work/database'
import { attach } from '../attach/area'
import { contain } from '../contain/area'
import { define } from '../define/area'
import { documents } from '../documents/area'
import { people } from '../people/area'
import type { House } from '../people/house'
import { record } from '../record/area'
import { run } from '../run/area'
import { stock } from '../stock/area'
import { trace } from '../trace/area'
import { migrations, serverMigrations } from './migrations'

/** The folders of the server, from the ground up: each knows those before it, none those after it. */
export const areas: readonly Area<House>[] = [people, documents, define, attach, stock, record, run, contain, trace]

/** Every table of the database, and how it came to be. */
export const schema: Schema = { entities: [...kernelEntities, ...areas.flatMap(({ entities = [] }) => entities)], migrations, serverMigrations }

/** What the areas know must be so in the database. */
export const verifications = verificationsOf(areas)
