import { peopleFound } from './repository'
import type { Area } from '../kernel/area'
import { GivenPasswordEntity, PersonEntity, SecondFactorEntity, SessionEntity } from './entities'
import type { House } from './house'
import { peopleRoutes } from './routes'

/** Who may come in, and what was done by whom. */
export const people: Area<House> = {
  name: 'people',
  entities: [SessionEntity, PersonEntity, GivenPasswordEntity, SecondFactorEntity],
  routes: peopleRoutes,
  subjects: {
    person: { table: 'person', column: 'name' },
  },
  finds: [peopleFound],
  jobs: [{ words: 'ending old sessions', everyMs: 60_000, run: (work, now, { identity }) => identity.tidy(work, now) }],
}
