import type { Area } from '../../kernel/area'
import { benchRoutes } from './routes'
import { tellPeople, ToldEntity } from './told'

/** Inspections as they are recorded: answers, finish, and who is told. */
export const bench: Area = {
  name: 'record/bench',
  entities: [ToldEntity],
  routes: benchRoutes,
  hears: (happenings) => happenings.on('inspectionFinished', tellPeople),
}
