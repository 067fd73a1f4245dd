import { endpoints, maxKeptADay } from '@nemawashi/contract'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { refusal, startPlant, type Plant } from '../testing/plant'
import { DocumentEntity } from './entities'

const { define, people } = endpoints
let plant: Plant
beforeAll(async () => {
  plant = await startPlant()
})
afterAll(() => plant.stop())

const picture = Buffer.from([0x89, 0x50, 0x4e, 0x47, 1, 2, 3, 4])
const keep = async (role: 'inspector' | 'receivingClerk') =>
  (await plant.as(role)).call(define.addDocument, { body: { name: 'a.png', mediaType: 'image/png', content: picture.toString('base64') } })

it('somebody who has kept half a gigabyte within a day keeps nothing more that day; others do', async () => {
  const { person } = await (await plant.as('inspector')).call(people.getSession, {})
  const id = '01900000-0000-7000-8000-00000000d0c0'
  await plant.kernel.work.run({ personId: person?.id ?? null, key: null, content: '' }, async (work) => {
    const row = { id, name: 'much.pdf', mediaType: 'application/pdf', size: maxKeptADay - picture.length, hash: '', at: work.now }
    await work.manager.insert(DocumentEntity, { ...row, personId: person?.id ?? '', content: picture })
    work.audit({ action: 'kept', subject: 'document', subjectId: id })
  })
  await keep('inspector')
  expect(await refusal(keep('inspector'))).toMatchObject({ status: 429, code: 'kept_too_much', facts: { kept: maxKeptADay, size: 8 } })
  await keep('receivingClerk')
  plant.clock.time += 86_400_000
  await plant.later(new Date(plant.clock.time).toISOString())
  await keep('inspector')
})
