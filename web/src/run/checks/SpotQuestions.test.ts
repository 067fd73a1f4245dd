import { flushPromises, mount } from '@vue/test-utils'
import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { queryClient } from '../../shell/queries'
import { useSession } from '../../shell/session'
import SpotQuestions from './SpotQuestions.vue'

const id = '01900000-0000-7000-8000-000000000001'
const line = (name: string, change: object) => ({
  id: name,
  name: name,
  acceptableState: 'whole',
  kind: 'judged',
  sampleSize: 1,
  isRequired: true,
  ...change,
})
const inspection = {
  ...{ id, code: 'I-000007', planName: 'Wrapping', state: 'toDo', isGate: true, version: 3, spotAnswerer: 'receivingClerk' },
  lines: [line('wrap', {}), line('dry', { sampleSize: 5 }), line('label', { isRequired: false })],
}
let sent: { address: string; body: unknown }[]
beforeEach(() => {
  sent = []
  setActivePinia(createPinia())
  vi.stubGlobal('fetch', async (address: string, { body }: RequestInit = {}) => {
    if (body === undefined) return new Response(JSON.stringify(inspection))
    sent.push({ address, body: JSON.parse(String(body)) })
    return new Response(JSON.stringify({ ...inspection, finding: { verdict: 'acceptable' }, advice: '' }))
  })
})
afterEach(() => {
  queryClient.clear()
  vi.unstubAllGlobals()
})
async function show(role: 'receivingClerk' | 'auditor') {
  useSession().person = { roles: [role] } as never
  const button = { props: ['disabled'], template: '<button :disabled="disabled"><slot /></button>' }
  const form = mount(SpotQuestions, { props: { id }, global: { stubs: { 'v-btn': button, 'router-link': true } } })
  await vi.waitFor(() => expect(form.text()).toContain('Wrapping'))
  return form
}

it('can be sent once all that must be answered is; what may be left out may', async () => {
  const form = await show('receivingClerk')
  const [wrapYes, , , dryNo] = form.findAll('input')
  expect(form.text()).toContain('(5 pieces)')
  await wrapYes?.setValue()
  expect(form.find('[data-test=answer]').attributes('disabled')).toBeDefined()
  await dryNo?.setValue()
  expect(form.find('[data-test=answer]').attributes('disabled')).toBeUndefined()
  await form.trigger('submit')
  await flushPromises()
  const answers = [
    { lineId: 'wrap', isConforming: true },
    { lineId: 'dry', isConforming: false },
  ]
  expect(sent).toEqual([{ address: `/api/v1/inspections/${id}/spot`, body: { version: 3, answers } }])
  expect(form.emitted('answered')).toHaveLength(1)
})

it('are read, and not answered, by who may not', async () => {
  const form = await show('auditor')
  expect(form.findAll('fieldset').every((field) => field.attributes('disabled') !== undefined)).toBe(true)
  expect(form.find('[data-test=answer]').exists()).toBe(false)
})
