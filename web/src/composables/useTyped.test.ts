import { define, run } from '@nemawashi/contract'
import { ref } from 'vue'
import { describe, expect, it } from 'vitest'
import { useTyped } from './useTyped'

/** A form with one field, as deep in elements as a field of the library is. */
function field(name: string, line?: number): FocusEvent {
  const form = document.createElement('form')
  const inside =
    line === undefined
      ? `<div data-field="${name}"><input></div>`
      : `<fieldset data-line="${line}"><div data-field="${name}"><input></div></fieldset>`
  form.innerHTML = inside
  return { target: form.querySelector('input') } as unknown as FocusEvent
}

describe('a form that is typed', () => {
  const saver = { fieldErrors: ref<Record<string, string>>({}) }
  const form = ref({ code: '', name: '' })
  const { errors, leave, forget } = useTyped(
    saver as never,
    () => define.families.create.body,
    () => form.value,
  )

  it('says nothing of a field that nobody was in, and what is missing when it is left', () => {
    expect(errors.value).toEqual({})
    leave(field('code'))
    expect(errors.value).toEqual({ code: 'fill this in' })
  })

  it('takes that back while it is typed, and says what cannot be', () => {
    form.value.code = 'F 1'
    expect(errors.value).toEqual({})
    form.value.code = '?'
    expect(errors.value['code']).toMatch(/letters, digits/)
  })

  it('keeps what the server said of another field beside it, and forgets all for another record', () => {
    saver.fieldErrors.value = { name: 'There is one already.' }
    expect(Object.keys(errors.value).sort()).toEqual(['code', 'name'])
    saver.fieldErrors.value = {}
    forget()
    expect(errors.value).toEqual({})
  })

  it('tells the lines of a form apart', () => {
    const lines = [
      { partId: '', supplierLot: '', quantity: 5, containers: [] },
      { partId: '', supplierLot: '', quantity: Number.NaN, containers: [] },
    ]
    const delivery = useTyped(
      saver as never,
      () => run.receiveDelivery.body,
      () => ({ supplierId: '', orderNumber: '', lines }),
    )
    delivery.leave(field('quantity', 1))
    expect(delivery.errors.value).toEqual({ 'lines.1.quantity': 'write a number' })
  })
})
