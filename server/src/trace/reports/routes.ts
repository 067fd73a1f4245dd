import { endpoints } from '@nemawashi/contract'
import { loadInspection } from '../../inspections/inspections'
import { sendChunks } from '../../kernel/http/sendChunks'
import type { Kernel } from '../../kernel/kernel'
import { sendPaper } from '../../kernel/pdf/paper'
import type { Routes } from '../../kernel/routes'
import { reportCsv } from './reportCsv'
import { reportPaper } from './reportPdf'
import { picturesOf } from './reportPictures'

const { trace } = endpoints

export function reportRoutes(routes: Routes, kernel: Kernel): void {
  routes.stream(trace.getReportPdf, async (reader, { params, response }) => {
    const inspection = await loadInspection(reader, params.id)
    await sendPaper(kernel, response, reportPaper, { inspection, pictures: await picturesOf(reader, inspection) }, inspection.code)
  })
  routes.stream(trace.getReportJson, async (reader, { params, response }) => {
    const inspection = await loadInspection(reader, params.id)
    const printedAt = kernel.clock.now().toISOString()
    response
      .attachment(`${inspection.code}.json`)
      .json({ printedAt, timeZone: kernel.config.timeZone, chainHead: await kernel.chain.head(), inspection })
  })
  routes.stream(trace.getReportCsv, async (reader, { params, response }) => {
    const inspection = await loadInspection(reader, params.id)
    await sendChunks(response.type('text/csv').attachment(`${inspection.code}.csv`), reportCsv(inspection))
  })
}
