import { createApp } from 'vue'
import { afterEach, describe, expect, it, vi } from 'vitest'
import { Failure } from './api'
import { catchErrors } from './errors'
import { notice } from './notify'

const quiet = vi.spyOn(console, 'error').mockImplementation(() => undefined)
afterEach(() => {
  quiet.mockClear()
  notice.text = ''
})

describe('an error that nobody caught', () => {
  const app = createApp({ template: '' })
  catchErrors(app)
  const rejected = (reason: unknown) => {
    const event = Object.assign(new Event('unhandledrejection', { cancelable: true }), { reason })
    dispatchEvent(event)
    return event
  }

  it('in a part of the page, or in what it waited for, is said at its foot', () => {
    app.config.errorHandler?.(new Error('no such column'), null, '')
    expect(notice.text).toBe('Something went wrong on this page: no such column')
    rejected(new Failure('stale_version', 'Rosa changed this lot.', ''))
    expect(notice.text).toBe('Rosa changed this lot.')
    expect(quiet).toHaveBeenCalledTimes(2)
  })

  it('says nothing of what was given up on purpose', () => {
    expect(rejected(new DOMException('gone', 'AbortError')).defaultPrevented).toBe(true)
    rejected(new Failure('signed_out', 'Nobody is signed in.', ''))
    expect(notice.text).toBe('')
  })
})
