import { mount } from '@vue/test-utils'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { useFresh } from './useFresh'

beforeEach(() => void vi.useFakeTimers())
afterEach(() => void vi.useRealTimers())
const seen = (state: 'visible' | 'hidden') => vi.spyOn(document, 'visibilityState', 'get').mockReturnValue(state)

it('asks every minute while the page is looked at, at once when somebody comes back to it, and never after it is left', () => {
  const ask = vi.fn()
  const shown = mount({ setup: () => useFresh(ask), template: '<i />' })
  vi.advanceTimersByTime(59_000)
  expect(ask).toHaveBeenCalledTimes(0)
  vi.advanceTimersByTime(61_000)
  expect(ask).toHaveBeenCalledTimes(2)
  seen('hidden')
  vi.advanceTimersByTime(600_000)
  expect(ask).toHaveBeenCalledTimes(2)
  seen('visible')
  document.dispatchEvent(new Event('visibilitychange'))
  expect(ask).toHaveBeenCalledTimes(3)
  shown.unmount()
  vi.advanceTimersByTime(600_000)
  document.dispatchEvent(new Event('visibilitychange'))
  expect(ask).toHaveBeenCalledTimes(3)
})
