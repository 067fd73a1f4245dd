import { endpoints } from '@nemawashi/contract'
import { ApiClient } from '@nemawashi/contract/client'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { password, receive, refusal, startPlant, stock, type Plant } from '../testing/plant'

const { people, run, define } = endpoints
let plant: Plant
beforeAll(async () => {
  plant = await startPlant()
})
afterAll(() => plant.stop())
const person = (signInName: string, change: object = {}) => ({
  name: 'Somebody',
  initials: 'SB',
  signInName,
  roles: ['auditor' as const],
  password,
  ...change,
})
const signIn = async (signInName: string, word = password) => {
  const client = new ApiClient(plant.base)
  await client.call(people.signIn, { body: { signInName, password: word } })
  return client
}

describe('people', () => {
  it('are created with roles, sign in whatever the case of their name, and no name is taken twice', async () => {
    await plant.administrator.call(people.createPerson, { body: person('Petra') })
    expect((await (await signIn('pETRA')).call(people.getSession, {})).person).toMatchObject({ signInName: 'Petra', roles: ['auditor'] })
    expect(await refusal(plant.administrator.call(people.createPerson, { body: person('petra') }))).toMatchObject({
      code: 'already_exists',
      facts: { field: 'signInName' },
    })
  })

  it('need a password of twelve characters and at least one role', async () => {
    expect((await refusal(plant.administrator.call(people.createPerson, { body: person('short', { password: 'short' }) })))?.code).toBe(
      'input_invalid',
    )
    expect((await refusal(plant.administrator.call(people.createPerson, { body: person('none', { roles: [] }) })))?.code).toBe('input_invalid')
  })

  it('get new rights at once, and lose them at once, in sessions that are open', async () => {
    const made = await plant.administrator.call(people.createPerson, { body: person('rita') })
    const rita = await signIn('rita')
    const create = () => refusal(rita.call(define.families.create, { body: { code: `F${plant.clock.time}`, name: 'F' } as never }))
    expect((await create())?.code).toBe('role_missing')
    const change = { name: 'Rita', initials: 'RI', signInName: 'rita', isActive: true, password: null }
    const promoted = await plant.administrator.call(people.updatePerson, {
      params: { id: made.id },
      body: { ...change, roles: ['qualityEngineer'], version: made.version },
    })
    expect(await create()).toBeNull()
    await plant.administrator.call(people.updatePerson, {
      params: { id: made.id },
      body: { ...change, roles: ['qualityEngineer'], isActive: false, version: promoted.version },
    })
    expect((await create())?.code).toBe('signed_out')
    expect((await refusal(signIn('rita')))?.code).toBe('sign_in_failed')
  })

  it('change their own password, with the current one, and the old one is worth nothing afterwards', async () => {
    await plant.administrator.call(people.createPerson, { body: person('nora') })
    const own = (await plant.administrator.call(people.getSession, {})).person
    const { id, version, ...fields } = own ?? expect.fail('nobody is signed in')
    for (const change of [{ isActive: false }, { roles: ['inspector' as const] }]) {
      const body = { ...fields, password: null, version, ...change }
      expect(await refusal(plant.administrator.call(people.updatePerson, { params: { id }, body }))).toMatchObject({ code: 'still_in_use' })
    }
    const nora = await signIn('nora')
    expect((await refusal(nora.call(people.changePassword, { body: { current: 'not this one', next: 'a-new-password' } })))?.code).toBe(
      'password_wrong',
    )
    await nora.call(people.changePassword, { body: { current: password, next: 'a-new-password' } })
    expect((await refusal(signIn('nora')))?.code).toBe('sign_in_failed')
    expect(await refusal(signIn('nora', 'a-new-password'))).toBeNull()
  })

  it('choose no password that is among the first to be tried: leaked, made of their name, a row of keys, a repeat', async () => {
    const create = (secret: string) =>
      plant.administrator.call(people.createPerson, { body: { ...person('wilhelmina'), name: 'Wilhelmina Oakes', password: secret } })
    for (const secret of ['password1234', 'qwertyuiop12', 'wilhelmina12', 'OakesWilhelmina-2026', 'aaaaaaaaaaaa', '123456789012', 'abcabcabcabcabc'])
      expect([secret, (await refusal(create(secret)))?.code]).toEqual([secret, 'password_guessable'])
    expect((await refusal(create('short enough')))?.code).toBeUndefined()
    const wilhelmina = await signIn('wilhelmina', 'short enough')
    const change = (next: string) => refusal(wilhelmina.call(people.changePassword, { body: { current: 'short enough', next } }))
    expect([(await change('Wilhelmina2026'))?.code, (await change('eleven char'))?.code]).toEqual(['password_guessable', 'input_invalid'])
    expect(await change('kettle orbit violin')).toBeNull()
  })

  it('have all their sessions ended by an administrator, and by nobody else', async () => {
    const { id } = await plant.administrator.call(people.createPerson, { body: person('paul') })
    const both = [await signIn('paul'), await signIn('paul')]
    expect((await refusal((both[0] as ApiClient).call(people.endSessionsOf, { params: { id } })))?.code).toBe('role_missing')
    expect(await plant.administrator.call(people.endSessionsOf, { params: { id } })).toEqual({ ended: 2 })
    for (const one of both) expect((await one.call(people.getSession, {})).person).toBeNull()
    expect(await plant.administrator.call(people.endSessionsOf, { params: { id } })).toEqual({ ended: 0 })
    const { rows } = await plant.administrator.call(people.listAudit, { query: { subjectId: id, action: 'sessions ended' } })
    expect(rows).toHaveLength(1)
    // Who ends the own ones stays where they are.
    const own = (await plant.administrator.call(people.getSession, {})).person?.id ?? ''
    await plant.administrator.call(people.endSessionsOf, { params: { id: own } })
    expect((await plant.administrator.call(people.getSession, {})).person?.id).toBe(own)
  })

  it('are made and changed, and given keys, within a quarter of an hour of signing in; looking takes no such thing', async () => {
    const { administrator } = plant
    const create = (signInName: string) => refusal(administrator.call(people.createPerson, { body: person(signInName) }))
    await administrator.call(people.signIn, { body: { signInName: 'admin', password } })
    plant.clock.time += 14 * 60_000
    expect(await create('early')).toBeNull()
    plant.clock.time += 2 * 60_000
    expect(await create('late')).toMatchObject({ code: 'sign_in_old', facts: { minutes: 16 } })
    const [row] = (await administrator.call(people.listPeople, { query: { q: 'early' } })).rows
    const params = { id: row?.id ?? '' }
    const key = () => refusal(administrator.call(people.giveToken, { params, body: { version: 1 } }))
    expect((await key())?.code).toBe('sign_in_old')
    await administrator.call(people.signIn, { body: { signInName: 'admin', password } })
    expect(await create('late')).toBeNull()
    expect((await key())?.code).toBe('not_a_feed')
  })

  it('sign out, and their session is gone', async () => {
    await plant.administrator.call(people.createPerson, { body: person('otto') })
    const otto = await signIn('otto')
    await otto.call(people.signOut, {})
    expect((await refusal(otto.call(run.listDeliveries, {})))?.code).toBe('signed_out')
    expect((await otto.call(people.getSession, {})).person).toBeNull()
  })
})

