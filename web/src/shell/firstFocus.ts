import type { Directive } from 'vue'

const typedInto = ':is(input:not([type=hidden]), textarea):not(:disabled, [readonly])'

/** Puts the cursor into the first field of an element that can be typed into; a field that offers choices has a hidden one before it. */
export function focusFirst(element: HTMLElement | undefined): void {
  element?.querySelector<HTMLElement>(typedInto)?.focus()
}

/**
 * Puts the cursor into a field, or into the first one of a form, the moment it appears; with `false` only when that turns true. The
 * `autofocus` of a text field waits until it is seen to be on the screen, and then takes the cursor out of whatever somebody is typing into by
 * that time; that of a button works once in the life of a page.
 */
export const vFirstFocus: Directive<HTMLElement, boolean | undefined> = {
  mounted: (element, { value }) => {
    if (value !== false) focusOn(element)
  },
  updated: (element, { value, oldValue }) => {
    if (value === true && oldValue === false) focusOn(element)
  },
}
function focusOn(element: HTMLElement): void {
  if (element instanceof HTMLButtonElement) element.focus()
  else focusFirst(element)
}
