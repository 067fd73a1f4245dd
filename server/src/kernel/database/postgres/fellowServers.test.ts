import { Client } from 'pg'
import { afterEach, describe, expect, it } from 'vitest'
import { testServer } from '../../../testing/database'
import type { Word } from '../fellows'
import { FellowServers, leadLock } from './fellowServers'

const made: FellowServers[] = []
function fellow(): FellowServers {
  const server = new FellowServers(testServer ?? '')
  made.push(server)
  return server
}
afterEach(async () => {
  for (const server of made.splice(0)) await server.close()
})
const until = (isSo: () => boolean) => expect.poll(isSo, { timeout: 5_000 }).toBe(true)

describe.skipIf(testServer === null)('several servers at one plant', () => {
  it('are led by one of them, and by another one once that has gone', async () => {
    const [first, second] = [fellow(), fellow()]
    expect([await first.leads(), await second.leads(), await first.leads()]).toEqual([true, false, true])
    await first.close()
    expect([await first.leads(), await second.leads()]).toEqual([false, true])
  })

  it('one whose connection is cut leads no longer than it takes to ask, and comes back when it may', async () => {
    const [first, second] = [fellow(), fellow()]
    expect(await first.leads()).toBe(true)
    const admin = new Client({ connectionString: testServer ?? '' })
    await admin.connect()
    await admin.query(`SELECT pg_terminate_backend(pid) FROM pg_locks WHERE locktype = 'advisory' AND objid = ${leadLock} AND granted`)
    await admin.end()
    await expect.poll(() => second.leads(), { timeout: 5_000 }).toBe(true)
    expect(await first.leads()).toBe(false)
    await second.close()
    await expect.poll(() => first.leads(), { timeout: 5_000 }).toBe(true)
  })

  it('hear what the others tell, and not themselves', async () => {
    const [first, second] = [fellow(), fellow()]
    const heard: Record<string, Word[]> = { first: [], second: [] }
    first.onTold((word) => heard['first']?.push(word))
    second.onTold((word) => heard['second']?.push(word))
    await Promise.all([first.leads(), second.leads()])
    first.tell({ about: 'progress', key: 'k', done: 1, total: 3 })
    await until(() => heard['second']?.length === 1)
    expect(heard).toEqual({ first: [], second: [{ about: 'progress', key: 'k', done: 1, total: 3 }] })
  })

  it('that cannot reach the database lead nothing and tell nobody, and nothing breaks', async () => {
    const lost = new FellowServers('postgres://nobody@127.0.0.1:1/nowhere')
    made.push(lost)
    lost.tell({ about: 'progress' })
    expect(await lost.leads()).toBe(false)
  })
})
