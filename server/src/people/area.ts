import { peopleFound } from './repository'
import type { Area } from '../kernel/area'
import { GivenPasswordEntity, PersonEntity, SecondFactorEntity, SessionEntity } from './entities'
import type { App } from './app'
import { peopleRoutes } from './routes'

/** Who may come in, and what was done by whom. */
export const people: Area<App> = {
  name: 'people',
  entities: [SessionEntity, PersonEntity, GivenPasswordEntity, SecondFactorEntity],
  routes: peopleRoutes,
  subjects: {
    person: { table: 'person', column: 'name' },
  },
  searchProviders: [peopleFound],
  jobs: [{ words: 'ending old sessions', everyMs: 60_000, isOfEach: true, run: (work, now, { identity }) => identity.tidy(work, now) }],
}
