import { Nothing, allEndpoints, endpoints, errorCatalogue, errorTable, roles } from '@nemawashi/contract'
import { ApiClient } from '@nemawashi/contract/client'
import { openApiDocument } from '@nemawashi/contract/openapi'
import fc from 'fast-check'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest'
import { password, receive, refusal, setupCode, startPlant, stock, type Plant } from '../testing/plant'
import { buildRoutes } from './app'
import { readConfig } from '../kernel/base/config'

let plant: Plant
beforeAll(async () => {
  plant = await startPlant()
})
afterAll(() => plant.stop())
const some = '01900000-0000-7000-8000-000000000000'
const addressOf = (path: string) => `${plant.base}${path.replaceAll(/:\w+/g, some)}`

describe('every address of the API', () => {
  it('is registered once, for the roles that the contract states', () => {
    const registered = buildRoutes(plant.kernel).registered.map((endpoint) => `${endpoint.method} ${endpoint.path}`)
    const declared = allEndpoints().map(({ endpoint }) => `${endpoint.method} ${endpoint.path}`)
    // Lists are registered a second time, with the ending .csv.
    expect([...new Set(registered)].sort()).toEqual([...declared].sort())
    expect(new Set(declared).size).toBe(declared.length)
  })

  it('is closed to strangers unless anyone may call it', async () => {
    for (const { endpoint } of allEndpoints().filter((entry) => entry.endpoint.access !== 'anyone')) {
      const response = await fetch(addressOf(endpoint.path), {
        method: endpoint.method,
        headers: { 'content-type': 'application/json' },
        ...(endpoint.method === 'GET' ? {} : { body: '{}' }),
      })
      expect([response.status, `${endpoint.method} ${endpoint.path}`]).toEqual([401, `${endpoint.method} ${endpoint.path}`])
    }
  })

  it('is closed to people without the role', async () => {
    for (const { endpoint } of allEndpoints()) {
      const { access } = endpoint
      if (typeof access !== 'object') continue
      const outside = await plant.as(roles.find((role) => !access.includes(role)) ?? 'auditor')
      const found = await refusal(outside.call(endpoint, { params: { id: some }, ...(endpoint.method === 'GET' ? {} : { body: {} }) } as never))
      expect([found?.code, endpoint.path]).toEqual(['role_missing', endpoint.path])
    }
  })

  it('stands in the OpenAPI document, which is served with a page', async () => {
    const document = openApiDocument('0') as { openapi: string; paths: Record<string, object> }
    expect(document.openapi).toBe('3.1.0')
    const operations = Object.values(document.paths).reduce((sum, path) => sum + Object.keys(path).length, 0)
    expect(operations).toBe(allEndpoints().length)
    const headers = { cookie: plant.administrator.cookies }
    const told = await fetch(`${plant.base}/api/v1/openapi.json`, { headers })
    expect(await told.json()).toMatchObject({ paths: { '/api/v1/parts': { get: { tags: ['define'] } } } })
    expect((await fetch(`${plant.base}/api/v1/openapi.json`)).status).toBe(401)
    expect(await (await fetch(`${plant.base}/api/v1/docs`)).text()).toContain('swagger-ui')
    expect((await fetch(`${plant.base}/api/v1/docs/swagger-ui-bundle.js`)).status).toBe(200)
  })
})

