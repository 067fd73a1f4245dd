import { endpoints } from '@nemawashi/contract'
import { spawnSync } from 'node:child_process'
import { lutimes, mkdir, mkdtemp, readdir, readFile, rm, symlink, truncate, utimes, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { startPlant, stock, type Plant } from '../../testing/plant'
import { eventsIn, Unreadable } from './droppedFiles'
import { emptyingInbox, largestFile } from './inbox'

const { people, run } = endpoints
let plant: Plant
let folder: string

beforeAll(async () => {
  plant = await startPlant()
  await stock(plant)
  folder = await mkdtemp(join(tmpdir(), 'nemawashi-inbox-'))
})
afterAll(async () => {
  await plant.stop()
  await rm(folder, { recursive: true })
})

const table = (key: string, part = 'P-1') =>
  `key,supplier,orderNumber,part,supplierLot,quantity,container,containerQuantity\n${key},SUP,77,${part},S-1,100,B-${key}-1,60\n${key},SUP,77,${part},S-1,100,,40\n`
/** As it lies there a moment after it was written. */
async function drop(name: string, text: string): Promise<void> {
  await writeFile(join(folder, name), text)
  await utimes(join(folder, name), new Date(), new Date(Date.now() - 60_000))
}
const job = emptyingInbox()
const empty = () => {
  const { config, database, identity, work, clock } = plant.kernel
  return job.run(work, clock.now(), { config: { ...config, inbox: folder }, database, identity })
}
const lying = async () => (await readdir(folder)).sort()
const noteOf = async (where: string, name: string) => {
  const [note] = (await readdir(join(folder, where))).filter((entry) => entry.endsWith(`${name}.txt`))
  return readFile(join(folder, where, note ?? ''), 'utf8')
}
const deliveries = async () => (await (await plant.as('auditor')).call(run.listDeliveries, { query: {} })).total

describe('a file that is dropped', () => {
  it('has the serial numbers of its pieces, row by row', () => {
    const [event] = eventsIn('a.csv', 'key,supplier,orderNumber,part,supplierLot,quantity,serial\nd9,SUP,77,P-1,S-9,2,A-1\nd9,SUP,77,P-1,S-9,2,A-2\n')
    expect(event?.body).toMatchObject({ lines: [{ quantity: 2, containers: [], serials: ['A-1', 'A-2'] }] })
  })

  it('waits until somebody may send events, and is then taken once, however often it comes', async () => {
    await drop('a.csv', table('d1'))
    await empty()
    expect(await lying()).toEqual(['a.csv'])
    const input = { name: 'Orders', initials: 'OS', signInName: 'orders', roles: ['orderFeed' as const], password: 'long enough it is' }
    await plant.administrator.call(people.createPerson, { body: input })
    await empty()
    expect(await lying()).toEqual(['taken'])
    expect(await noteOf('taken', 'a.csv')).toBe('d1: taken as D-000001\n')
    const [lot] = (await plant.kernel.database.reader.query('SELECT quantity, supplier_lot FROM lot')) as { quantity: number; supplierLot: string }[]
    expect(lot).toEqual({ quantity: 100, supplierLot: 'S-1' })
    await drop('again.csv', table('d1'))
    await empty()
    expect(await noteOf('taken', 'again.csv')).toBe('d1: known as D-000001\n')
    expect(await deliveries()).toBe(1)
  })

  it('has its refused events kept aside, to be mended, and the others taken', async () => {
    const event = (key: string, part: string) => ({
      key,
      kind: 'delivery',
      body: { supplier: 'SUP', orderNumber: '78', lines: [{ part, supplierLot: key, quantity: 5 }] },
    })
    await drop('b.json', JSON.stringify({ events: [event('d2', 'P-1'), event('d3', 'NOBODY-KNOWS')] }))
    await empty()
    expect(await noteOf('taken', 'b.json')).toMatch(/^d2: taken as D-000002\nd3: aside. There is no part NOBODY-KNOWS/)
    const { rows } = await (await plant.as('receivingClerk')).call(run.listFeedEvents, { query: { state: 'aside' } })
    expect(rows).toMatchObject([{ key: 'd3', code: 'reference_unknown' }])
  })

  it('that breaks off in the middle or makes no sense is put apart with what is wrong, and nothing of it is taken', async () => {
    const before = await deliveries()
    await drop('c.json', '{"events": [{"key": "d4", "kind": "deli')
    await drop('d.csv', 'key,supplier\nd5,SUP\n')
    await drop('e.csv', table('d6').replace('100', 'many'))
    await empty()
    expect(await noteOf('unreadable', 'c.json')).toMatch(/It is no JSON/)
    expect(await noteOf('unreadable', 'd.csv')).toMatch(/Row 2: .*The columns are key, supplier, orderNumber/)
    expect(await noteOf('unreadable', 'e.csv')).toMatch(/Row 2: .*is no number written/)
    expect(await deliveries()).toBe(before)
  })

  it('that is still being written to is left alone, and so is anything else in the folder', async () => {
    await writeFile(join(folder, 'f.csv'), table('d7').slice(0, 90))
    await drop('readme.txt', 'not for the plant')
    await empty()
    expect(await lying()).toEqual(['f.csv', 'readme.txt', 'taken', 'unreadable'])
  })

  it('is a list of events, or says that it is none', () => {
    expect(() => eventsIn('x.json', '[]')).toThrow(Unreadable)
    expect(() => eventsIn('x.json', '"words"')).toThrow(/neither a list of events/)
    expect(eventsIn('x.csv', table('k')).map(({ key, body }) => [key, (body as { lines: unknown[] }).lines.length])).toEqual([['k', 1]])
  })
})

describe('a folder of dropped files', () => {
  it('with anything in it goes on: links, folders, pipes, what is too large or has too long a name is put apart with a word', async () => {
    const before = await deliveries()
    const outside = join(folder, '..', `outside-${process.pid}.json`)
    await writeFile(outside, '{"events":[]}')
    const old = new Date(Date.now() - 60_000)
    await symlink(outside, join(folder, '1-link.json'))
    await symlink('/nowhere/at/all', join(folder, '2-nothing.json'))
    await mkdir(join(folder, '3-folder.json'))
    spawnSync('mkfifo', [join(folder, '4-pipe.csv')])
    await writeFile(join(folder, '5-large.csv'), '')
    await truncate(join(folder, '5-large.csv'), largestFile + 1)
    const long = `${'6'.repeat(240)}.csv`
    await drop('7-good.csv', table('good-1'))
    await drop(long, 'no table')
    for (const name of ['1-link.json', '2-nothing.json']) await lutimes(join(folder, name), old, old)
    for (const name of ['3-folder.json', '4-pipe.csv', '5-large.csv']) await utimes(join(folder, name), old, old)
    await empty()
    expect((await lying()).filter((name) => /^\d/.test(name))).toEqual([])
    for (const name of ['1-link.json', '2-nothing.json', '3-folder.json', '4-pipe.csv'])
      expect(await noteOf('unreadable', name)).toContain('It is no file')
    expect(await noteOf('unreadable', '5-large.csv')).toContain('has 16777217 bytes')
    expect((await readdir(join(folder, 'unreadable'))).filter((name) => name.includes('66666'))).toHaveLength(2)
    expect(await deliveries()).toBe(before + 1)
    await rm(outside)
  })

  it('has the numbers that people wrote, and says where rows of one delivery disagree', async () => {
    const head = 'key,supplier,orderNumber,part,supplierLot,quantity,container,containerQuantity\n'
    const unread = (text: string) => () => eventsIn('a.csv', head + text)
    expect(unread('k1,SUP,77,P-1,S-1,0x10,,\n')).toThrow(/quantity: is no number written in digits/)
    expect(unread('k1,SUP,77,P-1,S-1,1e3,,\n')).toThrow(/quantity: is no number written in digits/)
    expect(unread('k1,SUP,77,P-1,S-1,10,B-1,0x6\n')).toThrow(Unreadable)
    expect(unread('k1,SUP,77,P-1,S-1,10,,\nk1,OTH,77,P-1,S-2,5,,\n')).toThrow('The rows of k1 disagree: supplier is SUP and OTH.')
    expect(unread('k1,SUP,77,P-1,S-1,10,,\nk1,SUP,78,P-1,S-2,5,,\n')).toThrow('orderNumber is 77 and 78')
    expect(unread('k1,SUP,77,P-1,S-1,10,,\nk1,SUP,77,P-1,S-1,12,,\n')).toThrow('quantity is 10 and 12')
  })

  it('does not lose what comes under the key of another event: both are told, and nothing of it is taken', async () => {
    const before = await deliveries()
    await drop('first.csv', table('same'))
    await empty()
    await drop('other.csv', table('same').replaceAll(',77,', ',79,'))
    await empty()
    expect(await noteOf('taken', 'other.csv')).toMatch(
      /^same: refused as D-\d+\. The event same was taken as D-\d+ with other content: orderNumber "77" then, "79" now/,
    )
    expect(await deliveries()).toBe(before + 1)
  })
})
