import { gzipSync } from 'node:zlib'
import { allEndpoints, endpoints } from '@nemawashi/contract'
import { ApiClient } from '@nemawashi/contract/client'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { password, refusal, startPlant, type Plant } from '../testing/plant'
import { readConfig } from '../kernel/base/config'
import { csvOptions, unguarded } from '../kernel/files/csv'

const { people } = endpoints
let plant: Plant
beforeAll(async () => {
  plant = await startPlant()
})
afterAll(() => plant.stop())

const post = async (path: string, body: string | Buffer, headers: Record<string, string> = {}) => {
  const began = performance.now()
  const response = await fetch(`${plant.base}${path}`, {
    method: 'POST',
    body: body as never,
    headers: { 'content-type': 'application/json', ...headers },
  })
  const text = await response.text()
  return { status: response.status, code: (JSON.parse(text || '{}') as { error?: { code: string } }).error?.code, ms: performance.now() - began }
}
const nested = (depth: number) => `${'['.repeat(depth)}${']'.repeat(depth)}`
const signedIn = () => ({ cookie: plant.administrator.cookies })

describe('a stranger', () => {
  it('has no body read before it is known who sends it', async () => {
    const bomb = gzipSync(nested(7_000_000), { level: 9 })
    expect(bomb.length).toBeLessThan(20_000)
    for (const path of ['/api/v1/documents', '/api/v1/library/read', '/api/v1/plan-exchange/read', '/api/v1/deliveries']) {
      const sent = await post(path, bomb, { 'content-encoding': 'gzip' })
      expect([401, 404]).toContain(sent.status)
    }
    expect(await post('/api/v1/documents', `{"content":"${'x'.repeat(12_000_000)}"}`)).toMatchObject({ status: 401 })
    expect(await post('/api/v1/session', `{"signInName":"${'x'.repeat(20_000)}"}`)).toMatchObject({ status: 413 })
    expect(await post('/api/v1/session', nested(200))).toMatchObject({ status: 400, code: 'json_invalid' })
  })

  it('sends nothing packed, and nothing that is much deeper or wider than it looks', async () => {
    expect(await post('/api/v1/documents', gzipSync('{}'), { ...signedIn(), 'content-encoding': 'gzip' })).toMatchObject({
      status: 400,
      code: 'json_invalid',
    })
    expect(await post('/api/v1/families', Buffer.from('nonsense'), { ...signedIn(), 'content-encoding': 'gzip' })).toMatchObject({
      status: 400,
      code: 'json_invalid',
    })
    expect(await post('/api/v1/families', nested(60), signedIn())).toMatchObject({ status: 400, code: 'json_invalid' })
    expect(await post('/api/v1/families', `[${'1,'.repeat(60_000)}1]`, signedIn())).toMatchObject({ status: 400, code: 'json_invalid' })
  })

  it('changes nothing from a page of another site, whichever of the two headers the browser sends', async () => {
    const from = (headers: Record<string, string>) => post('/api/v1/families', '{"code":"X","name":"X"}', { ...signedIn(), ...headers })
    for (const origin of ['http://evil.example', 'null', plant.base.replace(/:\d+$/, ':1')])
      expect(await from({ origin })).toMatchObject({ status: 403, code: 'origin_foreign' })
    expect(await from({ 'sec-fetch-site': 'cross-site' })).toMatchObject({ status: 403 })
    expect((await from({ origin: plant.base })).code).not.toBe('origin_foreign')
  })

  it('does not become the first administrator without the code, nor guess it', async () => {
    const fresh = await startPlant()
    const rows = async (code: string) =>
      refusal(
        new ApiClient(fresh.base).call(people.createFirstAdministrator, { body: { code, name: 'E', initials: 'E', signInName: 'e', password } }),
      )
    for (let i = 0; i < 3; i++) expect((await rows(`WRNG-000${i}`))?.code).toBe('setup_code_wrong')
    expect((await rows('WRNG-0004'))?.code).toBe('too_many_attempts')
    await fresh.stop()
  })
})

describe('lists', () => {
  it('are sorted by their columns only, whatever an object has besides; as CSV they refuse before they send', async () => {
    for (const { endpoint } of allEndpoints().filter(
      ({ endpoint: { query, method } }) => method === 'GET' && 'shape' in query && 'sort' in (query.shape as object),
    )) {
      if (endpoint.path.endsWith('.pdf')) continue
      for (const sort of ['constructor', '__proto__', 'toString', 'nope'])
        for (const ending of ['', '.csv']) {
          const response = await fetch(`${plant.base}${endpoint.path}${ending}?sort=${sort}`, { headers: signedIn() })
          expect([response.status, endpoint.path + ending]).toEqual([400, endpoint.path + ending])
        }
    }
  })
})

