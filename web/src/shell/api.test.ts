import { define, people, run } from '@nemawashi/contract'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { asFailure, call, Failure, onSignedOut } from './api'

interface Sent {
  address: string
  method: string
  key: string | undefined
  body: unknown
}
let sent: Sent[]
let answers: (Response | Error)[]
const json = (status: number, body: unknown) => new Response(JSON.stringify(body), { status })
const refused = (status: number, code: string) =>
  json(status, { error: { code, message: `refused: ${code}`, help: 'do this', facts: { field: 'code' } } })

beforeEach(() => {
  sent = []
  answers = []
  vi.stubGlobal('fetch', async (address: string, init: RequestInit) => {
    const headers = init.headers as Record<string, string>
    sent.push({
      address,
      method: init.method ?? '',
      key: headers['idempotency-key'],
      body: init.body === undefined ? undefined : JSON.parse(init.body as string),
    })
    const answer = answers.shift()
    if (!answer || answer instanceof Error) throw answer ?? new Error('no answer')
    return answer
  })
})
afterEach(() => vi.unstubAllGlobals())

const id = '01900000-0000-7000-8000-000000000000'

describe('a call to the server', () => {
  it('goes to the address of the endpoint, with what it asks for', async () => {
    answers.push(json(200, { rows: [], total: 0, next: null }))
    await call(run.listDeliveries, { query: { q: 'bar & pin', sort: 'code', dir: undefined } })
    expect(sent[0]).toMatchObject({ address: '/api/v1/deliveries?q=bar+%26+pin&sort=code', method: 'GET', key: undefined, body: undefined })
  })

  it('that changes something carries a key of its own each time', async () => {
    answers.push(json(200, {}), json(200, {}))
    const body = { version: 1 }
    await call(define.releasePlan, { params: { id }, body })
    await call(define.releasePlan, { params: { id }, body })
    expect(sent.map((entry) => entry.address)).toEqual([`/api/v1/plans/${id}/release`, `/api/v1/plans/${id}/release`])
    expect(sent[0]?.key).toBeTruthy()
    expect(sent[0]?.key).not.toBe(sent[1]?.key)
  })

  it('that nobody answered keeps its key until the server did: a gateway, a cut answer, a lost network', async () => {
    const version = { params: { id }, body: { version: 3 } }
    const gateway = new Response('<h1>504 Gateway Time-out</h1>', { status: 504 })
    answers.push(gateway, new Error('network'), new Response('{"id":', { status: 200 }), json(200, {}), json(200, {}))
    for (let i = 0; i < 3; i++) expect(await call(define.releasePlan, version).catch(asFailure)).toMatchObject({ code: 'unreachable' })
    await call(define.releasePlan, version)
    // The next one is another change, and so is one with other content.
    await call(define.releasePlan, version)
    const keys = sent.map(({ key }) => key)
    expect([new Set(keys.slice(0, 4)).size, new Set(keys).size]).toEqual([1, 2])
    answers.push(new Response('', { status: 502 }), json(200, {}))
    await call(define.releasePlan, version).catch(asFailure)
    await call(define.releasePlan, { ...version, body: { version: 4 } })
    expect(sent[5]?.key).not.toBe(sent[6]?.key)
  })

  it('that the server refused is another one the next time', async () => {
    answers.push(refused(409, 'stale_version'), json(200, {}))
    const version = { params: { id }, body: { version: 9 } }
    await call(define.releasePlan, version).catch(asFailure)
    await call(define.releasePlan, version)
    expect(sent[0]?.key).not.toBe(sent[1]?.key)
  })

  it('that is refused gives the code, the words, the help and the facts', async () => {
    answers.push(refused(422, 'unit_unknown'))
    const failure = await call(define.releasePlan, { params: { id }, body: { version: 1 } }).catch((error: unknown) => error)
    expect(failure).toBeInstanceOf(Failure)
    expect(failure).toMatchObject({ code: 'unit_unknown', message: 'refused: unit_unknown', help: 'do this', facts: { field: 'code' } })
  })

  it('without a network says that what was typed is kept', async () => {
    answers.push(new TypeError('failed to fetch'))
    await expect(call(run.listDeliveries, {})).rejects.toMatchObject({ code: 'unreachable', help: expect.stringContaining('is kept') })
  })

  it('that is answered with something that is no JSON is a failure all the same', async () => {
    answers.push(new Response('<html>proxy</html>', { status: 502 }))
    await expect(call(run.listDeliveries, {})).rejects.toMatchObject({ code: 'unreachable', message: 'The server did not answer (502).' })
  })

  it('in an ended session waits for the sign-in and is repeated under the same key', async () => {
    answers.push(refused(401, 'signed_out'), json(200, {}))
    const asked = vi.fn(async () => undefined)
    onSignedOut(asked)
    await call(define.releasePlan, { params: { id }, body: { version: 1 } })
    expect(asked).toHaveBeenCalledOnce()
    expect(sent).toHaveLength(2)
    expect(sent[1]).toEqual(sent[0])
    expect(asked).toHaveBeenLastCalledWith(false)
  })

  it('that wants a newer sign-in says so, waits for it, and is repeated', async () => {
    answers.push(refused(401, 'sign_in_old'), json(200, {}))
    const asked = vi.fn(async () => undefined)
    onSignedOut(asked)
    await call(define.releasePlan, { params: { id }, body: { version: 1 } })
    expect(asked).toHaveBeenCalledWith(true)
    expect(sent).toHaveLength(2)
  })

  it('to sign in with a wrong password does not ask to sign in', async () => {
    const asked = vi.fn(async () => undefined)
    onSignedOut(asked)
    answers.push(refused(401, 'sign_in_failed'))
    await expect(call(people.signIn, { body: { signInName: 'a', password: 'b' } })).rejects.toMatchObject({ code: 'sign_in_failed' })
    expect(asked).not.toHaveBeenCalled()
  })
})

describe('anything thrown', () => {
  it('becomes a failure with words', () => {
    expect(asFailure(new Error('odd'))).toMatchObject({ code: 'internal', message: 'odd' })
    expect(asFailure('text')).toMatchObject({ message: 'text' })
    const failure = new Failure('not_found', 'gone', '')
    expect(asFailure(failure)).toBe(failure)
  })
})
