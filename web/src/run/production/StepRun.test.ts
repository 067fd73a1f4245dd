import type { OrderStep, StepReport } from '@nemawashi/contract'
import { mount } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import StepRun from './StepRun.vue'

const told = (kind: StepReport['kind'], change: Partial<StepReport> = {}) => ({ id: kind, kind, note: '', ...change }) as StepReport
const step = (change: Partial<OrderStep> = {}) =>
  ({
    id: 's',
    operationName: 'Mill',
    good: 12,
    scrapped: 1,
    setAside: 0,
    reports: [],
    isPaused: false,
    checks: [],
    ...change,
  }) as unknown as OrderStep
const gate = { id: 'g', code: 'I-000001', planName: 'Gap', state: 'toDo' }
const check = { ...gate, isGate: false, verdict: null, responsible: '', dueAt: '2026-03-01T10:00:00Z' } as never
const field = {
  props: ['modelValue'],
  emits: ['update:modelValue'],
  template: '<input :value="modelValue" @input="$emit(\'update:modelValue\', $event.target.value)">',
}
function show(props: object = {}) {
  return mount(StepRun as never, {
    props: { step: step(), remaining: 87, gates: [], mayAct: true, isBusy: false, serials: [], errors: {}, ...props } as never,
    global: {
      stubs: { 'v-btn': { template: '<button type="button"><slot /></button>' }, 'v-text-field': field, RouterLink: { template: '<a><slot /></a>' } },
    },
  })
}
const words = (shown: ReturnType<typeof show>) => shown.text().replaceAll(/\s+/g, ' ')

describe('a step that runs', () => {
  it('shows what was made so far and what is left, and offers to confirm the rest', () => {
    const shown = show()
    expect(words(shown)).toContain('12 good1 scrapped0 to rework 87 still to be made')
    expect(shown.find('[data-field=good]').element).toHaveProperty('value', '87')
    expect(words(shown)).toContain('87 of 87 ○')
  })

  it('tells pieces as they are typed, blanks between digits included, and confirms with the same', async () => {
    const shown = show({ remaining: 2000 })
    await shown.find('[data-field=good]').setValue('1 050')
    await shown.find('[data-field=scrapped]').setValue('2')
    await shown.find('[data-test=report]').trigger('click')
    await shown.find('form').trigger('submit')
    expect(shown.emitted('tell')).toEqual([[{ kind: 'pieces', good: 1050, scrapped: 2, setAside: 0 }]])
    expect(shown.emitted('confirm')).toEqual([[{ good: 1050, scrapped: 2, setAside: 0 }]])
  })

  it('keeps what is being typed while others tell pieces of the same step, and begins anew once its own came through', async () => {
    const shown = show({ told: 0 })
    const good = () => (shown.find('[data-field=good]').element as HTMLInputElement).value
    await shown.setProps({ remaining: 80 } as never)
    expect(good()).toBe('80')
    await shown.find('[data-field=good]').setValue('6')
    await shown.setProps({ remaining: 70 } as never)
    expect(good()).toBe('6')
    await shown.setProps({ remaining: 64, told: 1 } as never)
    expect(good()).toBe('64')
  })

  it('offers neither pieces nor the last piece while a gate stands, and names the gate; a pause can be told', () => {
    const shown = show({ gates: [gate] })
    expect(words(shown)).toMatch(/You can't go on with Mill yet\. Gap I-000001 is to be done/)
    expect([shown.find('form').exists(), shown.find('[data-test=last-piece]').exists(), shown.find('[data-test=pause]').exists()]).toEqual([
      false,
      false,
      true,
    ])
  })

  it('says why it stands still, and goes on when told', async () => {
    const shown = show({ step: step({ isPaused: true, reports: [told('paused', { note: 'lunch' })] }) })
    expect(words(shown)).toContain('Mill is paused: lunch')
    await shown.find('[data-test=resume]').trigger('click')
    expect(shown.emitted('tell')).toEqual([[{ kind: 'resumed' }]])
    expect(shown.find('[data-test=set-up]').exists()).toBe(false)
  })

  it('says that a check is late that keeps nothing from going on; who may not act sees no buttons', () => {
    expect(words(show({ step: step({ checks: [check] }) }))).toMatch(/△ late: Gap\s*, take the check/)
    const shown = show({ mayAct: false })
    expect(shown.findAll('button')).toHaveLength(0)
  })
})
