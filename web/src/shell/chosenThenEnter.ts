/** Words of one's own, beside others that are offered; not where each Enter adds one more. */
const isWords = (field: HTMLElement) => field instanceof HTMLInputElement && field.value !== '' && field.closest('.v-combobox--single') !== null
const holdsChoice = (field: HTMLElement) => field.closest('.v-input--dirty') !== null

/**
 * Enter in a field whose choice was made just now sends its form, as it does in any other field, even while the choices are still fading:
 * without this it would open or take them once more. Everywhere else Enter opens them; so does it once somebody has done anything else in
 * the field, and where the choice did not stay in it but was added to a list. Where words of one's own may be typed, they are sent with Enter.
 */
export function sendAfterChoosing(root: Document = document): void {
  let chosen: HTMLElement | null = null
  const fieldOf = (list: Element | null) => {
    const menu = list?.closest('.v-menu')
    return menu?.id ? root.querySelector<HTMLElement>(`.v-input input[aria-controls="${menu.id}"]`) : null
  }
  root.addEventListener('click', ({ target }) => (chosen = target instanceof Element ? fieldOf(target.closest('.v-list-item')) : null), true)
  root.addEventListener(
    'focusin',
    ({ target }) => {
      if (target instanceof Element && target !== chosen && !target.closest('.v-menu')) chosen = null
    },
    true,
  )
  root.addEventListener(
    'keydown',
    (event) => {
      const { key, target } = event
      if (!(target instanceof HTMLElement)) return
      const list = target.closest('.v-menu')
      if (list?.matches('.v-overlay--active')) return
      const field = list || target === root.body ? chosen : target
      const isOpen = field?.getAttribute('aria-expanded') === 'true'
      const form = field?.closest('form')
      if (key === 'Enter' && field && form && (isWords(field) || (field === chosen && !isOpen && holdsChoice(field)))) {
        event.preventDefault()
        event.stopImmediatePropagation()
        // What is offered goes away with the cursor, which comes back.
        if (isOpen) field.blur()
        form.requestSubmit()
      } else if (key === 'Enter' && isOpen && target.matches('.v-autocomplete input')) chosen = target
      else chosen = null
    },
    true,
  )
}
