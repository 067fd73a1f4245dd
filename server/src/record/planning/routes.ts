import { workDaysFrom } from '@nemawashi/core'
import { endpoints, type Person } from '@nemawashi/contract'
import { facetsOf, planningOf } from '../../inspections/assignmentRepository'
import { queueFilters, type QueueViewer } from '../../inspections/queueRepository'
import { inspectionList } from '../../inspections/repository'
import { dayIn } from '../../kernel/database/plantTime'
import type { Kernel } from '../../kernel/kernel'
import type { Routes } from '../../kernel/routes'
import { assign, unassign, take } from './assignments'

const { record } = endpoints

/** Days that the planning board shows. */
const boardDays = 5

export function planningRoutes(routes: Routes, kernel: Kernel): void {
  const { timeZone } = kernel.config
  const asking = (person: Person | null): QueueViewer => ({ personId: person?.id ?? '', now: kernel.clock.now(), timeZone })

  routes.list(record.listInspections, inspectionList, (query, person) => queueFilters(query, asking(person)))
  routes.readLong(record.getFacets, (reader, { query, person }) => facetsOf(reader, query, queueFilters(query, asking(person)), asking(person)))
  routes.readLong(record.getPlanning, (reader, { query }) => {
    const today = dayIn(timeZone, kernel.clock.now())
    return planningOf(reader, query, workDaysFrom(query.from ?? today, boardDays), today)
  })
  routes.change(record.assignInspection, (work, { params, body, person }) => assign(work, params.id, body, person as Person))
  routes.change(record.takeInspection, (work, { params, body, person }) => take(work, params.id, body.isTakingOver, person as Person))
  routes.change(record.unassignInspection, (work, { params, person }) => unassign(work, params.id, person as Person))
}
