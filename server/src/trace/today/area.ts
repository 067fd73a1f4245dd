import { endpoints } from '@nemawashi/contract'
import type { Area } from '../../kernel/area'
import { loadToday } from './today'

/** What waits for somebody today. */
export const today: Area = {
  name: 'trace/today',
  routes(routes, { config, clock }) {
    routes.readLong(endpoints.trace.getToday, (reader) => loadToday(reader, config.timeZone, clock.now()))
  },
}
