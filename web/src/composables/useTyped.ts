import type { Endpoint } from '@nemawashi/contract'
import { computed, reactive } from 'vue'
import type { useSaver } from './useSaver'

/**
 * What is wrong in a form as it is typed, by the schema that the server checks it by, beside what the server said of it. Only fields that
 * somebody has been in and left are spoken of (`data-field`, in a `data-line` where there are several): an empty form is no fault yet.
 * @param body what would be sent now
 */
export function useTyped(saver: Pick<ReturnType<typeof useSaver>, 'fieldErrors'>, schema: () => Endpoint['body'], body: () => unknown) {
  const left = reactive(new Set<string>())
  const typed = computed<Record<string, string>>(() => {
    if (left.size === 0) return {}
    const found: Record<string, string> = {}
    for (const { path, message } of schema().safeParse(body()).error?.issues ?? []) {
      const field = path.join('.')
      if (left.has(field)) found[field] ??= message
    }
    return found
  })
  const errors = computed<Record<string, string>>(() => ({ ...saver.fieldErrors.value, ...typed.value }))

  /** For the form's `focusout`. */
  function leave({ target }: FocusEvent): void {
    const field = (target as Element | null)?.closest<HTMLElement>('[data-field]')
    if (!field) return
    const line = field.closest<HTMLElement>('[data-line]')?.dataset['line']
    left.add(line === undefined ? (field.dataset['field'] ?? '') : `lines.${line}.${field.dataset['field']}`)
  }
  /** Another record is shown: nobody has been in its fields. */
  function forget(): void {
    left.clear()
  }
  return { errors, leave, forget }
}
