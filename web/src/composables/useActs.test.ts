import { expect, it, vi } from 'vitest'
import { Failure } from '../shell/api'
import { notice } from '../shell/notify'
import { useActs } from './useActs'

const shown = () => ({ put: vi.fn(), reload: vi.fn(async () => {}), changed: vi.fn() })

it('what an act gives back is shown, told of elsewhere, and said', async () => {
  const acts = shown()
  expect(
    await useActs<string>(acts).act(
      async () => 'sent',
      (made) => `It is ${made}.`,
    ),
  ).toBe(true)
  expect([acts.put.mock.calls, acts.changed.mock.calls.length, acts.reload.mock.calls.length, notice.text]).toEqual([[['sent']], 1, 0, 'It is sent.'])
})

it('after a refusal what stands now is loaded beside it; without a connection there is nothing to load', async () => {
  for (const [code, loads] of [
    ['stale_version', 1],
    ['gate_closed', 1],
    ['unreachable', 0],
  ] as const) {
    const acts = shown()
    const { act, saver } = useActs<string>(acts)
    expect(await act(() => Promise.reject(new Failure(code, 'No.', '')))).toBe(false)
    expect([acts.reload.mock.calls.length, acts.put.mock.calls.length, saver.failure.value?.code]).toEqual([loads, 0, code])
  }
})
