import { endpoints } from '@nemawashi/contract'
import { loadInspection } from '../inspections/inspections'
import type { Routes } from '../kernel/routes'
import { openByHand } from './openByHand'

const { record } = endpoints

export function openingRoutes(routes: Routes): void {
  routes.change(record.openByHand, async (work, { params, body }) => {
    const { id } = await openByHand(work, params.id, body)
    return loadInspection(work.manager, id)
  })
}
