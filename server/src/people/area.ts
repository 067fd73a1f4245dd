import { peopleFound } from './repository'
import type { Area } from '../kernel/area'
import { PersonEntity, SessionEntity } from './entities'
import type { House } from './house'
import { peopleRoutes } from './routes'
import { endSessions } from './sessions'

/** Who may come in, and what was done by whom. */
export const people: Area<House> = {
  name: 'people',
  entities: [SessionEntity, PersonEntity],
  routes: peopleRoutes,
  subjects: {
    person: { table: 'person', column: 'name' },
  },
  finds: [peopleFound],
  jobs: [{ words: 'ending old sessions', everyMs: 6 * 3_600_000, run: endSessions }],
}
