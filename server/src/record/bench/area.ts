import type { Area } from '../../kernel/area'
import { benchRoutes } from './routes'
import { notifyPeople, NotificationEntity } from './notifications'

/** Inspections as they are recorded: answers, finish, and who is told. */
export const bench: Area = {
  name: 'record/bench',
  entities: [NotificationEntity],
  routes: benchRoutes,
  subscribe: (events) => events.on('inspectionFinished', notifyPeople),
}
