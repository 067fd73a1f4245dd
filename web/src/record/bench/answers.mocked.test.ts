import { noDetails, type InspectionLine } from '@nemawashi/contract'
import { flushPromises, mount } from '@vue/test-utils'
import { describe, expect, it, vi } from 'vitest'

const reasons = [
  { name: 'Gauge at calibration', purpose: 'skip', isActive: true },
  { name: 'Slip of the hand', purpose: 'correction', isActive: true },
  { name: 'An old one', purpose: 'skip', isActive: false },
]
const documents: Record<string, object> = {
  a: { id: 'a', name: 'even and matt.png', mediaType: 'image/png', size: 2048 },
  b: { id: 'b', name: 'pin.glb', mediaType: 'model/gltf-binary', size: 5000 },
  c: { id: 'c', name: 'drawing.pdf', mediaType: 'application/pdf', size: 9000 },
}
const call = vi.fn(async (_endpoint: object, input: { params?: { id: string } }) => {
  if (!input.params) return { rows: reasons }
  const found = documents[input.params.id]
  if (!found) throw new Error('gone')
  return found
})
vi.mock('../../shell/api', async (actual) => ({ ...(await actual<object>()), call }))
const { default: BenchChoice } = await import('../entry/BenchChoice.vue')
const { default: BenchSummary } = await import('../entry/BenchSummary.vue')
const { default: SkipDialog } = await import('./SkipDialog.vue')
const { default: DocumentShelf } = await import('../../components/DocumentShelf.vue')

const box = { template: '<div><slot /></div>' }
const dialog = { props: ['modelValue'], emits: ['update:modelValue'], template: '<div v-if="modelValue" class="dialog"><slot /></div>' }
const combobox = { props: ['modelValue', 'items', 'label'], emits: ['update:modelValue'], template: '<label>{{ label }}</label>' }
const button = { props: ['disabled'], template: '<button type="button" :disabled="disabled"><slot /></button>' }
const stubs = {
  'v-dialog': dialog,
  'v-card': box,
  'v-card-text': box,
  'v-card-actions': box,
  'v-spacer': true,
  'v-combobox': combobox,
  'v-btn': button,
  ModelView: true,
}

describe('an answer chosen by a key', () => {
  const choices = [
    { code: 'E', words: 'even', mark: 'conforming' as const },
    { code: 'M1', words: 'matt patch', mark: 'nonconforming' as const },
    { code: 'M2', words: 'matt all over', mark: 'nonconforming' as const, isAskingMore: true },
  ]
  const show = () => mount(BenchChoice, { props: { label: 'Look, piece 1', choices, current: null, words: '' } })
  const press = async (bench: ReturnType<typeof show>, key: string, held: object = {}) => bench.find('.choice').trigger('keydown', { key, ...held })

  it('is given by its code, or by as much of it as tells it apart', async () => {
    const bench = show()
    await press(bench, 'e')
    expect(bench.emitted('answer')).toEqual([['E']])
    await press(bench, 'm')
    expect(bench.emitted('answer')).toHaveLength(1)
    await bench.findAll('button')[2]?.trigger('click')
    expect(bench.emitted('answer')?.at(-1)).toEqual(['M2'])
  })

  it('leaves other keys to the bench, and keys held with Ctrl to the browser', async () => {
    const bench = show()
    await press(bench, 'ArrowDown')
    await press(bench, 'Enter')
    await press(bench, 'e', { ctrlKey: true })
    expect((bench.emitted('key')?.[0]?.[0] as KeyboardEvent).key).toBe('ArrowDown')
    expect(bench.emitted('enter')).toHaveLength(1)
    expect(bench.emitted('answer')).toBeUndefined()
  })

  it('says which answer opens a further inspection, and reads all of them to those who do not see them', () => {
    const bench = show()
    expect(bench.findAll('small').map((note) => note.element.parentElement?.textContent)).toEqual(['matt all overM2opens a further inspection'])
    expect(bench.find('.choice').attributes('aria-label')).toBe('Look, piece 1: E even, M1 matt patch, M2 matt all over')
  })
})

