import { endpoints } from '@nemawashi/contract'
import type { Kernel } from '../../kernel/kernel'
import { sendPaper } from '../../kernel/pdf/paper'
import type { Routes } from '../../kernel/routes'
import { cancelDispatch } from './cancelDispatch'
import { loadDispatch } from './loadDispatch'
import { pickDispatch } from './pickDispatch'
import { sendDispatch } from './sendDispatch'
import { receiveReturn } from './receiveReturn'
import { notePaper } from './notePdf'
import { pickPlanned, planDispatch } from './planDispatch'
import { dispatchFilters, dispatchList, pickableList } from './repository'

const { run } = endpoints

export function shippingRoutes(routes: Routes, kernel: Kernel): void {
  routes.list(run.listPickable, pickableList)
  routes.list(run.listDispatches, dispatchList, dispatchFilters)
  routes.read(run.getDispatch, (reader, { params }) => loadDispatch(reader, params.id))
  routes.change(run.pickDispatch, (work, { body }) => pickDispatch(work, body))
  routes.change(run.planDispatch, (work, { body }) => planDispatch(work, body))
  routes.change(run.pickPlanned, (work, { params, body }) => pickPlanned(work, params.id, body.version, body.picks))
  routes.change(run.sendDispatch, (work, { params, body }) => sendDispatch(work, params.id, body.version))
  routes.change(run.cancelDispatch, (work, { params, body }) => cancelDispatch(work, params.id, body.version))
  routes.change(run.receiveReturn, (work, { params, body }) => receiveReturn(work, params.id, body))
  routes.stream(run.getNotePdf, async (reader, { params, response }) => {
    const dispatch = await loadDispatch(reader, params.id)
    await sendPaper(kernel, response, notePaper, dispatch, dispatch.code)
  })
}
