import { endpoints } from '@nemawashi/contract'
import type { Routes } from '../../kernel/routes'
import { answerStop } from '../../opening/stops'
import { loadStop, stopFilters, stopList } from './repository'

const { contain } = endpoints

export function stopRoutes(routes: Routes): void {
  routes.list(contain.listStops, stopList, stopFilters)
  routes.read(contain.getStop, (reader, { params }) => loadStop(reader, params.id))
  routes.change(contain.answerStop, async (work, { params, body }) => {
    await answerStop(work, params.id, body)
    return loadStop(work.manager, params.id)
  })
}
