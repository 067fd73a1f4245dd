import { lotList } from './repository'
import { endpoints } from '@nemawashi/contract'
import type { Kernel } from '../kernel/kernel'
import { printingNow } from '../kernel/printing'
import type { Routes } from '../kernel/routes'
import { loadInspection } from '../record/inspections'
import { loadPassport } from './passport'
import { passportPdf } from './passportPdf'
import { loadToday } from './today'
import { reportCsv } from './reportCsv'
import { reportPdf } from './reportPdf'

const { trace } = endpoints

export function traceRoutes(routes: Routes, kernel: Kernel): void {
  const now = () => kernel.clock.now()
  const printing = () => printingNow(kernel)
  routes.list(trace.listLots, lotList)
  routes.read(trace.getPassport, (reader, { params }) => loadPassport(reader, params.id))
  routes.read(trace.getToday, (reader) => loadToday(reader, kernel.config.timeZone, now()))

  routes.stream(trace.getReportPdf, async (reader, { params, response }) => {
    const inspection = await loadInspection(reader, params.id)
    response.type('application/pdf').setHeader('Content-Disposition', `inline; filename="${inspection.code}.pdf"`)
    await reportPdf(inspection, await printing(), response)
  })
  routes.stream(trace.getPassportPdf, async (reader, { params, response }) => {
    const passport = await loadPassport(reader, params.id)
    response.type('application/pdf').setHeader('Content-Disposition', `inline; filename="${passport.lot.code}.pdf"`)
    await passportPdf(passport, await printing(), response)
  })
  routes.stream(trace.getReportJson, async (reader, { params, response }) => {
    const inspection = await loadInspection(reader, params.id)
    response
      .attachment(`${inspection.code}.json`)
      .json({ printedAt: now().toISOString(), timeZone: kernel.config.timeZone, chainHead: await kernel.chain.head(), inspection })
  })
  routes.stream(trace.getReportCsv, async (reader, { params, response }) => {
    const inspection = await loadInspection(reader, params.id)
    response.type('text/csv').attachment(`${inspection.code}.csv`).send(reportCsv(inspection))
  })
}
