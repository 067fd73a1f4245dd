import { endpoints } from '@nemawashi/contract'
import type { Kernel } from '../../kernel/kernel'
import type { Routes } from '../../kernel/routes'
import { requireNotTaken } from '../planning/assignments'
import { requireRecorder } from '../planning/recorders'
import { chooseGauge } from './chooseGauge'
import { followSent } from './followSent'

const { equip, record } = endpoints

export function gaugingRoutes(routes: Routes, kernel: Kernel): void {
  routes.change(record.chooseGauge, async (work, { params, body, person }) => {
    await requireRecorder(work, params.id, person)
    await requireNotTaken(work, params.id, person)
    return { gauges: await chooseGauge(work, params.id, body) }
  })
  routes.stream(equip.followSentValues, (reader, { params, person, request, response }) =>
    followSent(kernel, reader, params.id, { person, request, response }),
  )
}
