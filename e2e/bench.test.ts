import { endpoints } from '@nemawashi/contract'
import { ApiClient } from '@nemawashi/contract/client'
import { expect, it } from 'vitest'
import { multiply, password, preparePlant } from '../bench/src/fill'
import { Installation } from './installation'

it('the large plant of the benches can be made, and the server reads it', async () => {
  const installation = await Installation.start()
  try {
    await installation.end()
    await preparePlant(installation.folder, 100)
    multiply(installation.folder, 450, 900)
    await installation.begin()
    const api = new ApiClient(installation.base)
    await api.call(endpoints.people.signIn, { body: { signInName: 'bench', password } })
    const list = (state: 'toDo' | 'started' | 'decided') => api.call(endpoints.record.listInspections, { query: { state } })
    // The one that was there before is still to do.
    expect([(await list('toDo')).total, (await list('started')).total, (await list('decided')).total]).toEqual([301, 100, 50])
    const [decided] = (await list('decided')).rows
    const { readings } = await api.call(endpoints.record.getInspection, { params: { id: decided?.id ?? '' } })
    expect(readings.map(({ value }) => value)).toEqual(['0.30', '0.30'])
  } finally {
    await installation.remove()
  }
})
