import { expect, it } from 'vitest'
import { useLatest } from './useLatest'

const later = <T>() => {
  let resolve: (value: T) => void = () => undefined
  let reject: (error: Error) => void = () => undefined
  const promise = new Promise<T>((yes, no) => ([resolve, reject] = [yes, no]))
  return { promise, resolve, reject }
}

it('only the last question is answered, and the ones before it are given up, whether they come or fail', async () => {
  const { ask, isWaiting } = useLatest()
  const [failing, slow, last] = [later<string>(), later<string>(), later<string>()]
  const signals: AbortSignal[] = []
  const answers = [failing, slow, last].map(({ promise }) => ask((signal) => (signals.push(signal), promise)))
  expect(signals.map(({ aborted }) => aborted)).toEqual([true, true, false])
  failing.reject(new Error('too late'))
  slow.resolve('too late')
  expect(await Promise.all(answers.slice(0, 2))).toEqual([null, null])
  expect(isWaiting.value).toBe(true)
  last.resolve('found')
  expect([await answers[2], isWaiting.value]).toEqual(['found', false])
  await expect(ask(() => Promise.reject(new Error('away')))).rejects.toThrow('away')
  expect(isWaiting.value).toBe(false)
})