describe('bad input', () => {
  const post = (path: string, body: string, headers: Record<string, string> = {}) =>
    fetch(`${plant.base}${path}`, { method: 'POST', body, headers: { 'content-type': 'application/json', ...headers } })

  it('is refused with what was wrong, never with a 5xx', async () => {
    expect((await post('/api/v1/session', '{"signInName":')).status).toBe(400)
    expect((await post('/api/v1/session', JSON.stringify({ signInName: 'x', password: 'y'.repeat(3_000_000) }))).status).toBe(413)
    expect(await (await post('/api/v1/session', '{"signInName":1,"extra":2}')).json()).toMatchObject({
      error: { code: 'input_invalid', facts: { where: 'body' } },
    })
    expect((await post('/api/v1/nowhere', '{}')).status).toBe(404)
    expect((await fetch(`${plant.base}/api/v1/parts/%E0%A4%A`)).status).toBe(400)
    expect((await post('/api/v1/session', '{"signInName":"admin","password":"x"}', { 'sec-fetch-site': 'cross-site' })).status).toBe(403)
    const clerk = await plant.as('receivingClerk')
    expect(await refusal(clerk.call(endpoints.trace.listLots, { query: { sort: 'quantity; DROP TABLE lot' } }))).toMatchObject({
      status: 400,
      code: 'input_invalid',
    })
    expect(await refusal(clerk.call(endpoints.trace.listLots, { query: { after: 'nonsense' } }))).toMatchObject({ status: 400 })
  })

  it('of any shape is answered with a 4xx on every changing address', async () => {
    const changing = allEndpoints().filter(({ endpoint }) => endpoint.method !== 'GET' && !endpoint.path.startsWith('/api/v1/session'))
    const body = fc.oneof(
      fc.jsonValue(),
      fc.dictionary(fc.constantFrom('code', 'name', 'lines', 'version', 'rows', 'readings', 'quantity', 'supplierId'), fc.jsonValue()),
    )
    await fc.assert(
      fc.asyncProperty(fc.constantFrom(...changing), body, async ({ endpoint }, value) => {
        // What asks for nothing, and is sent nothing, is asked rightly.
        if (endpoint.params === Nothing && endpoint.body.safeParse(value ?? {}).success) return
        const found = await refusal(plant.administrator.call(endpoint, { params: { id: some }, body: value } as never))
        expect(found?.status).toBeGreaterThanOrEqual(400)
        expect(found?.status).toBeLessThan(500)
      }),
      { numRuns: 120 },
    )
  })

  it('in the configuration stops the start and says which value', () => {
    expect(() => readConfig({ PORT: 'eighty' })).toThrow(/PORT = "eighty"/)
    expect(() => readConfig({ NEMAWASHI_LOG: 'loud' })).toThrow(/NEMAWASHI_LOG/)
    expect(readConfig({}).port).toBe(4720)
  })
})

describe('the frame around the API', () => {
  it('carries a content security policy and hides what it is made of', async () => {
    const { headers, status } = await fetch(`${plant.base}/api/v1/health`)
    expect(status).toBe(200)
    expect(headers.get('content-security-policy')).toContain("default-src 'none'")
    expect(headers.get('content-security-policy')).not.toContain('upgrade-insecure-requests')
    expect(headers.get('x-powered-by')).toBeNull()
    expect(headers.get('x-content-type-options')).toBe('nosniff')
    expect([headers.get('cache-control'), headers.get('referrer-policy'), headers.get('x-frame-options')]).toEqual([
      'no-store',
      'no-referrer',
      'DENY',
    ])
  })

  it('documents every error that it can answer with', () => {
    const documented = readFileSync(join(import.meta.dirname, '../../../docs/errors.md'), 'utf8')
    expect(documented).toContain(errorTable())
    expect(Object.values(errorCatalogue).every((entry) => entry.help.length > 5)).toBe(true)
  })
})

describe('the log', () => {
  it('tells of failed sign-ins and of what a role may not, with who and where, and never a password', async () => {
    const auditor = await plant.as('auditor')
    const warn = vi.spyOn(plant.kernel.log, 'warn')
    const stranger = new ApiClient(plant.base)
    await refusal(stranger.call(endpoints.people.signIn, { body: { signInName: 'nobody', password: 'a-secret-guess' } }))
    await refusal(auditor.call(endpoints.define.families.create, { body: { code: 'X', name: 'X' } }))
    await refusal(auditor.call(endpoints.define.families.get, { params: { id: some } }))
    await vi.waitFor(() => expect(warn).toHaveBeenCalledTimes(2))
    expect(warn.mock.calls.map(([entry]) => entry)).toMatchObject([
      { code: 'sign_in_failed', method: 'POST', path: '/api/v1/session', address: expect.stringContaining('127.0.0.1'), person: null },
      { code: 'role_missing', path: '/api/v1/families', person: 'auditor' },
    ])
    expect(JSON.stringify(warn.mock.calls)).not.toContain('a-secret-guess')
    warn.mockRestore()
  })
})

