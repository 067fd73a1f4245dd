import { endpoints } from '@nemawashi/contract'
import { dayIn } from '../kernel/database/plantTime'
import { ServerError } from '../kernel/base/serverError'
import type { Kernel } from '../kernel/kernel'
import type { Routes } from '../kernel/routes'
import { createGauge, setGaugeState, updateGauge } from './gauges'
import { gaugeFilters, gaugeList, gaugeUseFilters, gaugeUseList } from './repository'
import { instrumentOf, sentLast, sentValueFilters, sentValueList } from './instrumentRepository'
import { callerOf, endInstrumentKey, giveInstrumentKey, takeSent, topicOf } from './instruments'
import { gaugeRows } from './rows'

const { equip } = endpoints

/** How many days ahead a calibration is soon. */
const soonDays = 30

export function equipRoutes(routes: Routes, kernel: Kernel): void {
  const { clock, config } = kernel
  routes.list(equip.listGauges, gaugeList, (query) => {
    const now = clock.now()
    const dayAfter = (days: number) => dayIn(config.timeZone, new Date(now.getTime() + days * 86_400_000))
    return gaugeFilters(query, dayAfter(0), dayAfter(soonDays))
  })
  routes.list(equip.listGaugeUses, gaugeUseList, gaugeUseFilters)
  routes.read(equip.getGauge, async (reader, { params }) => {
    const gauge = await gaugeRows.find(reader, { id: params.id })
    if (!gauge) throw new ServerError('not_found', `There is no gauge with the id ${params.id}.`)
    return gauge
  })
  routes.change(equip.createGauge, (work, { body }) => createGauge(work, body))
  routes.change(equip.updateGauge, (work, { params, body }) => updateGauge(work, params.id, body))
  routes.list(equip.listSentValues, sentValueList, sentValueFilters)
  routes.read(equip.getInstrument, async (reader, { params }) => {
    const instrument = await instrumentOf(reader, params.id)
    const hasSent = (await sentLast(reader, params.id)) !== null
    return { instrument: instrument && { ...instrument, heardAt: kernel.openPages.lastHeard(topicOf(params.id)) }, hasSent }
  })
  routes.change(equip.giveInstrumentKey, async (work, { params }) => ({ key: await giveInstrumentKey(work, params.id) }))
  routes.change(equip.endInstrumentKey, async (work, { params }) => {
    await endInstrumentKey(work, params.id)
    return {}
  })
  // Each value is a change of its own.
  routes.changeEach(equip.sendValues, async (_each, { body, request }) => {
    const caller = await callerOf(kernel, /^Bearer ([\w-]{20,})$/.exec(request.get('authorization') ?? '')?.[1] ?? '')
    return { gauge: caller.code, answers: await takeSent(kernel, caller, body.values) }
  })
  routes.change(equip.setGaugeState, (work, { params, body, person }) => setGaugeState(work, params.id, body, person))
}
