import type { CallOf, Endpoint, ReplyOf } from '@nemawashi/contract'
import { call, newKey } from '../shell/api'
import { useUnsaved } from '../shell/unsaved'
import { useSaver } from './useSaver'
import { useTyped } from './useTyped'

/**
 * A form that enters something new: what is wrong is said as it is typed, it is written once however often it is sent, and who leaves it
 * unsaved is asked.
 * @param words what would be lost, e.g. `the new order`
 */
export function useEntry<E extends Endpoint>({
  endpoint,
  bodyOf,
  isBlank,
  words,
  saved,
}: {
  endpoint: E
  bodyOf: () => object
  isBlank: () => boolean
  words: string
  saved: (made: ReplyOf<E>) => void
}) {
  const saver = useSaver()
  const { errors, leave } = useTyped(saver, () => endpoint.body, bodyOf)
  let key = newKey()
  let isSaved = false
  useUnsaved(
    () => !isSaved && !isBlank(),
    () => words,
  )
  /** True when it is written. @param more fields that are not typed */
  async function submit(more: object = {}): Promise<boolean> {
    const done = await saver.save(async () => {
      const made = await call(endpoint, { body: { ...bodyOf(), ...more } } as CallOf<E>, { key })
      isSaved = true
      saved(made)
    })
    // A refused request leaves nothing behind; the corrected one is another request.
    if (!done && saver.failure.value?.code !== 'unreachable') key = newKey()
    return done
  }
  return { saver, errors, leave, submit }
}
