import type { Balance } from '@nemawashi/core'
import { endpoints } from '@nemawashi/contract'
import fc from 'fast-check'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { runs } from '../../testing/database'
import { receive, startPlant, stock, type Plant, type Stock } from '../../testing/plant'
import { balancesNow, movePieces } from './ledger'
import { loadBalances } from './repository'

let plant: Plant
let goods: Stock
let personId = ''
beforeAll(async () => {
  plant = await startPlant()
  goods = await stock(plant)
  personId = (await (await plant.as('qualityManager')).call(endpoints.people.getSession, {})).person?.id ?? ''
})
afterAll(() => plant.stop())

// Back and forth between places: spots are emptied, and pieces come back to them.
const step = fc.record({ spot: fc.nat(5), share: fc.constantFrom(0.3, 1), to: fc.constantFrom('bay', 'store', 'dock') })

it('a change knows where pieces stand after each of its own movements as the database says it, in the same order', async () => {
  await fc.assert(
    fc.asyncProperty(fc.array(step, { maxLength: 12 }), async (steps) => {
      const { lots } = await receive(plant, goods, {
        containers: [
          { label: null, quantity: 40 },
          { label: null, quantity: 60 },
        ],
      })
      const lotId = lots[0]?.id ?? ''
      await plant.kernel.work.run({ personId, key: null, content: '' }, async (work) => {
        // Also where no step moves anything.
        work.audit({ action: 'transferred', subject: 'lot', subjectId: lotId })
        for (const { spot: at, share, to } of steps) {
          const balances = await balancesNow(work, lotId)
          const spot = balances[at % balances.length]
          if (!spot || spot.placeId === goods.places[to as 'bay'].id) continue
          const quantity = Math.max(1, Math.floor(spot.quantity * share))
          await movePieces(work, lotId, { spot, quantity, to: { placeId: goods.places[to as 'bay'].id, standing: spot.standing } }, 'transferred', {})
          expect(await balancesNow(work, lotId)).toEqual(await loadBalances(work.manager, lotId))
        }
        const [spot] = await balancesNow(work, lotId)
        const tooMany = { spot: spot as Balance, quantity: 1000, to: { placeId: goods.places.bay.id, standing: 'released' as const } }
        await expect(movePieces(work, lotId, tooMany, 'transferred', {})).rejects.toThrow(/1000 were to be moved/)
      })
    }),
    { numRuns: runs(12) },
  )
})
