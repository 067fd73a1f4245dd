import { notify } from '../shell/notify'
import { useSaver } from './useSaver'

interface Shown<T> {
  /** Shows what came back, and loads what stands now; as `useThing` has them. */
  readonly put: (thing: T) => void
  readonly reload: () => Promise<void>
  /** Tells whoever shows it elsewhere, as the list beside it. */
  readonly changed: () => void
}

/**
 * Acts on the thing that a sheet shows: what comes back is shown and told of. Somebody else may have gone on with it, or a gate have shut
 * meanwhile: after a refusal what stands now is loaded, beside the refusal.
 */
export function useActs<T>({ put, reload, changed }: Shown<T>) {
  const saver = useSaver()
  /** True when it is done. @param words what is said then; empty or left out for nothing */
  async function act(making: () => Promise<T>, words: (made: T) => string = () => ''): Promise<boolean> {
    const done = await saver.save(async () => {
      const made = await making()
      put(made)
      changed()
      if (words(made) !== '') notify(words(made))
    })
    if (!done && saver.failure.value?.code !== 'unreachable') await reload()
    return done
  }
  return { saver, act }
}
