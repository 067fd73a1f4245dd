import type { Directive } from 'vue'

/**
 * Puts the cursor into a field the moment it appears. The `autofocus` of a text field waits until it is seen to be on the screen, and
 * then takes the cursor out of whatever somebody is typing into by that time.
 */
export const vFirstFocus: Directive<HTMLElement> = {
  mounted: (element) => element.querySelector('input')?.focus(),
}
