import { record, type PlannedInspection, type Planning } from '@nemawashi/contract'
import { nextTick, ref, type Ref } from 'vue'
import { useRouter } from 'vue-router'
import { asFailure, call, type Failure } from '../../shell/api'
import { notify } from '../../shell/notify'
import { dayWords } from '../../format/format'
import { placeAfter, type BoardPlace } from './boardMoves'

interface Board {
  readonly board: Readonly<Ref<Planning | undefined>>
  /** The day under which a card stands on the board. */
  readonly shownOn: (card: PlannedInspection) => string | null
  readonly reload: () => Promise<void>
}

/** Moves cards of the planning board: dragged, or picked up with Space and moved with the arrows. What happens is told in words, too. */
export function useCardMoves({ board, shownOn, reload }: Board) {
  const router = useRouter()
  const refused = ref<Failure | null>(null)
  const held = ref<PlannedInspection | null>(null)
  const target = ref<BoardPlace | null>(null)
  const told = ref('')
  function pick(card: PlannedInspection): void {
    held.value = card
    target.value = { personId: card.personId, day: shownOn(card) }
  }
  /** A card that is let go anywhere else stays where it was. */
  function cancelMove(): void {
    held.value = null
    target.value = null
  }
  const nameOf = (personId: string | null) => board.value?.people.find(({ id }) => id === personId)?.name ?? 'nobody'
  const placeWords = ({ personId, day }: BoardPlace) =>
    personId === null ? 'for nobody' : `for ${nameOf(personId)}${day === null ? '' : ` on ${dayWords(day)}`}`

  async function drop({ personId, day }: BoardPlace): Promise<void> {
    const card = held.value
    cancelMove()
    if (!card || (card.personId === personId && card.day === day)) return
    refused.value = null
    try {
      await call(record.assignInspection, { params: { id: card.id }, body: { personId, day, version: card.version } })
      told.value = `${card.code} is planned ${placeWords({ personId, day })}.`
      notify(told.value)
    } catch (error) {
      refused.value = asFailure(error)
    }
    await reload()
    await nextTick()
    document.querySelector<HTMLElement>(`[data-card="${card.code}"]`)?.focus()
  }

  /** Space picks up and puts down, arrows go from day to day and from person to person, Escape leaves it where it was. */
  function keyOn(event: KeyboardEvent, card: PlannedInspection): void {
    const here = board.value
    if (!here) return
    if (event.key === 'Enter') return void router.push(`/record/${card.id}`)
    if (event.key === ' ') {
      event.preventDefault()
      if (held.value === null) {
        pick(card)
        told.value = `${card.code} picked up. Arrows choose person and day, Space puts it down, Escape leaves it.`
      } else void drop(target.value ?? { personId: null, day: null })
      return
    }
    if (held.value === null) return
    if (event.key === 'Escape') {
      cancelMove()
      told.value = `${card.code} stays where it was.`
      return
    }
    const next = placeAfter(event.key, target.value ?? { personId: null, day: null }, here)
    if (!next) return
    event.preventDefault()
    target.value = next
    told.value = placeWords(target.value)
  }

  /** What can happen to a card. */
  const movesOf = (card: PlannedInspection) => ({ pick: () => pick(card), cancelMove, key: (event: KeyboardEvent) => keyOn(event, card) })
  return { held, target, told, refused, drop, movesOf }
}
