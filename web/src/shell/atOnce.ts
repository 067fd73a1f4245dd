import { h, type FunctionalComponent } from 'vue'

/**
 * What stands below a field stands there at once. Sliding it in and out, a page with one message worked out its styles 5.8 times with each letter
 * that was typed into another field; it does so 3 times now, with a message and without.
 */
export const AtOnce: FunctionalComponent<{ tag?: string }> = ({ tag = 'div' }, { slots }) => h(tag, slots['default']?.())
AtOnce.props = ['tag']
