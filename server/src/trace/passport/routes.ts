import { endpoints } from '@nemawashi/contract'
import type { Kernel } from '../../kernel/kernel'
import { sendPaper } from '../../kernel/pdf/paper'
import type { Routes } from '../../kernel/routes'
import { loadPassport } from './passport'
import { passportPaper } from './passportPdf'
import { lotList } from './repository'

const { trace } = endpoints

export function passportRoutes(routes: Routes, kernel: Kernel): void {
  routes.list(trace.listLots, lotList)
  routes.readLong(trace.getPassport, (reader, { params }) => loadPassport(reader, params.id))
  routes.stream(trace.getPassportPdf, async (reader, { params, response }) => {
    const passport = await loadPassport(reader, params.id)
    await sendPaper(kernel, response, passportPaper, passport, passport.lot.code)
  })
}
