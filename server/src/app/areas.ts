import { verificationsOf, type Area } from '../kernel/area'
import { kernelEntities } from '../kernel/database/entities'
import type { Schema } from '../kernel/work/database'
import { attach } from '../attach/area'
import { decisions } from '../contain/decisions/area'
import { stops } from '../contain/stops/area'
import { library } from '../define/library/area'
import { masters } from '../define/masters/area'
import { plans } from '../define/plans/area'
import { documents } from '../documents/area'
import { equip } from '../equip/area'
import { inspections } from '../inspections/area'
import { opening } from '../opening/area'
import { people } from '../people/area'
import type { App } from '../people/app'
import { bench } from '../record/bench/area'
import { gauging } from '../record/gauging/area'
import { planning } from '../record/planning/area'
import { corrections } from '../run/corrections/area'
import { feed } from '../run/feed/area'
import { moving } from '../run/moving/area'
import { production } from '../run/production/area'
import { purchasing } from '../run/purchasing/area'
import { receiving } from '../run/receiving/area'
import { rehearsal } from '../run/rehearsal/area'
import { shipping } from '../run/shipping/area'
import { stock } from '../stock/area'
import { passport } from '../trace/passport/area'
import { reports } from '../trace/reports/area'
import { today } from '../trace/today/area'
import { migrations, serverMigrations } from './migrations'

/** The rooms of the server, from the ground up: each knows those before it, none those after it. */
export const areas: readonly Area<App>[] = [
  ...[people, documents],
  ...[masters, library, plans],
  ...[attach, equip, stock, inspections, opening],
  ...[planning, gauging, bench],
  ...[purchasing, rehearsal, receiving, corrections, production, shipping, moving, feed],
  ...[decisions, stops],
  ...[passport, reports, today],
]

/** Every table of the database, and how it came to be. */
export const schema: Schema = { entities: [...kernelEntities, ...areas.flatMap(({ entities = [] }) => entities)], migrations, serverMigrations }

/** What the areas know must be so in the database. */
export const verifications = verificationsOf(areas)
