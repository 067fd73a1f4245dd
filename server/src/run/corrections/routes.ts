import { endpoints } from '@nemawashi/contract'
import { v7 } from 'uuid'
import type { Kernel } from '../../kernel/kernel'
import type { Routes } from '../../kernel/routes'
import { correctDelivery } from './correctDelivery'
import { effectsOf } from './correctionEffects'

const { run } = endpoints

export function correctionRoutes(routes: Routes, { clock }: Kernel): void {
  routes.read(run.checkCorrection, async (reader, { params, body }) => ({
    effects: await effectsOf(reader, params.id, body.correction, { newId: v7, now: clock.now().toISOString() }),
  }))
  routes.change(run.correctDelivery, (work, { params, body }) => correctDelivery(work, params.id, body.correction, body.reason))
}
