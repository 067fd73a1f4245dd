import { endpoints, type Role } from '@nemawashi/contract'
import { ApiClient } from '@nemawashi/contract/client'
import { TOTP } from 'otpauth'
import { afterEach, describe, expect, it } from 'vitest'
import { password, refusal, startPlant, type Plant } from '../testing/plant'
import { Credentials } from './credentials'

const { define, people } = endpoints
const own = 'four odd words here'
let plant: Plant
afterEach(() => plant.stop())

async function hire(signInName: string, role: Role): Promise<{ id: string; version: number; client: ApiClient }> {
  const body = { name: signInName, initials: 'XX', signInName, roles: [role], password }
  const { id, version } = await plant.administrator.call(people.createPerson, { body })
  return { id, version, client: new ApiClient(plant.base) }
}
const signIn = (client: ApiClient, signInName: string, secret = password, code?: string) =>
  client.call(people.signIn, { body: { signInName, password: secret, ...(code === undefined ? {} : { code }) } })
const parts = (client: ApiClient) => client.call(define.parts.list, { query: {} })
/** What the app on the telephone shows, so many steps from now. */
const shown = (secret: string, steps = 0) => new TOTP({ secret }).generate({ timestamp: plant.clock.time + steps * 30_000 })

describe('a password that somebody else chose', () => {
  it('opens nothing but the way to one of their own, at each sign-in, until there is one', async () => {
    plant = await startPlant({ NEMAWASHI_GIVEN_PASSWORDS: 'change' })
    const { id, client } = await hire('rosa', 'inspector')
    await signIn(client, 'rosa')
    expect((await client.call(people.getSession, {})).owes).toBe('password')
    expect(await refusal(parts(client))).toMatchObject({ code: 'password_first', status: 403 })
    expect((await refusal(client.call(people.listSessions, {})))?.code).toBe('password_first')
    await client.call(people.changePassword, { body: { current: password, next: own } })
    expect((await client.call(people.getSession, {})).owes).toBeNull()
    await parts(client)

    // An administrator sets another one: the next sign-in asks again, and tells who did it and when.
    const { version, ...row } = await plant.administrator.call(people.getPerson, { params: { id } })
    const { name, initials, signInName, roles, isActive } = row
    const body = { name, initials, signInName, roles, isActive, version, password }
    await plant.administrator.call(people.updatePerson, { params: { id }, body })
    await signIn(client, 'rosa')
    expect((await refusal(parts(client)))?.code).toBe('password_first')
    const { lastAt, changes } = await client.call(people.listCredentialChanges, {})
    expect([lastAt !== null, changes.map(({ action, byName }) => [action, byName])]).toEqual([
      true,
      [
        ['password set', 'Admin'],
        ['password changed', 'rosa'],
      ],
    ])
    // Whoever sets their own as an administrator knows it themselves.
    const admin = await plant.administrator.call(people.getSession, {})
    expect(admin.owes).toBeNull()
  })

  it('may stay where the plant says so', async () => {
    plant = await startPlant()
    const { client } = await hire('rosa', 'inspector')
    await signIn(client, 'rosa')
    await parts(client)
    expect(await client.call(people.listCredentialChanges, {})).toEqual({ lastAt: null, changes: [] })
  })
})

/** Sets a second factor up; gives its secret and the recovery codes. */
async function setUp(client: ApiClient): Promise<{ secret: string; recoveryCodes: string[] }> {
  const { secret, uri, picture } = await client.call(people.beginSecondFactor, {})
  expect([uri.includes(secret), picture.startsWith('<svg')]).toEqual([true, true])
  const { recoveryCodes } = await client.call(people.confirmSecondFactor, { body: { code: shown(secret) } })
  return { secret, recoveryCodes }
}

