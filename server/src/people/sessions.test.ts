import { endpoints } from '@nemawashi/contract'
import type { Request } from 'express'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { verifyPlant } from '../kernel/verify/verifyPlant'
import { password, startPlant, type Plant } from '../testing/plant'
import { Sessions } from './sessions'

const { people } = endpoints
let plant: Plant
beforeAll(async () => {
  plant = await startPlant()
})
afterAll(() => plant.stop())

/** A request with a cookie, as a page sends it; `isUnattended` where nobody is at the page. */
const asked = (cookie: string, isUnattended = false) =>
  ({ headers: { cookie }, get: (name: string) => (isUnattended && name === 'x-unattended' ? '1' : undefined) }) as unknown as Request

it('a session that nobody is at any more is ended, whatever its page asks by itself; keys of other systems are no such sessions', async () => {
  const inspector = (await plant.as('inspector')).cookies
  const auditor = (await plant.as('auditor')).cookies
  const body = { name: 'Orders', initials: 'OR', signInName: 'orders', roles: ['orderFeed' as const], password }
  const { id, version } = await plant.administrator.call(people.createPerson, { body })
  const { token } = await plant.administrator.call(people.giveToken, { params: { id }, body: { version } })
  const { database, clock, work } = plant.kernel
  const sessions = new Sessions(database, clock, 12, 30, false, async () => null)
  const isIn = async (cookie: string) => (await sessions.personOf(asked(cookie, true))) !== null
  const later = async (minutes: number, also: () => Promise<unknown> = async () => {}) => {
    plant.clock.time += minutes * 60_000
    await also()
    await sessions.tidy(work, clock.now())
  }
  await later(29, () => sessions.personOf(asked(inspector)))
  expect([await isIn(inspector), await isIn(auditor)]).toEqual([true, true])
  await later(2, () => sessions.personOf(asked(auditor, true)))
  expect([await isIn(inspector), await isIn(auditor)]).toEqual([true, false])
  // Another server of the plant, or the same after a new start, knows who was seen when.
  const other = new Sessions(database, clock, 12, 30, false, async () => null)
  await other.tidy(work, clock.now())
  expect(await isIn(inspector)).toBe(true)
  await later(40)
  expect(await isIn(inspector)).toBe(false)
  const key = { headers: {}, get: (name: string) => (name === 'authorization' ? `Bearer ${token}` : undefined) } as unknown as Request
  expect((await sessions.personOf(key))?.name).toBe('Orders')
  expect(await database.reader.query('SELECT 1 FROM session_seen s WHERE s.token_hash NOT IN (SELECT token_hash FROM session)')).toEqual([])
  expect((await verifyPlant(database.address, plant.kernel.schema)).breaks).toEqual([])
})

it('there are plants where sessions end by their time alone', async () => {
  const cookie = (await plant.as('qualityEngineer')).cookies
  const { database, clock, work } = plant.kernel
  const sessions = new Sessions(database, clock, 12, 0, false, async () => null)
  plant.clock.time += 5 * 3_600_000
  await sessions.tidy(work, clock.now())
  expect(await sessions.personOf(asked(cookie))).not.toBeNull()
})
