import { mount } from '@vue/test-utils'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { plantZone } from '../shell/plantTime'
import DayField from './DayField.vue'

const textField = {
  props: ['modelValue', 'errorMessages', 'label'],
  emits: ['update:modelValue', 'change', 'focus', 'blur'],
  template: `<label>{{ label }}<input class="typed" :value="modelValue" @input="$emit('update:modelValue', $event.target.value)"
    @change="$emit('change', $event)" @focus="$emit('focus')" @blur="$emit('blur')" /><i>{{ errorMessages.join() }}</i><slot name="append-inner" /></label>`,
}

beforeEach(() => {
  vi.useFakeTimers({ now: new Date('2026-11-30T23:30:00Z') })
  plantZone.value = 'UTC'
  return () => vi.useRealTimers()
})

function show(modelValue = '', props: { min?: string; max?: string; errorMessages?: string } = {}) {
  const field = mount(DayField, {
    props: { modelValue, label: 'Due on', field: 'dueOn', ...props, 'onUpdate:modelValue': (to: string) => void field.setProps({ modelValue: to }) },
    global: { stubs: { 'v-text-field': textField } },
  })
  const input = field.find<HTMLInputElement>('.typed')
  const type = async (text: string) => {
    await input.trigger('focus')
    input.element.value = text
    await input.trigger('input')
  }
  const leave = async () => {
    await input.trigger('change')
    await input.trigger('blur')
  }
  return { field, input, type, leave, said: () => field.find('i').text() }
}

describe('a day in a form', () => {
  it('is shown in words, and taken as soon as what is typed is one', async () => {
    const { field, input, type, leave } = show('2026-12-03')
    expect(input.element.value).toBe('3 Dec 2026')
    await type('24.12.')
    expect([field.props('modelValue'), input.element.value]).toEqual(['2026-12-24', '24.12.'])
    await leave()
    expect(input.element.value).toBe('24 Dec 2026')
  })

  it("is reckoned from the plant's today, wherever the browser stands", async () => {
    plantZone.value = 'Pacific/Kiritimati'
    const { field, type } = show()
    await type('tomorrow')
    expect(field.props('modelValue')).toBe('2026-12-02')
  })

  it('that is none stays as it was typed, and is said to be none', async () => {
    const { field, input, type, leave, said } = show('2026-12-03')
    await type('31 Feb')
    expect(field.props('modelValue')).toBe('2026-12-03')
    await leave()
    expect([field.props('modelValue'), input.element.value]).toEqual(['31 Feb', '31 Feb'])
    expect(said()).toContain('31 Feb is not a day')
    await type('')
    expect([field.props('modelValue'), said()]).toEqual(['', ''])
  })

  it('says what it may not be, and what the server said of it', async () => {
    const { type, said } = show('', { min: '2026-12-01', max: '2026-12-31', errorMessages: '' })
    await type('30 Nov')
    expect(said()).toBe('not before 1 Dec 2026')
    await type('1 Jan 2027')
    expect(said()).toBe('not after 31 Dec 2026')
    expect(show('2026-12-02', { errorMessages: 'a holiday' }).said()).toBe('a holiday')
  })

  it('follows what comes from elsewhere', async () => {
    const { field, input } = show('2026-12-03')
    await field.setProps({ modelValue: '2027-01-05' })
    expect(input.element.value).toBe('5 Jan 2027')
    const calendar = field.find<HTMLInputElement>('input[type=date]')
    await calendar.setValue('2027-02-01')
    expect(input.element.value).toBe('1 Feb 2027')
  })
})