describe('a second factor', () => {
  it('asks for a code at sign-in from its first code on; each is good once, and a recovery code too', async () => {
    plant = await startPlant()
    const { client } = await hire('rosa', 'inspector')
    await signIn(client, 'rosa')
    const begun = await client.call(people.beginSecondFactor, {})
    // Not confirmed: nobody is kept out by a picture that was closed again.
    await signIn(client, 'rosa')
    expect(
      (await refusal(client.call(people.confirmSecondFactor, { body: { code: shown(begun.secret) === '000000' ? '000001' : '000000' } })))?.code,
    ).toBe('second_factor_wrong')
    const { secret, recoveryCodes } = await setUp(client)
    expect((await client.call(people.getSession, {})).secondFactor).toEqual({ rule: 'offered', isOn: true, recoveryLeft: 10 })
    expect((await refusal(client.call(people.beginSecondFactor, {})))?.code).toBe('second_factor_on')

    expect(await refusal(signIn(client, 'rosa'))).toMatchObject({ code: 'second_factor_needed', status: 401 })
    expect((await refusal(signIn(client, 'rosa', 'a wrong password', shown(secret, 1))))?.code).toBe('sign_in_failed')
    // The code that confirmed it was used.
    expect((await refusal(signIn(client, 'rosa', password, shown(secret))))?.code).toBe('second_factor_wrong')
    const next = shown(secret, 1)
    await signIn(client, 'rosa', password, next)
    expect((await refusal(signIn(client, 'rosa', password, next)))?.code).toBe('second_factor_wrong')

    const code = recoveryCodes[0] ?? ''
    await signIn(client, 'rosa', password, code)
    expect((await refusal(signIn(client, 'rosa', password, code)))?.code).toBe('second_factor_wrong')
    expect((await client.call(people.getSession, {})).secondFactor.recoveryLeft).toBe(9)
    expect((await client.call(people.listCredentialChanges, {})).changes.map(({ action }) => action)).toEqual(['recovery code used'])
  })

  it('slows whoever guesses at it, and two sign-ins with one code at once are not both taken', async () => {
    plant = await startPlant()
    const { client } = await hire('rosa', 'inspector')
    await signIn(client, 'rosa')
    const { secret, recoveryCodes } = await setUp(client)
    const { credentials, work } = plant.kernel
    const { person } = await client.call(people.getSession, {})
    for (const code of [shown(secret, 1), recoveryCodes[0]]) {
      // Both were looked at before either was taken.
      const looked = [1, 2].map(() => credentials.checkCode(person?.id ?? '', code, plant.clock.now()))
      const answers = []
      for (const taken of await Promise.all(looked)) {
        const run = work.run({ personId: null, key: null, content: '' }, async (change) => {
          await credentials.take(change, person?.id ?? '', taken)
          change.audit({ action: 'signed in', subject: 'person', subjectId: person?.id ?? '' })
        })
        answers.push(await run.then(() => 'in').catch((error: { code: string }) => error.code))
      }
      expect(answers).toEqual(['in', 'second_factor_wrong'])
    }
    const answers = []
    for (let i = 0; i < 8; i++) answers.push((await refusal(signIn(client, 'rosa', password, '000000')))?.code)
    expect([answers.slice(0, 4).every((code) => code === 'second_factor_wrong'), answers.at(-1)]).toEqual([true, 'too_many_attempts'])
  })

  it('that the plant asks for comes before anything else; an administrator takes a lost one away', async () => {
    plant = await startPlant({ NEMAWASHI_SECOND_FACTOR: 'everybody' })
    expect((await refusal(parts(plant.administrator)))?.code).toBe('second_factor_first')
    await setUp(plant.administrator)
    await parts(plant.administrator)
    const { id, client } = await hire('rosa', 'inspector')
    await signIn(client, 'rosa')
    expect((await client.call(people.getSession, {})).owes).toBe('secondFactor')
    expect((await refusal(parts(client)))?.code).toBe('second_factor_first')
    await setUp(client)
    await parts(client)
    const takeAway = () => plant.administrator.call(people.endSecondFactorOf, { params: { id } })
    expect([await takeAway(), await takeAway()]).toEqual([{ ended: true }, { ended: false }])
    await signIn(client, 'rosa')
    expect((await refusal(parts(client)))?.code).toBe('second_factor_first')
  })

  it('is for administrators, for nobody, or given up by its owner', async () => {
    plant = await startPlant({ NEMAWASHI_SECOND_FACTOR: 'administrators' })
    const admin = await plant.administrator.call(people.getSession, {})
    expect(admin.owes).toBe('secondFactor')
    await setUp(plant.administrator)
    const { client } = await hire('rosa', 'inspector')
    await signIn(client, 'rosa')
    await parts(client)
    await setUp(client)
    // Started with `off` nobody is asked: an only administrator without telephone and codes comes in, and takes it away.
    const { person } = await client.call(people.getSession, {})
    const { kernel } = plant
    const off = new Credentials(kernel.database.reader, kernel.attempts, kernel.chain.key, true, 'off')
    expect(await off.checkCode(person?.id ?? '', undefined, plant.clock.now())).toBeNull()
    expect(await off.secondFactorOf(person)).toMatchObject({ rule: 'off', isOn: true })
    expect(await client.call(people.endSecondFactor, {})).toEqual({ ended: true })
    await signIn(client, 'rosa')
    // Another system has no telephone.
    const feed = await hire('orders', 'orderFeed')
    await plant.administrator.call(people.giveToken, { params: { id: feed.id }, body: { version: feed.version } })
  })
})
