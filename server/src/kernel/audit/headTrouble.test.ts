import { endpoints } from '@nemawashi/contract'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect, it } from 'vitest'
import { receive, startPlant, stock } from '../../testing/plant'
import { readHead } from './chainHead'
import { headOf } from './auditChain'

const { people } = endpoints

it('a chain head that cannot be written outside keeps no change back: it is stored and answered so, said to whoever looks after the plant, and made up for', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'nemawashi-head-'))
  const inTheWay = join(folder, 'heads')
  writeFileSync(inTheWay, 'a file where a folder should be')
  const plant = await startPlant({ NEMAWASHI_CHAIN_HEAD: join(inTheWay, 'chain.head') })
  const goods = await stock(plant)
  expect((await receive(plant, goods)).lots).toHaveLength(1)
  const health = await plant.administrator.call(people.health, {})
  expect(health).toMatchObject({ status: 'headNotWritten', trouble: expect.stringContaining('cannot be written') })
  expect((await plant.administrator.call(people.getSession, {})).trouble).toBe(health.trouble)
  expect((await (await plant.as('inspector')).call(people.getSession, {})).trouble).toBeNull()
  rmSync(inTheWay)
  await receive(plant, goods)
  expect((await plant.administrator.call(people.health, {})).status).toBe('ok')
  expect(readHead(readFileSync(join(inTheWay, 'chain.head'), 'utf8'))).toMatchObject(await headOf(plant.kernel.database.reader))
  await plant.stop()
  rmSync(folder, { recursive: true })
})
