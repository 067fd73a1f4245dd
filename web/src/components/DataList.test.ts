import { trace } from '@nemawashi/contract'
import { flushPromises, mount } from '@vue/test-utils'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { createMemoryHistory, createRouter } from 'vue-router'
import DataList from './DataList.vue'
import { queryClient } from '../shell/queries'
import type { ListColumn } from './listColumn'

const columns: ListColumn[] = [
  { key: 'code', title: 'Lot' },
  { key: 'quantity', title: 'Quantity', isNumber: true },
  { key: 'supplierName', title: 'Supplier', isHidden: true },
  { key: 'receivedAt', title: 'Received', format: (value: string) => `on ${value}` },
]
const row = (i: number) => ({ id: `id${i}`, code: `L-${i}`, quantity: 1000 + i, supplierName: `S${i}`, receivedAt: `day ${i}` })
let asked: URL[]
let pages: { rows: object[]; total: number; next: string | null }[]

beforeEach(() => {
  localStorage.clear()
  queryClient.clear()
  asked = []
  pages = [{ rows: [row(1), row(2), row(3)], total: 3, next: null }]
  vi.useFakeTimers()
  vi.stubGlobal('fetch', async (address: string) => {
    asked.push(new URL(address, 'http://here'))
    return new Response(JSON.stringify(pages.length > 1 ? pages.shift() : pages[0]))
  })
})
afterEach(() => {
  vi.useRealTimers()
  vi.unstubAllGlobals()
  document.body.innerHTML = ''
})

async function show(path = '/trace', props: object = {}) {
  const router = createRouter({ history: createMemoryHistory(), routes: [{ path: '/trace/:id?', component: { template: '<div/>' } }] })
  await router.push(path)
  const list = mount(DataList as never, {
    props: {
      endpoint: trace.listLots,
      name: 'lots',
      columns,
      title: 'Lots',
      emptyText: 'No lot yet.',
      to: (lot: { id: string }) => `/trace/${lot.id}`,
      ...props,
    } as never,
    global: { plugins: [router], stubs: { 'v-menu': true, 'v-list': true, 'v-list-item': true, 'v-checkbox': true, 'v-btn': true } },
    attachTo: document.body,
  })
  await settle()
  return { list, router }
}
async function settle(): Promise<void> {
  await vi.advanceTimersByTimeAsync(300)
  await flushPromises()
}
const cells = (list: ReturnType<typeof mount>, i: number) =>
  list
    .findAll('tbody tr')
    [i]?.findAll('td')
    .map((cell) => cell.text().trim())

