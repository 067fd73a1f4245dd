import { mount } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import { defineComponent, h, nextTick, ref } from 'vue'
import TypedInput from './TypedInput.vue'

/** A page around the field that is drawn anew for its own reasons, and takes over what is no text. */
function page() {
  const value = ref(5)
  const drawn = ref(0)
  const taken: string[] = []
  const take = (text: string) => {
    taken.push(text)
    if (Number(text)) value.value = Number(text)
  }
  const around = mount(defineComponent(() => () => h('div', [String(drawn.value), h(TypedInput, { value: value.value, onTaken: take })])))
  const input = around.find('input')
  const field = input.element as HTMLInputElement
  return { value, drawn, taken, input, field }
}

describe('a field that is read when it is left', () => {
  it('keeps what is being typed while the page around it is drawn anew', async () => {
    const { drawn, input, field, taken } = page()
    field.value = '12'
    await input.trigger('input')
    drawn.value += 1
    await nextTick()
    expect([field.value, taken]).toEqual(['12', []])
  })

  it('gives what was typed when it is left, and shows the value that stands where that was not taken over', async () => {
    const { input, field, taken } = page()
    field.value = '7'
    await input.trigger('input')
    await input.trigger('change')
    await nextTick()
    expect([field.value, taken]).toEqual(['7', ['7']])
    field.value = 'x'
    await input.trigger('input')
    await input.trigger('change')
    await nextTick()
    expect([field.value, taken]).toEqual(['7', ['7', 'x']])
  })

  it('shows a value that changes elsewhere', async () => {
    const { value, field } = page()
    value.value = 9
    await nextTick()
    expect(field.value).toBe('9')
  })
})
