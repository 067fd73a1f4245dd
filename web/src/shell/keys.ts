import { onBeforeUnmount, onMounted, reactive } from 'vue'

export interface Key {
  /** As the event names it, with `Ctrl+` or `Shift+` before it where needed. */
  readonly key: string
  readonly words: string
  /** Left out where the page itself listens and the key is only listed in the help. */
  readonly run?: (event: KeyboardEvent) => void
  /** Whether it also works while something is being typed into a field. */
  readonly inFields?: boolean
}

/** Keys of what is on the screen now; the help lists them. */
export const activeKeys = reactive<Key[]>([])

function nameOf(event: KeyboardEvent): string {
  const key = event.key.length === 1 ? event.key.toUpperCase() : event.key
  const shift = event.shiftKey && (event.key.length > 1 || /[a-z]/i.test(event.key)) ? 'Shift+' : ''
  return `${event.ctrlKey || event.metaKey ? 'Ctrl+' : ''}${shift}${key}`
}

function isField(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement &&
    (target.isContentEditable || /^(input|textarea|select)$/i.test(target.tagName) || target.getAttribute('role') === 'combobox')
  )
}

/** Whether a letter is typed there as a letter: in a field of numbers none is. */
function takesLetters(target: EventTarget | null): boolean {
  if (!isField(target)) return false
  if (!(target instanceof HTMLInputElement)) return !(target instanceof HTMLSelectElement)
  return (
    !['decimal', 'numeric'].includes(target.getAttribute('inputmode') ?? '') && !['number', 'checkbox', 'radio', 'file', 'date'].includes(target.type)
  )
}

/** Whether a key does something where the cursor is: a capital letter is a letter in a field of words, whatever it does elsewhere. */
function mayRun({ key, inFields = false }: Key, target: EventTarget | null): boolean {
  if (/^Shift\+.$/.test(key) && takesLetters(target)) return false
  return inFields || !isField(target)
}

/** Binds keys while the calling component is on the screen. Keys with Alt are left to the browser. */
export function useKeys(keys: readonly Key[]): void {
  const listen = (event: KeyboardEvent) => {
    if (event.defaultPrevented || event.altKey || document.querySelector('.v-overlay--active [role="dialog"], .v-dialog.v-overlay--active')) return
    const found = keys.find((entry) => entry.key === nameOf(event) && mayRun(entry, event.target))
    if (!found?.run) return
    event.preventDefault()
    found.run(event)
  }
  onMounted(() => {
    activeKeys.push(...keys)
    window.addEventListener('keydown', listen)
  })
  onBeforeUnmount(() => {
    for (const key of keys) activeKeys.splice(activeKeys.indexOf(key), 1)
    window.removeEventListener('keydown', listen)
  })
}
