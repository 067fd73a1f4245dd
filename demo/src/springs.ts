import { endpoints, type Delivery } from '@nemawashi/contract'
import { decideOn, finishOnly } from './judging'
import { putAway } from './puttingAway'
import { day, hour, type Happening, type Stage } from './stage'

const { run } = endpoints

/**
 * Twin springs from one supplier whose grinding of the ends gets worse: days ago, and whether that lot is bad. Inspection goes from normal
 * to tightened, and then acceptance stops; today one more load has come, dry and sealed or not.
 */
const loads: readonly (readonly [daysAgo: number, isBad: boolean])[] = [
  [104, false],
  [92, false],
  [81, true],
  [70, true],
  [58, true],
  [47, false],
  [36, true],
  [25, true],
  [14, true],
  [3, true],
  [0, false],
]

export function planSprings(stage: Stage, agenda: Happening[]): void {
  for (const [daysAgo, isBad] of loads)
    agenda.push({ at: stage.morning - daysAgo * day + 1.5 * hour, do: () => arrive(stage, agenda, daysAgo, isBad) })
}

async function arrive(stage: Stage, agenda: Happening[], daysAgo: number, isBad: boolean): Promise<void> {
  const { master, chance } = stage
  const line = (part: string, quantity: number) => ({
    partId: master.id(part),
    supplierLot: `TFS-${chance.whole(10_000, 99_999)}`,
    quantity,
    containers: [],
  })
  const delivery = await stage.by('dario').call(run.receiveDelivery, {
    body: {
      supplierId: master.id('TFS'),
      orderNumber: `${5200 + daysAgo}`,
      load: {
        carrier: 'Fellside Haulage',
        vehicle: `FH ${chance.whole(100, 999)}`,
        driver: '',
        seal: `${chance.whole(40_000, 49_999)}`,
        loadNumber: '',
      },
      lines: daysAgo === 0 ? [line('SP-50', 400), line('SP-31', 500)] : [line('SP-50', 400)],
    },
  })
  const trouble = isBad ? { code: 'C-ENDS', share: 0.35 } : null
  // Today the goods are looked at, and the load is not yet.
  const opened = [...(daysAgo === 0 ? [] : delivery.load.inspections), ...delivery.lots.flatMap(({ inspections }) => inspections)]
  agenda.push({
    at: stage.now() + 2 * hour,
    do: async () => {
      for (const { id } of opened) await finishOnly(stage, id, trouble)
      if (daysAgo > 0) agenda.push({ at: stage.now() + 2 * hour, do: () => settle(stage, delivery) })
    },
  })
}

async function settle(stage: Stage, delivery: Delivery): Promise<void> {
  for (const lot of delivery.lots) {
    for (const { id } of lot.inspections) await decideOn(stage, id, lot.id)
    for (const { id } of delivery.load.inspections) await decideOn(stage, id, lot.id)
  }
  await putAway(stage, delivery.id)
}
