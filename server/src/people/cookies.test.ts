import { endpoints } from '@nemawashi/contract'
import type { Request, Response } from 'express'
import { expect, it } from 'vitest'
import { startPlant } from '../testing/plant'
import { cookieOf, deviceCookie, sessionCookie } from './cookies'
import { Sessions } from './sessions'

const asked = (cookie: string) => ({ headers: { cookie }, get: () => undefined }) as unknown as Request

it('a cookie is found by its whole name, among others, and is nothing where it holds what we never set', () => {
  expect(cookieOf(asked('x=1; nemawashi_session=ab-1; y=2'), 'nemawashi_session')).toBe('ab-1')
  expect(cookieOf(asked('other_nemawashi_session=ab'), 'nemawashi_session')).toBeNull()
  expect(cookieOf(asked('nemawashi_session=a"b'), 'nemawashi_session')).toBeNull()
  expect(cookieOf({ headers: {} } as Request, 'nemawashi_session')).toBeNull()
})

it('over HTTPS a session is known by the cookie that only this host can set, and by no other', async () => {
  const plant = await startPlant()
  try {
    expect([sessionCookie(false), deviceCookie(true)]).toEqual(['nemawashi_session', '__Secure-nemawashi_device'])
    const sessions = new Sessions(plant.kernel.database, plant.clock, 12, 0, true, async () => null)
    const { person } = await plant.administrator.call(endpoints.people.getSession, {})
    const set: [string, string, object][] = []
    const response = { cookie: (...cookie: [string, string, object]) => set.push(cookie) } as unknown as Response
    await plant.kernel.work.run({ personId: person?.id ?? null, key: null, content: '' }, async (work) => {
      await sessions.open(work, person?.id ?? '', asked(''), response)
      work.audit({ action: 'signed in', subject: 'person', subjectId: person?.id ?? '' })
    })
    const [[name, token, options]] = set as [[string, string, object]]
    expect([name, options]).toMatchObject(['__Host-nemawashi_session', { secure: true, httpOnly: true, path: '/', sameSite: 'strict' }])
    expect(await sessions.personOf(asked(`${name}=${token}`))).toMatchObject({ name: 'Admin' })
    expect(await sessions.personOf(asked(`nemawashi_session=${token}`))).toBeNull()
  } finally {
    await plant.stop()
  }
})
