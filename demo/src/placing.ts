import { endpoints } from '@nemawashi/contract'
import type { Stage } from './stage'

const { run } = endpoints
const nothing = { id: null, partId: null, familyId: null, supplierId: null, standing: null, moment: 'always', fromPlaceId: null } as const

/** The list of where things go, as the engineer has it by today, and the first pieces that the clerk has moved by it. */
export async function placeThings({ by, master }: Stage): Promise<void> {
  const rules = [
    { ...nothing, name: 'Set aside by a decision', standing: 'quarantined' as const, toPlaceId: master.id('CAGE') },
    {
      ...nothing,
      name: 'Held springs, to the spring tester',
      familyId: master.id('SPRINGS'),
      standing: 'onHold' as const,
      toPlaceId: master.id('BAY-1'),
    },
    { ...nothing, name: 'Free bars', familyId: master.id('BARS'), standing: 'released' as const, toPlaceId: master.id('BARSTORE') },
    { ...nothing, name: 'Free at the dock', standing: 'released' as const, fromPlaceId: master.id('DOCK-1'), toPlaceId: master.id('RACK-A') },
  ]
  const { version } = await by('ilse').call(run.getPutAwayRules, {})
  await by('ilse').call(run.savePutAwayRules, { body: { rules, version } })
  const { rows } = await by('dario').call(run.getMovesDue, {})
  for (const { lotId, containerId, placeId, standing, quantity, toPlaceId, ruleId } of rows.slice(0, 2)) {
    const body = { lotId, containerId, fromPlaceId: placeId, standing, quantity, toPlaceId, ruleId }
    // What a gate keeps from its store waits for its decision.
    await by('dario')
      .call(run.transfer, { body })
      .catch(() => undefined)
  }
}
