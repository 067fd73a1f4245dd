import { reactive } from 'vue'
import { asFailure } from './api'

interface NoticeAction {
  readonly words: string
  readonly run: () => Promise<void>
}

/** The one short message at the foot of the page, with at most one thing that can be done about it. */
export const notice = reactive({ number: 0, isShown: false, text: '', action: null as NoticeAction | null })

export function notify(text: string, action: NoticeAction | null = null): void {
  Object.assign(notice, { number: notice.number + 1, isShown: true, text, action })
}

/** Does what the message offers; where that is refused, the message says why. */
export async function actOnNotice(): Promise<void> {
  const { action } = notice
  notice.isShown = false
  notice.action = null
  try {
    await action?.run()
  } catch (error) {
    notify(asFailure(error).message)
  }
}
