import { lotList } from './passport/repository'
import { endpoints } from '@nemawashi/contract'
import type { Kernel } from '../kernel/kernel'
import { sendPaper } from '../kernel/pdf/paper'
import { sendChunks } from '../kernel/http/sendChunks'
import type { Routes } from '../kernel/routes'
import { loadInspection } from '../inspections/inspections'
import { loadPassport } from './passport/passport'
import { passportPaper } from './passport/passportPdf'
import { loadToday } from './today/today'
import { reportCsv } from './reports/reportCsv'
import { reportPaper } from './reports/reportPdf'

const { trace } = endpoints

export function traceRoutes(routes: Routes, kernel: Kernel): void {
  const now = () => kernel.clock.now()
  routes.list(trace.listLots, lotList)
  routes.readLong(trace.getPassport, (reader, { params }) => loadPassport(reader, params.id))
  routes.readLong(trace.getToday, (reader) => loadToday(reader, kernel.config.timeZone, now()))

  routes.stream(trace.getReportPdf, async (reader, { params, response }) => {
    const inspection = await loadInspection(reader, params.id)
    await sendPaper(kernel, response, reportPaper, inspection, inspection.code)
  })
  routes.stream(trace.getPassportPdf, async (reader, { params, response }) => {
    const passport = await loadPassport(reader, params.id)
    await sendPaper(kernel, response, passportPaper, passport, passport.lot.code)
  })
  routes.stream(trace.getReportJson, async (reader, { params, response }) => {
    const inspection = await loadInspection(reader, params.id)
    response
      .attachment(`${inspection.code}.json`)
      .json({ printedAt: now().toISOString(), timeZone: kernel.config.timeZone, chainHead: await kernel.chain.head(), inspection })
  })
  routes.stream(trace.getReportCsv, async (reader, { params, response }) => {
    const inspection = await loadInspection(reader, params.id)
    await sendChunks(response.type('text/csv').attachment(`${inspection.code}.csv`), reportCsv(inspection))
  })
}
