import { nextTick, reactive } from 'vue'

export interface Question {
  readonly title: string
  /** What will happen, spelled out. */
  readonly text: string
  /** Words of the button that does it. */
  readonly yes: string
  readonly no?: string
  /** Nothing is lost by it, and it is what comes next: Enter does it. Otherwise Enter leaves things as they are. */
  readonly isForward?: boolean
  /** Whether a reason has to be given. */
  readonly needsReason?: boolean
}

/** The one question that is open; the dialog of the frame shows it. */
export const dialog = reactive({ question: null as Question | null, answer: (_reason: string | null) => {} })

/** Asks before something is done; resolves with the reason (empty where none is asked for), or null when it is not to be done. */
export function ask(question: Question): Promise<string | null> {
  dialog.answer(null)
  const before = document.activeElement
  return new Promise((resolve) => {
    dialog.question = question
    dialog.answer = (reason) => {
      dialog.question = null
      dialog.answer = () => {}
      // The cursor goes back to where it came from; typing goes on there.
      void nextTick(() => before instanceof HTMLElement && before.isConnected && before.focus())
      resolve(reason)
    }
  })
}
