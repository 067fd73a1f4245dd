import { historyFrom, type GoingHistory } from '../acceptance/frequency/frequencyHistory'
import { isDue } from '../acceptance/frequency/frequencyRule'
import { beginSwitching, switching, type JudgedLot, type SwitchState } from '../acceptance/switching/switching'
import type { PointSubject } from '../ledger/occasions'
import type { LineOfPart, PlayedLine } from './linesAsked'
import type { Here, PastOccasion, RuledPoint } from './pastOccasion'

interface LineState {
  readonly step: ReturnType<typeof switching>
  readonly state: SwitchState
}
/** The histories that frequencies and severities look back on while the past is played. */
export class Histories {
  readonly #arrivals = new Map<string, GoingHistory>()
  readonly #severities = new Map<string, LineState>()
  #chance = 0

  /** Variance of how many were due of those that were drawn so far: Σ p (1 − p), as each is drawn by itself. */
  get chance(): number {
    return this.#chance
  }

  #keyOf({ planId, operationId }: RuledPoint, { partId, supplierId, customerId }: PastOccasion, subject: PointSubject): string {
    return [planId, operationId, subject === 'load' ? '' : partId, supplierId ?? customerId ?? ''].join(' ')
  }

  #before({ point, occasion, subject }: Here): GoingHistory {
    const key = this.#keyOf(point, occasion, subject)
    const known = this.#arrivals.get(key) ?? historyFrom()
    this.#arrivals.set(key, known)
    return known
  }

  /** Whether a point looks at it, by what came before. */
  isDue({ point, occasion, subject }: Here): boolean {
    const { isDue: isNow, because } = isDue(point.frequency, occasion, this.#before({ point, occasion, subject }))
    if (because.kind === 'drawn') this.#chance += (because.percent / 100) * (1 - because.percent / 100)
    return isNow
  }

  /** What a point did with it is history for the next. */
  note({ point, occasion, subject }: Here, isInspected: boolean): void {
    const { id, day, atHours, quantity, order } = occasion
    const isAccepted = isInspected ? !occasion.failed.includes(point.planId) : null
    this.#before({ point, occasion, subject }).note({ id, day, atHours, quantity, order, isInspected, isAccepted })
  }

  /** What the line found there; where nobody looked, it is taken to have found nothing: accepted early, and by the tighter plan, too. */
  #lotOf({ point: { planId }, occasion: { judged, failed } }: Here, characteristicId: string): Omit<JudgedLot, 'accept'> {
    const found = judged.find((line) => line.planId === planId && line.characteristicId === characteristicId)
    if (found) return found
    const isAccepted = !failed.includes(planId)
    return { isAccepted, isAcceptedTighter: isAccepted, isAcceptedEarly: isAccepted }
  }

  /** What a line asks, under the severity of its own history; a stop is taken to be answered at once. */
  lineOf({ point, occasion, subject }: Here, { sampleOf, options, ...line }: LineOfPart): PlayedLine {
    const lotSize = subject === 'load' ? 1 : occasion.quantity
    if (options === null) return { ...line, ...sampleOf(lotSize, null) }
    const key = `${this.#keyOf(point, occasion, subject)} ${line.characteristicId}`
    const known = this.#severities.get(key) ?? { step: switching(options), state: beginSwitching(options).state }
    const sample = sampleOf(lotSize, known.state)
    const { next } = known.step({ ...this.#lotOf({ point, occasion, subject }, line.characteristicId), accept: sample.accept })
    const answered = { step: switching({ ...options, start: 'tightened' }), state: 'tightened' } as const
    this.#severities.set(key, next === 'discontinued' ? answered : { ...known, state: next })
    return { ...line, ...sample }
  }
}