describe('a summary of many pieces', () => {
  const line = { id: 'l', name: 'Gap', sampleSize: 50, unit: 'mm', details: noDetails } as InspectionLine
  it('is six figures, the number of pieces filled in, kept as one answer', async () => {
    const summary = mount(BenchSummary, { props: { line, current: null } })
    const set = (key: string, value: string) => summary.find(`[data-figure=${key}]`).setValue(value)
    expect((summary.find('[data-figure=count]').element as HTMLInputElement).value).toBe('50')
    for (const [key, value] of [
      ['mean', '0,301'],
      ['deviation', '0.012'],
      ['smallest', '0.27'],
      ['largest', '0.33'],
    ] as const)
      await set(key, value)
    await summary.find('form').trigger('submit')
    expect(summary.emitted('answer')).toEqual([['n 50, mean 0.301, s 0.012, min 0.27, max 0.33, x 0']])
  })

  it('shows again what was kept', () => {
    const current = {
      id: 'a',
      value: 'n 40, mean 0.3, s 0.02, min 0.25, max 0.36, x 1',
      mark: 'conforming' as const,
      status: 'stored' as const,
      corrections: 0,
    }
    const summary = mount(BenchSummary, { props: { line, current } })
    const values = summary.findAll('input').map((input) => (input.element as HTMLInputElement).value)
    expect(values).toEqual(['40', '0.3', '0.02', '0.25', '0.36', '1'])
  })
})

describe('a line that is skipped', () => {
  const skipped = [{ lineId: 'x', line: 'Carrier', blank: 2 }]
  it('wants a reason, offers those kept for it that are in use, and hands it on', async () => {
    const ask = mount(SkipDialog, { props: { skipped, modelValue: false }, global: { stubs } })
    await ask.setProps({ modelValue: true })
    await flushPromises()
    const field = ask.findComponent(combobox)
    expect(field.props('items')).toEqual(['Gauge at calibration'])
    expect(field.text()).toBe('Carrier, 2 blanks')
    const finish = ask.find('[data-test=skip-finish]')
    expect(finish.attributes('disabled')).toBeDefined()
    field.vm.$emit('update:modelValue', '  no ')
    await flushPromises()
    expect(finish.attributes('disabled')).toBeDefined()
    field.vm.$emit('update:modelValue', ' paper came without it ')
    await flushPromises()
    await finish.trigger('click')
    expect(ask.emitted('finish')).toEqual([[[{ lineId: 'x', reason: 'paper came without it' }]]])
    expect(ask.emitted('update:modelValue')?.at(-1)).toEqual([false])
  })
})

describe('the pictures and documents of a line', () => {
  it('open in the page, a PDF beside it; one that is gone is left out', async () => {
    const shelf = mount(DocumentShelf, { props: { ids: ['a', 'gone', 'b', 'c'] }, global: { stubs } })
    await flushPromises()
    expect(shelf.findAll('li').map((item) => item.text().replaceAll(/\s+/g, ' '))).toEqual([
      'even and matt.png picture, 2 kB',
      'pin.glb 3D model, 5 kB',
      'drawing.pdf PDF, 9 kB',
    ])
    expect(shelf.find('a').attributes()).toMatchObject({ href: '/api/v1/documents/c/content', target: '_blank' })
    await shelf.find('[data-document="pin.glb"]').trigger('click')
    await flushPromises()
    expect(shelf.find('.dialog').exists()).toBe(true)
    expect(shelf.find('a.get').attributes('download')).toBe('pin.glb')
    shelf.findComponent(dialog).vm.$emit('update:modelValue', false)
    await flushPromises()
    expect(shelf.emitted('closed')).toHaveLength(1)
  })

  it('are loaded once each while the line stays', async () => {
    call.mockClear()
    const shelf = mount(DocumentShelf, { props: { ids: ['a'] }, global: { stubs } })
    await flushPromises()
    await shelf.setProps({ ids: ['a', 'b'] })
    await flushPromises()
    expect(call).toHaveBeenCalledTimes(2)
  })
})
