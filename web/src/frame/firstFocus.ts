import type { Directive } from 'vue'

/** Puts the cursor into the first field of an element that can be typed into; a field that offers choices has a hidden one before it. */
export function focusFirst(element: HTMLElement | undefined): void {
  element?.querySelector<HTMLInputElement>('input:not([type=hidden])')?.focus()
}

/**
 * Puts the cursor into a field the moment it appears. The `autofocus` of a text field waits until it is seen to be on the screen, and
 * then takes the cursor out of whatever somebody is typing into by that time.
 */
export const vFirstFocus: Directive<HTMLElement> = { mounted: focusFirst }
