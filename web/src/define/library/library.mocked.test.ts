import { flushPromises, mount } from '@vue/test-utils'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { createMemoryHistory, createRouter, type Router } from 'vue-router'

const call = vi.fn<(endpoint: { path: string }, input: { body?: { isTrial: boolean } }) => Promise<unknown>>()
const notify = vi.fn()
vi.mock('../../shell/api', async (actual) => ({ ...(await actual<object>()), call }))
vi.mock('../../shell/notify', () => ({ notify }))
vi.mock('../../shell/session', () => ({ useSession: () => ({ isEngineer: true }) }))
const { Failure } = await import('../../shell/api')
const { default: LibraryFilter } = await import('./LibraryFilter.vue')
const { default: PlanExchange } = await import('../plans/PlanExchange.vue')
const { default: UsesPanel } = await import('./UsesPanel.vue')

const slot = { template: '<div><slot name="activator" :props="{}" /><slot /></div>' }
const dialog = { props: ['modelValue'], template: '<div v-if="modelValue" class="dialog"><slot /></div>' }
const item = { props: ['title'], emits: ['click'], template: '<button type="button" @click="$emit(\'click\')">{{ title }}</button>' }
const button = { props: ['disabled'], template: '<button type="button" :disabled="disabled"><slot /></button>' }
const stubs = {
  'v-menu': slot,
  'v-list': slot,
  'v-list-item': item,
  'v-dialog': dialog,
  'v-card': slot,
  'v-card-text': slot,
  'v-card-actions': slot,
  'v-btn': button,
}
let router: Router
beforeEach(async () => {
  router = createRouter({ history: createMemoryHistory(), routes: [{ path: '/:all(.*)*', component: { template: '<i />' } }] })
  await router.push('/define/characteristics?q=bore')
})
afterEach(() => {
  call.mockReset()
  notify.mockReset()
})

describe('narrowing the library', () => {
  it('puts the choice into the address beside what is searched for, and takes it out again', async () => {
    call.mockResolvedValue({ rows: [{ id: 'f1', name: 'Springs' }] })
    const filter = mount(LibraryFilter, { global: { plugins: [router] } })
    await flushPromises()
    expect(filter.find('[data-test=narrow-familyId]').text()).toContain('Springs')
    await filter.find('[data-test=narrow-familyId]').setValue('f1')
    await flushPromises()
    await filter.find('[data-test=narrow-kind]').setValue('counted')
    await flushPromises()
    expect(router.currentRoute.value.query).toEqual({ q: 'bore', familyId: 'f1', kind: 'counted' })
    await filter.find('[data-test=narrow-kind]').setValue('')
    await flushPromises()
    expect(router.currentRoute.value.query).toEqual({ q: 'bore', familyId: 'f1' })
  })
})

describe('plans from a file', () => {
  const plan = (outcome: string) => ({ code: 'RP-1', name: 'Bars', lines: 2, outcome })
  async function choose(answer: object | Error) {
    call.mockImplementation(async () => {
      if (answer instanceof Error) throw answer
      return answer
    })
    const exchange = mount(PlanExchange, { global: { stubs } })
    await exchange.find('[data-test=import-plans]').trigger('click')
    const input = exchange.find('[data-field=planFile]')
    Object.defineProperty(input.element, 'files', { value: [new File(['{}'], 'plans.json')] })
    await input.trigger('change')
    await vi.waitFor(() => expect(call).toHaveBeenCalled())
    await flushPromises()
    return exchange
  }
  const mayImport = (exchange: Awaited<ReturnType<typeof choose>>) =>
    exchange.find('[data-test=import-plans-now]').attributes('disabled') === undefined

  it('are tried first, and written only when somebody agrees', async () => {
    const exchange = await choose({ importId: 'i-1', plans: [plan('created'), { ...plan('unchanged'), code: 'RP-2' }], problems: [] })
    expect(call.mock.calls.map(([, input]) => input.body?.isTrial)).toEqual([true])
    expect(exchange.findAll('tbody tr').map((row) => row.text().replaceAll(/\s+/g, ' '))).toEqual([
      'RP-1 Bars 2 lines new',
      'RP-2 Bars 2 lines unchanged',
    ])
    await exchange.find('[data-test=import-plans-now]').trigger('click')
    await flushPromises()
    expect(call.mock.calls.map(([, input]) => input.body?.isTrial)).toEqual([true, false])
    expect(notify).toHaveBeenCalledWith('1 plan imported as drafts.', { words: 'Undo import', run: expect.any(Function) })
    expect(exchange.emitted('imported')).toHaveLength(1)
    call.mockResolvedValue({ removed: 1 })
    await (notify.mock.calls.at(-1)?.[1] as { run: () => Promise<void> }).run()
    expect(call.mock.calls.at(-1)?.[1]).toEqual({ params: { id: 'i-1' } })
    expect(exchange.emitted('imported')).toHaveLength(2)
  })

  it('are not written while a line is not understood, nor when nothing would change', async () => {
    const wrong = await choose({ plans: [plan('created')], problems: [{ where: 'plan RP-1, line 2', message: 'There is no characteristic X.' }] })
    expect(wrong.find('[data-test=plan-problems]').text()).toBe('plan RP-1, line 2 There is no characteristic X.')
    expect(mayImport(wrong)).toBe(false)
    expect(mayImport(await choose({ plans: [plan('unchanged')], problems: [] }))).toBe(false)
  })

  it('that cannot be read are refused with what helps', async () => {
    const refused = await choose(new Failure('table_unreadable', 'The file begins like JSON, but is not.', 'Save it again.'))
    expect(refused.text()).toContain('The file begins like JSON, but is not.')
    expect(mayImport(refused)).toBe(false)
  })
})

describe('where a characteristic is asked for', () => {
  it('tells which lines follow, which are detached, and which have parts with limits of their own', () => {
    const use = { planId: 'p', planCode: 'RP-1', planName: 'Bars', planRevision: 3, planState: 'released' as const, detached: null, targets: 0 }
    const own = { nominal: null, lower: '1', upper: '2', fromRevision: 1 }
    const uses = {
      lines: [use, { ...use, planCode: 'RP-2', detached: own, targets: 2 }],
      points: [],
      parts: [{ id: 'x', code: 'SD-26', name: 'Plate' }],
    }
    const panel = mount(UsesPanel, { props: { uses, unit: 'mm' }, global: { plugins: [router] } })
    expect(panel.findAll('li').map((line) => line.text().replaceAll(/\s+/g, ' '))).toEqual([
      'RP-1 Bars revision 3, released · follows the library',
      'RP-2 Bars revision 3, released · detached: 1 to 2 mm, 2 parts with own limits',
    ])
    expect(panel.text()).toContain('SD-26')
  })
})
