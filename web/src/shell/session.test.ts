import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { run, trace } from '@nemawashi/contract'
import { call } from './api'
import { useSession } from './session'

const person = { id: 'p', name: 'Rosa Lindqvist', initials: 'RL', signInName: 'rosa', roles: ['inspector'], isActive: true, version: 1 }
let isSignedIn: boolean
let calls: string[]
beforeEach(() => {
  isSignedIn = false
  calls = []
  setActivePinia(createPinia())
  vi.stubGlobal('fetch', async (address: string, { method }: RequestInit) => {
    calls.push(`${method} ${address}`)
    const answer = (status: number, body: unknown) => new Response(JSON.stringify(body), { status })
    if (address === '/api/v1/session' && method === 'GET')
      return answer(200, {
        person: isSignedIn ? person : null,
        timeZone: 'UTC',
        trouble: null,
        isSecure: false,
        isGivenPasswordKept: false,
        needsFirstAdministrator: false,
        demoPeople: [],
      })
    if (address === '/api/v1/session' && method === 'POST') {
      isSignedIn = true
      return answer(200, { person })
    }
    if (address === '/api/v1/session') {
      isSignedIn = false
      return answer(200, {})
    }
    return isSignedIn
      ? answer(200, { rows: [], total: 0, next: null })
      : answer(401, { error: { code: 'signed_out', message: '', help: '', facts: {} } })
  })
})
afterEach(() => vi.unstubAllGlobals())

describe('who is signed in', () => {
  it('is asked of the server once, and known after signing in', async () => {
    const session = useSession()
    await session.load()
    expect([session.person, session.hasLoaded]).toEqual([null, true])
    await session.signIn('rosa', 'x')
    expect(session.person?.name).toBe('Rosa Lindqvist')
    expect(session.has('inspector', 'qualityEngineer').value).toBe(true)
    expect([session.has('administrator').value, session.isEngineer]).toEqual([false, false])
    await session.signOut()
    expect(session.person).toBeNull()
  })

  it('tells an administrator that the clock is not believed, until it is said to be right', async () => {
    const answer = globalThis.fetch
    let clockTrouble: string | null = 'The clock has leapt ahead.'
    vi.stubGlobal('fetch', async (address: string, request: RequestInit) => {
      if (address === '/api/v1/clock-agreement') clockTrouble = null
      const said = await answer(address, request)
      if (address !== '/api/v1/session' || request.method !== 'GET') return address === '/api/v1/clock-agreement' ? new Response('{}') : said
      return new Response(JSON.stringify({ ...((await said.json()) as object), clockTrouble }))
    })
    const session = useSession()
    await session.load()
    expect(session.clockTrouble).toBe('The clock has leapt ahead.')
    await session.agreeToClock()
    expect(session.clockTrouble).toBeNull()
  })

  it('is asked for until the server answers, and says meanwhile why nothing is shown', async () => {
    vi.useFakeTimers()
    const answer = globalThis.fetch
    let isDown = true
    vi.stubGlobal('fetch', async (...asked: Parameters<typeof fetch>) => (isDown ? new Response('bad gateway', { status: 502 }) : answer(...asked)))
    const session = useSession()
    const reached = session.reach()
    await vi.waitFor(() => expect(session.trouble).toContain('502'))
    isDown = false
    await vi.advanceTimersByTimeAsync(2100)
    await reached
    expect([session.hasLoaded, session.trouble]).toEqual([true, null])
    vi.useRealTimers()
  })

  it('is nobody for this page as soon as somebody signs out, and for the server as soon as it can be told, after a reload too', async () => {
    vi.useFakeTimers()
    const session = useSession()
    await session.load()
    await session.signIn('rosa', 'x')
    const answer = globalThis.fetch
    let isDown = true
    vi.stubGlobal('fetch', async (...asked: Parameters<typeof fetch>) => {
      if (isDown) throw new TypeError('no network')
      return answer(...asked)
    })
    const leaving = session.signOut()
    await vi.waitFor(() => expect(session.trouble).not.toBeNull())
    expect([session.person, session.hasLoaded, isSignedIn]).toEqual([null, false, true])
    // Another page of this browser, opened before the network is back, shows nobody's pages either.
    setActivePinia(createPinia())
    const other = useSession()
    const reached = other.reach()
    isDown = false
    await vi.advanceTimersByTimeAsync(4500)
    await Promise.all([leaving, reached])
    expect([other.person, session.person, isSignedIn]).toEqual([null, null, false])
    vi.useRealTimers()
  })

  it('is asked for again when the session ends in the middle of work; all waiting calls go on afterwards', async () => {
    const session = useSession()
    await session.load()
    await session.signIn('rosa', 'x')
    isSignedIn = false
    const lists = Promise.all([call(run.listDeliveries, {}), call(trace.listLots, {})])
    await vi.waitFor(() => expect(session.interrupted).toBe('rosa'))
    await session.signIn('rosa', 'x')
    expect(session.interrupted).toBeNull()
    expect((await lists).map((list) => list.total)).toEqual([0, 0])
    expect(calls.filter((entry) => entry.endsWith('/api/v1/deliveries'))).toHaveLength(2)
  })

  it('is not asked for again after signing out: late answers of the pages before are let go', async () => {
    const session = useSession()
    await session.load()
    await session.signIn('rosa', 'x')
    await session.signOut()
    await expect(call(run.listDeliveries, {})).rejects.toMatchObject({ code: 'signed_out' })
    expect(session.interrupted).toBeNull()
  })

  it('can be somebody else when the session ends: what was asked for is given up, and nothing is sent in their name', async () => {
    const session = useSession()
    await session.load()
    await session.signIn('rosa', 'x')
    isSignedIn = false
    const late = call(run.listDeliveries, {}).catch((error: unknown) => error)
    await vi.waitFor(() => expect(session.interrupted).toBe('rosa'))
    session.switchUser()
    expect(await late).toMatchObject({ code: 'signed_out' })
    expect([session.person, session.interrupted]).toEqual([null, null])
  })
})
