import { endpoints } from '@nemawashi/contract'
import type { Routes } from '../../kernel/routes'
import { loadRules, movesDue, saveRules } from '../../stock/putAway/putAwayRules'
import { putAway } from './putAway'
import { movementFilters, movementList, transferList } from './repository'
import { stockAt, stockFilters, stockList } from './stockRepository'
import { transfer } from './transfers'

const { run } = endpoints

export function movingRoutes(routes: Routes): void {
  routes.list(run.listStock, ({ at }) => (at === undefined ? stockList : stockAt(new Date(at))), stockFilters)
  routes.list(run.listTransfers, transferList)
  routes.list(run.listMovements, movementList, movementFilters)
  routes.read(run.getPutAwayRules, (reader) => loadRules(reader))
  routes.change(run.savePutAwayRules, (work, { body }) => saveRules(work, body))
  routes.readLong(run.getMovesDue, (reader) => movesDue(reader))
  routes.change(run.transfer, (work, { body }) => transfer(work, body))
  routes.change(run.putAway, async (work, { params, body }) => ({ balances: await putAway(work, params.id, body) }))
}
