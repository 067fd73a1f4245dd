import { endpoints } from '@nemawashi/contract'
import { finishOnly, decideOn } from './judging'
import { planLine } from './plans'
import type { Stage } from './stage'

const { attach, contain, define, run } = endpoints

/** Goods whose pieces are told apart: load cells by their serial numbers, each looked at by itself, and salt for the bath, weighed drum by drum. */
export async function tellApart(stage: Stage): Promise<void> {
  const { by, master } = stage
  const engineer = by('ilse')
  const clerk = by('dario')
  const part = async (
    code: string,
    name: string,
    more: { unit: 'piece' | '0.1 kg'; tracking: 'serial' | 'bulk'; holdDays: number; packQuantity?: number },
  ) =>
    engineer.call(define.parts.create, {
      body: { code, name, revision: 'A', ...more, familyId: null, putAwayPlaceId: master.id('RACK-A'), operationIds: [master.id('RCV')] },
    })
  const cell = await part('LC-20', 'Load cell of the proof bench, 20 kN', { unit: 'piece', tracking: 'serial', holdDays: 2 })
  const salt = await part('AB-25', 'Salt for the anodising bath', { unit: '0.1 kg', tracking: 'bulk', holdDays: 5, packQuantity: 250 })
  const hang = async (code: string, name: string, lines: readonly string[], partId: string, subject: 'serial' | 'container') => {
    const planLines = lines.map((characteristic) => planLine([characteristic, { kind: 'fixedNumber', sampleSize: 1, accept: 0 }], master.id))
    const plan = await engineer.call(define.createPlan, { body: { code, name, lines: planLines } })
    await engineer.call(define.releasePlan, { params: { id: plan.id }, body: { version: plan.version } })
    // Drums may stand in the store meanwhile; what is in them is not used before its decision.
    const kept = subject === 'container' ? ({ keepsFrom: 'use', holdPlaceId: null } as const) : { holdPlaceId: master.id('BAY-2') }
    const fields = { operationId: master.id('RCV'), planId: plan.id, partId, familyId: null, supplierId: null, ...kept }
    await engineer.call(attach.createControlPoint, { body: { ...fields, isGate: true, subject, responsible: 'Receiving inspection', dueHours: 8 } })
  }
  const finer = (code: string, name: string, standing: 'released' | 'quarantined', more: { mayUse: boolean; countsForPlanning: boolean }) =>
    engineer.call(define.finerStandings.create, { body: { code, name, standing, ...more, mayPick: false, mayShip: false, isActive: true } })
  const training = await finer('FS-10', 'for training only', 'released', { mayUse: false, countsForPlanning: false })
  await finer('FS-20', 'being sorted', 'quarantined', { mayUse: false, countsForPlanning: false })
  await hang('RP-65', 'Load cells, one by one', ['C-TURN', 'C-PACK'], cell.id, 'serial')
  await hang('RP-66', 'Bath salt, drum by drum', ['C-SEAL'], salt.id, 'container')

  const arrived = (partId: string, supplierLot: string, more: { quantity: number; containers?: number[]; serials?: string[] }) =>
    clerk.call(run.receiveDelivery, {
      body: {
        supplierId: master.id('GWB'),
        orderNumber: '4310',
        lines: [
          {
            partId,
            supplierLot,
            quantity: more.quantity,
            containers: (more.containers ?? []).map((quantity) => ({ label: null, quantity })),
            serials: more.serials ?? [],
          },
        ],
      },
    })
  const cells = await arrived(cell.id, 'GWB-2041', { quantity: 4, serials: ['G-2041', 'G-2042', 'G-2043', 'G-2044'] })
  await arrived(salt.id, 'GWB-77', { quantity: 748, containers: [250, 250, 248] })
  // Two are looked at; one of them is free, the other one waits for a decision.
  const [first, second] = cells.lots[0]?.inspections ?? []
  if (!first || !second) throw new Error('The load cells are asked for nothing.')
  await finishOnly(stage, first.id, null)
  await decideOn(stage, first.id)
  await engineer.call(contain.giveStanding, {
    params: { id: cells.lots[0]?.id ?? '' },
    body: { containerId: first.containerId, finerId: training.id, reason: 'Scratched dial: stays in the school until it is calibrated' },
  })
  await finishOnly(stage, second.id, { code: 'C-TURN', share: 1 })
}