describe('signing in', () => {
  it('is slowed after failures, for the right password too, and free again after the wait', async () => {
    await plant.as('auditor', 'slow')
    const stranger = new ApiClient(plant.base)
    const attempt = (word: string) => refusal(stranger.call(endpoints.people.signIn, { body: { signInName: 'slow', password: word } }))
    for (let i = 0; i < 3; i++) expect((await attempt('wrong'))?.code).toBe('sign_in_failed')
    expect(await attempt(password)).toMatchObject({ status: 429, code: 'too_many_attempts' })
    plant.clock.time += 2000
    expect(await attempt(password)).toBeNull()
  })

  it('sets a cookie that scripts cannot read, and ends by the clock', async () => {
    const response = await fetch(`${plant.base}/api/v1/session`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ signInName: 'admin', password }),
    })
    expect(response.headers.get('set-cookie')).toMatch(/HttpOnly.*SameSite=Strict/i)
    const client = await plant.as('inspector', 'late')
    expect(await refusal(client.call(endpoints.run.listDeliveries, {}))).toBeNull()
    const before = plant.clock.time
    plant.clock.time += 13 * 3_600_000
    expect((await refusal(client.call(endpoints.run.listDeliveries, {})))?.code).toBe('signed_out')
    plant.clock.time = before
  })

  it('never stores a password in the clear, nor lets the last administrator go', async () => {
    const rows = (await plant.kernel.database.reader.query('SELECT password_hash FROM person')) as { passwordHash: string }[]
    expect(rows.every((row) => row.passwordHash.startsWith('$argon2id$'))).toBe(true)
    const { rows: found } = await plant.administrator.call(endpoints.people.listPeople, { query: { q: 'admin' } })
    const [admin] = found
    const body = {
      name: 'Admin',
      initials: 'AD',
      signInName: 'admin',
      roles: ['auditor' as const],
      isActive: true,
      password: null,
      version: admin?.version ?? 0,
    }
    expect((await refusal(plant.administrator.call(endpoints.people.updatePerson, { params: { id: admin?.id ?? '' }, body })))?.code).toBe(
      'still_in_use',
    )
    expect(
      (
        await refusal(
          plant.administrator.call(endpoints.people.createFirstAdministrator, {
            body: { code: setupCode, name: 'B', initials: 'B', signInName: 'b', password },
          }),
        )
      )?.code,
    ).toBe('already_set_up')
  })
})

describe('lists', () => {
  it('give every row once, page by page, in any order, and the same rows as CSV', async () => {
    const goods = await stock(plant)
    for (let i = 0; i < 7; i++) await receive(plant, goods, { quantity: 10 + (i % 3) })
    const clerk = await plant.as('receivingClerk')
    for (const sort of ['quantity', 'code', 'receivedAt', 'supplierName'] as const) {
      const seen: string[] = []
      let after: string | undefined
      do {
        const page = await clerk.call(endpoints.trace.listLots, { query: { sort, dir: 'desc', limit: 2, ...(after ? { after } : {}) } })
        expect(page.total).toBe(7)
        seen.push(...page.rows.map((row) => row.code))
        after = page.next ?? undefined
      } while (after)
      expect(seen).toHaveLength(7)
      expect(new Set(seen).size).toBe(7)
    }
    const entries: string[] = []
    for (let after: string | undefined; ;) {
      const page = await plant.administrator.call(endpoints.people.listAudit, { query: { limit: 20, work: 'all', ...(after ? { after } : {}) } })
      entries.push(...page.rows.map((row) => row.id))
      if (page.next === null) break
      after = page.next
    }
    expect(entries).toEqual(entries.map((_, i) => String(entries.length - i)))
    const filtered = await clerk.call(endpoints.trace.listLots, { query: { q: 'L-000003 Supplier' } })
    expect(filtered.rows.map((row) => row.code)).toEqual(['L-000003'])
    expect((await clerk.call(endpoints.trace.listLots, { query: { q: '%' } })).total).toBe(0)
  })
})
