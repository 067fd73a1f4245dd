import { weighPassword } from '@nemawashi/contract/guessable'
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { Failure } from '../shell/api'
import { useSession } from '../shell/session'
import { gradeOf } from './grade'
import { useSignIn } from './useSignIn'

const answers: (Failure | null)[] = []
const signIn = vi.fn(async (_name: string, _password: string, _code?: string) => {
  const answer = answers.shift() ?? null
  if (answer) throw answer
})
const refused = (code: 'second_factor_needed' | 'second_factor_wrong' | 'sign_in_failed') => new Failure(code, code, '', { field: 'code' })

beforeEach(() => {
  setActivePinia(createPinia())
  useSession().signIn = signIn
  signIn.mockClear()
  answers.length = 0
})

describe('a sign-in', () => {
  it('asks for a code once the password was right and the person has a second factor, and keeps the password meanwhile', async () => {
    const entry = useSignIn(() => 'vera')
    entry.password.value = 'seven quiet lathes hum'
    answers.push(refused('second_factor_needed'), refused('second_factor_wrong'))
    expect([await entry.signIn(), entry.asksCode.value, entry.codeError.value]).toEqual([false, true, ''])
    entry.code.value = '000000'
    expect([await entry.signIn(), entry.code.value, entry.codeError.value]).toEqual([false, '', 'second_factor_wrong'])
    entry.code.value = '287082'
    expect([await entry.signIn(), entry.password.value, entry.asksCode.value]).toEqual([true, '', false])
    expect(signIn.mock.calls).toEqual([
      ['vera', 'seven quiet lathes hum', undefined],
      ['vera', 'seven quiet lathes hum', '000000'],
      ['vera', 'seven quiet lathes hum', '287082'],
    ])
  })

  it('asks for none where the password was wrong: it could be anybody', async () => {
    const entry = useSignIn(() => 'vera')
    answers.push(refused('second_factor_needed'), refused('sign_in_failed'))
    await entry.signIn()
    await entry.signIn()
    expect(entry.asksCode.value).toBe(false)
  })
})

describe('how hard a new password is to guess, as it is typed', () => {
  const said = (password: string) => gradeOf(weighPassword, password, ['Vera Lodd', 'vera'])

  it('is said in steps and words, by the rule that the server refuses by', () => {
    expect(said('seven')).toEqual({ steps: 1, words: '7 more characters', isEnough: false })
    expect(said('passwordpassword').isEnough).toBe(false)
    expect(said('VeraLodd2026').isEnough).toBe(false)
    expect(said('seven quiet lathes hum')).toMatchObject({ isEnough: true, steps: 4 })
  })

  it('never looks enough where it is not', () => {
    for (const password of ['qwertyuiop12', 'aaaaaaaaaaaa', 'Vera Lodd 12', '123456789012']) {
      const { steps, isEnough } = said(password)
      expect([password, isEnough, steps < 3]).toEqual([password, false, true])
    }
  })
})
