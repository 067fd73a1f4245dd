import { beforeEach, expect, it, vi } from 'vitest'
import { sendAfterChoosing } from './chosenThenEnter'

const sent = vi.fn()
HTMLFormElement.prototype.requestSubmit = sent
sendAfterChoosing()

/** A field with its choices as the page has them: the choices stand outside the form, and are named by the field. */
function field(kind: 'v-select' | 'v-combobox--single' | 'v-combobox--multiple', isHeld: boolean): HTMLInputElement {
  document.body.innerHTML = `<form><div class="v-input ${kind} ${isHeld ? 'v-input--dirty' : ''}"><input aria-controls="m" aria-expanded="false"></div></form>
    <div class="v-overlay v-menu" id="m"><div class="v-list-item" tabindex="-1">store</div></div>`
  return document.querySelector('input') as HTMLInputElement
}
const choice = () => document.querySelector<HTMLElement>('.v-list-item')
const press = (on: Element | null, key: string) => on?.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }))
beforeEach(() => sent.mockClear())

it('sends the form with the first Enter after a choice, also while the choices are still fading', () => {
  const select = field('v-select', true)
  choice()?.click()
  expect(press(choice(), 'Enter')).toBe(false)
  press(select, 'Enter')
  expect(sent).toHaveBeenCalledTimes(2)
})

it('leaves Enter to the field before anything was chosen, after any other key, and where the choice went into a list', () => {
  for (const then of [
    () => press(field('v-select', true), 'Enter'),
    () => {
      const select = field('v-select', true)
      choice()?.click()
      press(select, 'ArrowDown')
      return press(select, 'Enter')
    },
    () => {
      const select = field('v-select', false)
      choice()?.click()
      return press(select, 'Enter')
    },
  ])
    expect(then()).toBe(true)
  expect(sent).not.toHaveBeenCalled()
})

it("sends words of one's own with Enter, nothing from an empty field, and not where Enter adds one more", () => {
  const codes = field('v-combobox--multiple', true)
  codes.value = 'PORE'
  press(codes, 'Enter')
  const words = field('v-combobox--single', true)
  press(words, 'Enter')
  expect(sent).not.toHaveBeenCalled()
  words.value = 'bent'
  press(words, 'Enter')
  expect(sent).toHaveBeenCalledOnce()
})