describe('the audit chain', () => {
  it('says who did what, when and what differed, and never holds a password', async () => {
    const made = (await plant.administrator.call(define.families.create, { body: { code: 'AUD', name: 'Before' } as never })) as {
      id: string
      version: number
    }
    await plant.administrator.call(define.families.update, {
      params: { id: made.id },
      body: { code: 'AUD', name: 'After', version: made.version } as never,
    })
    const { rows } = await plant.administrator.call(people.listAudit, { query: { q: made.id } })
    expect(rows.map((row) => [row.action, row.personName, row.subject])).toEqual([
      ['changed', 'Admin', 'family'],
      ['created', 'Admin', 'family'],
    ])
    const kept = (await plant.kernel.database.reader.query('SELECT before, after FROM audit WHERE subject_id = ? ORDER BY seq', [made.id])) as {
      before: string
      after: string
    }[]
    expect(JSON.parse(kept[1]?.before ?? '')).toEqual({ name: 'Before' })
    expect(JSON.parse(kept[1]?.after ?? '')).toEqual({ name: 'After' })
    const everything = JSON.stringify(await plant.kernel.database.reader.query('SELECT * FROM audit'))
    expect(everything).not.toContain(password)
    expect(everything).not.toContain('argon2')
    expect(JSON.stringify(await plant.kernel.database.reader.query('SELECT * FROM request_key'))).not.toContain(password)
  })
})

