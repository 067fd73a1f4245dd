import { describe, expect, it } from 'vitest'
import { endpoints } from '@nemawashi/contract'
import { refusal, startPlant } from '../../testing/plant'
import { ClockGuard } from './clockGuard'

const at = (text: string) => new Date(`2026-${text}:00Z`)
const last = (text: string, seq = 7) => ({ seq, at: at(text).toISOString() })

describe('a clock is believed', () => {
  it('as long as it goes on from the last entry; a small step back is stored at that entry', () => {
    const guard = new ClockGuard(null)
    expect(guard.instantOf(at('03-02T10:00'), { seq: 0, at: null }, false)).toEqual(at('03-02T10:00'))
    expect(guard.instantOf(at('03-09T10:00'), last('03-02T10:00'), false)).toEqual(at('03-09T10:00'))
    expect(guard.instantOf(at('03-09T09:59'), last('03-09T10:00'), false)).toEqual(at('03-09T10:00'))
  })

  it('not before the last entry, until somebody says that it is right', () => {
    const guard = new ClockGuard(null)
    const back = () => guard.instantOf(at('03-02T10:00'), last('03-09T10:00'), false)
    expect(back).toThrow(/03-09T10:00:00.000Z was stored before/)
    expect(guard.trouble).toMatch(/Nothing is stored/)
    expect(guard.instantOf(at('03-02T10:00'), last('03-09T10:00'), true)).toEqual(at('03-09T10:00'))
    guard.agree(7)
    expect(back()).toEqual(at('03-02T10:00'))
    expect(guard.trouble).toBeNull()
  })

  it('not when it leaps further than the time that passed', () => {
    let passed = 0
    const guard = new ClockGuard(() => passed)
    const ask = (text: string) => guard.instantOf(at(text), last('03-01T10:00'), false)
    ask('03-02T10:00')
    passed += 30 * 3_600_000
    expect(ask('03-03T16:00')).toEqual(at('03-03T16:00'))
    passed += 60_000
    expect(ask('03-04T17:00')).toEqual(at('03-04T17:00'))
    expect(() => ask('03-20T17:00')).toThrow(/leapt ahead by 384 hours/)
    guard.agree(7)
    expect(ask('03-20T17:01')).toEqual(at('03-20T17:01'))
  })
})

it('a plant whose clock went back stores nothing but who comes and goes, tells administrators, and goes on when they agree', async () => {
  const plant = await startPlant()
  try {
    const { people, define } = endpoints
    const create = (code: string) => plant.administrator.call(define.families.create, { body: { code, name: 'Family' } as never })
    const said = async () => (await plant.administrator.call(people.getSession, {})).clockTrouble
    await create('F-1')
    plant.clock.time -= 400 * 86_400_000
    expect(await refusal(create('F-2'))).toMatchObject({ status: 503, code: 'clock_wrong' })
    expect(await said()).toMatch(/Nothing is stored until/)
    expect(await plant.administrator.call(people.health, {})).toMatchObject({
      status: 'clockWrong',
      trouble: expect.stringContaining('was stored before'),
    })
    await plant.administrator.call(people.signIn, { body: { signInName: 'admin', password: 'a-test-password' } })
    expect(await refusal(create('F-2'))).toMatchObject({ code: 'clock_wrong' })
    expect(await refusal(plant.administrator.call(people.agreeToClock, {}))).toBeNull()
    await create('F-2')
    expect(await said()).toBeNull()
    const { rows } = await plant.administrator.call(people.listAudit, { query: { action: 'clock agreed' } })
    expect(rows).toMatchObject([{ subject: 'plant', personName: 'Admin' }])
    expect(await plant.administrator.call(people.verifyAudit, { query: {} })).toMatchObject({ isWhole: true })
  } finally {
    await plant.stop()
  }
})

it('a plant whose clock leapt ahead lets an administrator in, who ends it', async () => {
  const plant = await startPlant()
  try {
    const { people, define } = endpoints
    const create = (code: string) => plant.administrator.call(define.families.create, { body: { code, name: 'Family' } as never })
    await create('F-1')
    const leapMs = 40 * 86_400_000
    plant.clock.time += leapMs
    plant.clock.leaptMs += leapMs
    // Sessions have ended by this clock, and one that is begun by it holds.
    await plant.administrator.call(people.signIn, { body: { signInName: 'admin', password: 'a-test-password' } })
    expect(await refusal(create('F-2'))).toMatchObject({ code: 'clock_wrong' })
    expect(await refusal(plant.administrator.call(people.agreeToClock, {}))).toBeNull()
    await create('F-2')
  } finally {
    await plant.stop()
  }
})
