import { reactive } from 'vue'

/** The one short message at the foot of the page. */
export const notice = reactive({ isShown: false, text: '' })

export function notify(text: string): void {
  notice.text = text
  notice.isShown = true
}