describe('the audit list', () => {
  it('shows what was changed by its number or name, with what differed, and finds it by that', async () => {
    const engineer = await plant.as('qualityEngineer')
    const made = (await engineer.call(define.families.create, { body: { code: 'AUDITED', name: 'Before' } as never })) as { id: string }
    await engineer.call(define.families.update, { params: { id: made.id }, body: { code: 'AUDITED', name: 'After', version: 1 } as never })
    const list = (query: object) => plant.administrator.call(people.listAudit, { query })
    const { rows } = await list({ q: 'AUDITED' })
    expect(rows.map(({ action, subject, subjectName, personName }) => [action, subject, subjectName, personName])).toEqual([
      ['changed', 'family', 'AUDITED', 'qualityEngineer'],
      ['created', 'family', 'AUDITED', 'qualityEngineer'],
    ])
    expect([rows[0]?.before, rows[0]?.after]).toEqual(['{"name":"Before"}', '{"name":"After"}'])
    const who = (await plant.administrator.call(people.listPeople, { query: { q: 'qualityEngineer' } })).rows.find(
      ({ signInName }) => signInName === 'qualityEngineer',
    )?.id
    expect((await list({ personId: who, subject: 'family' })).total).toBe(2)
    expect((await list({ action: 'changed', subjectId: made.id })).total).toBe(1)
    expect((await list({ subjectId: made.id, until: rows[0]?.at })).total).toBe(1)
    expect((await list({ subjectId: made.id, from: rows[0]?.at })).total).toBe(1)
  })

  it('names who signed in, and shows signing in only when it is asked for', async () => {
    await plant.as('auditor', 'sigrid')
    const list = (query: object) => plant.administrator.call(people.listAudit, { query })
    expect((await list({ action: 'signed in', q: 'sigrid' })).rows[0]).toMatchObject({ personName: 'sigrid', subjectName: 'sigrid' })
    expect((await list({})).rows.map(({ action }) => action)).not.toContain('signed in')
    expect((await list({ work: 'all' })).rows.map(({ action }) => action)).toContain('signed in')
  })

  it('comes as PDF, filtered the same way', async () => {
    // What is refused while it is put together is answered like any refusal: the connection, and the server, live on.
    const odd = await fetch(`${plant.base}/api/v1/audit.pdf?sort=constructor&after=][`, { headers: { cookie: plant.administrator.cookies } })
    expect([odd.status, odd.headers.get('content-type')?.split(';')[0]]).toEqual([400, 'application/json'])
    const response = await fetch(`${plant.base}/api/v1/audit.pdf?subject=family`, { headers: { cookie: plant.administrator.cookies } })
    expect([response.status, response.headers.get('content-type')]).toEqual([200, 'application/pdf'])
    expect(
      Buffer.from(await response.arrayBuffer())
        .subarray(0, 5)
        .toString(),
    ).toBe('%PDF-')
  })
})

describe('the search over everything', () => {
  it('finds parts, lots, inspections, deliveries, plans, characteristics and people by code, name or label', async () => {
    const goods = await stock(plant)
    await goods.point((await goods.plan('PL-FIND', [{ characteristicId: goods.measured.id }])).id)
    await receive(plant, goods)
    const find = async (q: string) => (await goods.engineer.call(people.search, { query: { q } })).hits.map((hit) => `${hit.kind} ${hit.title}`)
    expect(await find('P-1')).toContain('part P-1')
    expect(await find('L-0000')).toEqual(['lot L-000001'])
    expect(await find('PL-FIND')).toEqual(expect.arrayContaining(['inspection I-000001', 'plan PL-FIND']))
    expect(await find('4711')).toEqual(['delivery D-000001'])
    expect(await find('gate gap')).toEqual(['characteristic C-GAP'])
    expect(await find('Admin')).toEqual(['person Admin'])
    expect(await find('%')).toEqual([])
    const { lots } = await receive(plant, goods, { quantity: 30, containers: [{ label: 'BOX-7', quantity: 30 }] })
    const { hits } = await goods.engineer.call(people.search, { query: { q: 'box-7' } })
    expect(hits).toEqual([{ kind: 'container', id: lots[0]?.id, title: 'BOX-7', detail: `of ${lots[0]?.code} · P-1` }])
  })
})

describe('a text with a character that nobody sees', () => {
  it('is refused with its place, in bodies and in questions, and nothing is stored', async () => {
    const make = (name: string) => refusal(plant.administrator.call(people.createPerson, { body: person('unseen', { name }) }))
    expect(await make('Ann\u0000a')).toMatchObject({ code: 'input_invalid', message: expect.stringContaining('U+0000') })
    expect(await make('\u202eannA')).toMatchObject({ facts: { fields: [{ field: 'name', problem: expect.stringContaining('U+202E') }] } })
    expect((await refusal(plant.administrator.call(people.search, { query: { q: 'A\u0007' } })))?.code).toBe('input_invalid')
    expect((await plant.administrator.call(people.listPeople, { query: { q: 'unseen' } })).total).toBe(0)
  })
})