describe('a list on the page', () => {
  it('shows the chosen columns, numbers grouped, values in their own words, and how many there are', async () => {
    const { list } = await show()
    expect(list.findAll('th').map((head) => head.text().trim())).toEqual(['Lot', 'Quantity', 'Received'])
    expect(cells(list, 0)).toEqual(['L-1', '1\u00a0001', 'on day 1'])
    expect(list.find('.count').text()).toBe('3')
    expect(list.findAll('tbody tr a').map((link) => link.attributes('href'))).toEqual(['/trace/id1', '/trace/id2', '/trace/id3'])
  })

  it('keeps the choice of columns for the next visit', async () => {
    localStorage.setItem('columns lots', JSON.stringify(['code', 'supplierName']))
    const { list } = await show()
    expect(list.findAll('th').map((head) => head.text().trim())).toEqual(['Lot', 'Supplier'])
  })

  it('sorts by a column, the other way on the second click, and says so in the address', async () => {
    const { list, router } = await show()
    await list.findAll('th button')[1]?.trigger('click')
    await settle()
    expect(asked.at(-1)?.search).toBe('?sort=quantity&dir=asc')
    expect(list.findAll('th')[1]?.attributes('aria-sort')).toBe('ascending')
    await list.findAll('th button')[1]?.trigger('click')
    await settle()
    expect(asked.at(-1)?.search).toBe('?sort=quantity&dir=desc')
    expect(router.currentRoute.value.query).toMatchObject({ sort: 'quantity', dir: 'desc' })
  })

  it('is sorted as its page says, until somebody sorts it otherwise', async () => {
    const { list, router } = await show('/trace', { firstSort: 'quantity' })
    expect(asked.at(-1)?.search).toBe('?sort=quantity&dir=asc')
    expect(list.findAll('th')[1]?.attributes('aria-sort')).toBe('ascending')
    expect(router.currentRoute.value.query['sort']).toBeUndefined()
    await list.findAll('th button')[1]?.trigger('click')
    await settle()
    expect(asked.at(-1)?.search).toBe('?sort=quantity&dir=desc')
  })

  it('filters once the typing pauses, not with every letter, and offers the same rows as CSV', async () => {
    const { list, router } = await show()
    const before = asked.length
    for (const words of ['b', 'ba', 'bar']) await list.find('input.filter').setValue(words)
    await settle()
    expect(asked.length).toBe(before + 1)
    expect(asked.at(-1)?.searchParams.get('q')).toBe('bar')
    expect(list.find('a[download]').attributes('href')).toBe('/api/v1/lots.csv?q=bar')
    expect(router.currentRoute.value.query['q']).toBe('bar')
  })

  it('begins where the address says', async () => {
    await show('/trace?q=marrow&sort=code&dir=desc')
    expect(asked[0]?.search).toBe('?q=marrow&sort=code&dir=desc')
  })

  it('brings the next page by its key, after the rows that are there', async () => {
    pages = [
      { rows: [row(1), row(2)], total: 4, next: 'key-2' },
      { rows: [row(3), row(4)], total: 4, next: null },
    ]
    const { list } = await show()
    await list.find('.more').trigger('click')
    await settle()
    expect(asked.at(-1)?.searchParams.get('after')).toBe('key-2')
    expect(list.findAll('tbody tr')).toHaveLength(4)
    expect(list.find('.more').exists()).toBe(false)
  })

  it('steps with J and K without losing the place, and stops at the ends', async () => {
    const { list, router } = await show('/trace/id2', { selectedId: 'id2' })
    const press = async (key: string) => {
      window.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }))
      await settle()
      await list.setProps({ selectedId: String(router.currentRoute.value.params['id']) } as never)
    }
    await press('j')
    expect(router.currentRoute.value.path).toBe('/trace/id3')
    await press('j')
    expect(router.currentRoute.value.path).toBe('/trace/id3')
    await press('k')
    await press('k')
    await press('k')
    expect(router.currentRoute.value.path).toBe('/trace/id1')
    expect(list.find('tr.on').attributes('data-id')).toBe('id1')
  })

  it('says what belongs here when it is empty, and what did not match when it was filtered', async () => {
    pages = [{ rows: [], total: 0, next: null }]
    const { list } = await show()
    expect(list.find('.none').text()).toBe('No lot yet.')
    await list.find('input.filter').setValue('xyz')
    await settle()
    expect(list.find('.none').text()).toBe('Nothing matches "xyz".')
  })

  it('says what failed', async () => {
    vi.stubGlobal('fetch', async () => {
      throw new TypeError('no network')
    })
    const { list } = await show()
    expect(list.find('[role=alert]').text()).toContain('The server cannot be reached.')
  })

  it('asks again quietly: new rows come in at the top, whoever has scrolled on keeps what they read, and so does a list without an answer', async () => {
    const { list } = await show()
    const { refresh } = list.vm as unknown as { refresh(): Promise<void> | undefined }
    pages = [{ rows: [row(9), row(1)], total: 2, next: null }]
    const coming = refresh()
    expect(list.text()).not.toContain('Loading')
    await coming
    expect(cells(list, 0)?.[0]).toBe('L-9')
    pages = [{ rows: [], total: 0, next: null }]
    const scroller = list.find('table').element.parentElement as HTMLElement
    scroller.scrollTop = 40
    await refresh()
    expect(list.findAll('tbody tr')).toHaveLength(2)
    scroller.scrollTop = 0
    vi.stubGlobal('fetch', async () => {
      throw new TypeError('no network')
    })
    await refresh()
    await settle()
    expect([list.findAll('tbody tr').length, list.find('[role=alert]').exists()]).toEqual([2, false])
  })

  it('shows at once what was there when somebody comes back to it, and then what is', async () => {
    ;(await show()).list.unmount()
    let answer: (response: Response) => void = () => undefined
    vi.stubGlobal('fetch', () => new Promise<Response>((resolve) => (answer = resolve)))
    const { list } = await show()
    expect([cells(list, 0)?.[0], list.text().includes('Loading')]).toEqual(['L-1', false])
    answer(new Response(JSON.stringify({ rows: [row(9)], total: 1, next: null })))
    await settle()
    expect([cells(list, 0)?.[0], list.find('.count').text()]).toEqual(['L-9', '1'])
  })

  it('shows the last answer only, however late an earlier one comes', async () => {
    const { list } = await show()
    const late: ((response: Response) => void)[] = []
    vi.stubGlobal('fetch', () => new Promise<Response>((resolve) => late.push(resolve)))
    await list.find('input.filter').setValue('first')
    await vi.advanceTimersByTimeAsync(200)
    await list.find('input.filter').setValue('second')
    await vi.advanceTimersByTimeAsync(200)
    late[1]?.(new Response(JSON.stringify({ rows: [row(9)], total: 1, next: null })))
    await settle()
    late[0]?.(new Response(JSON.stringify({ rows: [row(7)], total: 1, next: null })))
    await settle()
    expect(cells(list, 0)?.[0]).toBe('L-9')
  })
})