describe('a cell of a CSV', () => {
  it('that a spreadsheet would compute is guarded, and comes back as it was', () => {
    const isGuarded = (cell: string) => csvOptions.escapeFormulae.test(cell)
    for (const cell of ['=1+1', '+1', '@x', '-2+3+cmd|x', '\t=1', ' =1', 'a;=1+1', 'a,\t-x', '-', "'=1", 'x\n=1'])
      expect([cell, isGuarded(cell)]).toEqual([cell, true])
    for (const cell of ['-2', '-0.25', '-1e-3', 'a - b', 'O-ring', 'x=1', '12', "it's"]) expect([cell, isGuarded(cell)]).toEqual([cell, false])
    for (const cell of ['=1', "'=1", "''-x", "'plain", '-2', 'a;=b']) expect(unguarded(isGuarded(cell) ? `'${cell}` : cell)).toBe(cell)
  })
})

describe('sessions', () => {
  const someone = async (signInName: string) => {
    const { id, version } = await plant.administrator.call(people.createPerson, {
      body: { name: signInName, initials: 'X', signInName, roles: ['auditor'], password },
    })
    const enter = async () => {
      const client = new ApiClient(plant.base)
      await client.call(people.signIn, { body: { signInName, password } })
      return client
    }
    const isIn = async (client: ApiClient) => (await client.call(people.getSession, {})).person !== null
    const change = (fields: object, at: number) =>
      plant.administrator.call(people.updatePerson, {
        params: { id },
        body: { name: signInName, initials: 'X', signInName, roles: ['auditor'], isActive: true, password: null, version: at, ...fields },
      })
    return { id, version, enter, isIn, change }
  }

  it('end with a new password, but for the one that it was given in', async () => {
    const { enter, isIn } = await someone('ursula')
    const [here, elsewhere] = [await enter(), await enter()]
    await here.call(people.changePassword, { body: { current: password, next: 'another-password' } })
    expect([await isIn(here), await isIn(elsewhere)]).toEqual([true, false])
  })

  it('do not come back when a person is let in again', async () => {
    const { enter, isIn, change, version } = await someone('viktor')
    const client = await enter()
    await change({ isActive: false }, version)
    await change({ isActive: true }, version + 1)
    expect(await isIn(client)).toBe(false)
  })

  it('are shown to their person, who ends them one by one; nobody ends those of others', async () => {
    const { enter, isIn } = await someone('wanda')
    const [here, elsewhere] = [await enter(), await enter()]
    const { sessions } = await here.call(people.listSessions, {})
    expect(sessions.map(({ isThis }) => isThis).sort()).toEqual([false, true])
    const other = sessions.find(({ isThis }) => !isThis)?.id ?? ''
    await plant.administrator.call(people.endSession, { params: { id: other } })
    expect(await isIn(elsewhere)).toBe(true)
    await here.call(people.endSession, { params: { id: other } })
    expect([await isIn(here), await isIn(elsewhere)]).toEqual([true, false])
  })

  it('of one browser are one: signing in again ends the one before', async () => {
    const { enter } = await someone('xaver')
    const client = await enter()
    await client.call(people.signIn, { body: { signInName: 'xaver', password } })
    expect((await client.call(people.listSessions, {})).sessions).toHaveLength(1)
  })
})

describe('the remembered form of a request', () => {
  it('leaves out passwords only where they are: two requests that differ in "next" are two', async () => {
    const endpoint = endpoints.define.families.create
    expect(endpoint.secrets).toEqual([])
    expect(people.changePassword.secrets).toEqual(['current', 'next'])
    const make = (name: string) => plant.administrator.call(endpoint, { body: { code: 'KEY', name } as never }, 'one key')
    await make('a')
    expect((await refusal(make('b')))?.code).toBe('key_reused')
  })

  it('tells two requests apart that differ in a password, which stands in none of it', async () => {
    const client = await plant.as('inspector', 'yolanda')
    const change = (next: string) => client.call(people.changePassword, { body: { current: password, next } }, 'one password')
    await change('quite another password')
    await change('quite another password').catch(() => undefined)
    expect((await refusal(change('and yet another password')))?.code).toMatch(/key_reused|signed_out/)
  })
})

describe('the configuration', () => {
  it('takes an empty value as none, knows time zones, and wants certificate and key together', () => {
    expect(readConfig({ PORT: '', NEMAWASHI_HOST: '' })).toMatchObject({ port: 4720, host: '127.0.0.1' })
    expect(readConfig({ NEMAWASHI_TIME_ZONE: 'Asia/Tokyo' }).timeZone).toBe('Asia/Tokyo')
    expect(() => readConfig({ NEMAWASHI_TIME_ZONE: 'Mars/Olympus' })).toThrow(/NEMAWASHI_TIME_ZONE = "Mars\/Olympus"/)
    expect(() => readConfig({ NEMAWASHI_TLS_CERT: 'x' })).toThrow(/belong together/)
  })
})

describe('every answer', () => {
  it('carries the number of its request, asks for no HTTPS over plain HTTP, and says whether anything can be stored', async () => {
    const { headers } = await fetch(`${plant.base}/api/v1/health`)
    expect(headers.get('x-request-id')).toMatch(/^[0-9a-f]{8}$/)
    expect(headers.get('strict-transport-security')).toBeNull()
    expect(await plant.administrator.call(people.health, {})).toMatchObject({ status: 'ok', trouble: null })
  })
})
