import { createApp, nextTick, reactive } from 'vue'
import { beforeEach, describe, expect, it, onTestFinished, vi } from 'vitest'
import { createMemoryHistory, createRouter } from 'vue-router'
import { notice } from '../shell/notify'
import PageBoundary from './PageBoundary.vue'

const state = reactive({ rows: null as string[] | null })
const List = { setup: () => () => (state.rows as string[]).join() }
const page = { components: { PageBoundary, List }, template: '<PageBoundary><List /></PageBoundary>' }
const beside = { components: { PageBoundary, List }, template: '<PageBoundary><h1>Order</h1><List /></PageBoundary>' }
const router = createRouter({ history: createMemoryHistory(), routes: [{ path: '/:path*', component: {} }] })
const told = vi.spyOn(console, 'error').mockImplementation(() => undefined)
async function show(what: object) {
  const app = createApp(what).use(router)
  app.component('VBtn', { template: '<button><slot /></button>' })
  app.config.warnHandler = () => undefined
  const place = document.createElement('main')
  onTestFinished(() => app.unmount())
  app.mount(place)
  await nextTick()
  await nextTick()
  return place
}

describe('a page that fails while it is drawn', () => {
  beforeEach(() => {
    state.rows = null
    told.mockClear()
    notice.text = ''
  })

  it('says so in the place of an empty screen, and is made anew on demand', async () => {
    const shown = await show(page)
    expect(shown.textContent).toContain('What belongs here cannot be shown')
    expect([told.mock.calls.length, notice.text]).toEqual([1, ''])
    state.rows = ['L-000001']
    shown.querySelector<HTMLElement>('[data-test=page-again]')?.click()
    await nextTick()
    expect(shown.textContent).toBe('L-000001')
  })

  it('stays as long as something of it stands', async () => {
    const shown = await show(beside)
    expect(shown.textContent).toBe('Order')
    expect([told.mock.calls.length, notice.text]).toEqual([1, expect.stringContaining('Something went wrong on this page')])
  })

  it('is forgotten with the way to another page', async () => {
    const shown = await show(page)
    state.rows = ['L-000002']
    await router.push('/other')
    await nextTick()
    expect(shown.textContent).toBe('L-000002')
  })
})
