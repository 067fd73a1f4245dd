import { CoreError } from '../errors'
import { frequencyLookBack, isDue, type Arrival, type FrequencyRule, type PastArrival } from '../acceptance/frequency/frequencyRule'
import { plannedMinutes } from '../acceptance/plans/plannedMinutes'
import { sampleFor, type Sample } from '../acceptance/rules/sampleFor'
import type { SamplingRule } from '../acceptance/rules/samplingRule'
import { ruleUnder } from '../acceptance/switching/ruleUnder'
import { switching, type SwitchingOptions, type SwitchState } from '../acceptance/switching/switching'
import { switchingOf } from '../acceptance/switching/switchingOf'
import type { HoldExtent, PointSubject } from '../ledger/occasions'
import { askOnce, type PointLine } from '../precedence/askOnce'
import type { Moment } from '../precedence/moments'
import { ownLimits, questionOf, type LimitedLine } from '../precedence/question'
import { intervalPassed } from '../states/stepRun'
import { considerPoints, type Reach, type Subject } from '../precedence/whichApply'

/** A line of a plan, as far as it decides on pieces and minutes. */
export interface RuledLine extends LimitedLine {
  readonly characteristicId: string
  readonly sampling: SamplingRule
  readonly minutesPerPiece: number | null
  readonly isRequired: boolean
  readonly isDecisive: boolean
}

/** A control point as a rehearsal sees it. */
export interface RuledPoint extends Reach {
  readonly operationId: string
  readonly moment: Moment
  readonly subject: PointSubject
  /** After how many pieces or minutes it asks again, where its moment has an interval. */
  readonly every: number | null
  readonly frequency: FrequencyRule
  readonly isGate: boolean
  readonly holds: HoldExtent
}

/** Control points, and what the plans ask that hang at them. */
export interface Rules {
  readonly points: readonly RuledPoint[]
  readonly plans: ReadonlyMap<string, readonly RuledLine[]>
}

/** Something that happened to pieces at an operation; the id is what a random share is drawn from. */
export interface PastOccasion extends Subject, Arrival {
  /** The happening: the lines of a delivery share it, and the load is looked at once for them. */
  readonly occasionId: string
  readonly operationId: string
  readonly moment: Moment
  /** Of a step that runs or is confirmed: pieces (or minutes, where time came up) of it before and after; null elsewhere. */
  readonly counted: { readonly before: number; readonly after: number } | null
  /** Plans that were not accepted there; whatever else was asked is taken to have been. */
  readonly failed: readonly string[]
  /** Inspections that were opened for it in fact. */
  readonly opened: number
}

export interface PlayedInspection {
  readonly pointId: string
  readonly pieces: number
  /** Null where no line says how long it takes. */
  readonly minutes: number | null
  /** Why no sample can be worked out; null where one can. */
  readonly problem: string | null
}
export interface PlayedOccasion {
  readonly occasion: PastOccasion
  readonly inspections: readonly PlayedInspection[]
}

interface LineState {
  readonly step: ReturnType<typeof switching>
  readonly state: SwitchState
}
interface PlayedLine extends PointLine {
  readonly characteristicId: string
  readonly minutesPerPiece: number | null
}
/** A control point that reaches an occasion, and none that asks the same is narrower. */
interface Here {
  readonly point: RuledPoint
  readonly occasion: PastOccasion
  readonly subject: PointSubject
}

const placeKey = (operationId: string, moment: Moment, subject: PointSubject) => `${operationId} ${moment} ${subject}`

/** At which moments something asks when it happens, and for how many pieces; null where a point's interval has not come up. */
function momentsAt({ moment, quantity, counted }: PastOccasion): readonly (readonly [Moment, (point: RuledPoint) => number | null])[] {
  const all = () => quantity
  const passed = ({ every }: RuledPoint) =>
    every === null || counted === null ? null : (intervalPassed(counted.before, counted.after, every)?.since ?? null)
  if (moment === 'everyPieces') return [['everyPieces', passed]]
  if (moment === 'everyMinutes') return [['everyMinutes', (point) => (passed(point) === null ? null : quantity)]]
  if (moment === 'end')
    return [
      ['everyPieces', passed],
      ['lastPiece', () => 1],
      ['end', all],
    ]
  return [[moment, all]]
}

/** Control points by where they hang and what they are for, so that an occasion meets only those that could reach it. */
function indexed(points: readonly RuledPoint[]): (occasion: PastOccasion, subject: PointSubject) => readonly RuledPoint[] {
  const found = new Map<string, RuledPoint[]>()
  for (const point of points) {
    const key = `${placeKey(point.operationId, point.moment, point.subject)} ${point.partId ?? point.familyId ?? ''}`
    const known = found.get(key)
    if (known) known.push(point)
    else found.set(key, [point])
  }
  return ({ operationId, moment, partId, familyId }, subject) => {
    const key = placeKey(operationId, moment, subject)
    return [partId, ...(familyId === null ? [] : [familyId]), ''].flatMap((of) => found.get(`${key} ${of}`) ?? [])
  }
}

type SampleOf = (lotSize: number, state: SwitchState | null) => Pick<Sample, 'sampleSize' | 'accept'>

/** Samples, worked out once for a rule (whoever asks by it), the inspection in force (null where it does not switch) and a size. */
function samples(): (rule: SamplingRule) => SampleOf {
  const byRule = new Map<string, SampleOf>()
  return (rule) => {
    const key = JSON.stringify(rule)
    const known = byRule.get(key)
    if (known) return known
    const worked = new Map<SwitchState | null, Map<number, ReturnType<SampleOf>>>()
    const sampleOf: SampleOf = (lotSize, state) => {
      const bySize = worked.get(state) ?? new Map<number, ReturnType<SampleOf>>()
      worked.set(state, bySize)
      const found = bySize.get(lotSize)
      if (found) return found
      const { sampleSize, accept } = sampleFor(state === null ? rule : ruleUnder(rule, state), lotSize)
      bySize.set(lotSize, { sampleSize, accept })
      return { sampleSize, accept }
    }
    byRule.set(key, sampleOf)
    return sampleOf
  }
}

/** A line of a plan as a control point asks it of a part: what does not depend on the lot is worked out once. */
interface LineOfPart extends Omit<PlayedLine, 'sampleSize' | 'accept'> {
  readonly sampleOf: SampleOf
  /** How its severity switches; null where it stays. */
  readonly options: SwitchingOptions | null
}

/** What control points ask of parts; parts without limits of their own share their lines. */
function linesAsked({ plans }: Rules): (here: Here) => readonly LineOfPart[] {
  const sampleOf = samples()
  const known = new Map<string, readonly LineOfPart[]>()
  const withTargets = new Set([...plans].flatMap(([id, lines]) => (lines.some(({ targets }) => targets.length > 0) ? [id] : [])))
  return ({ point: { planId, operationId }, occasion, subject }) => {
    const partId = subject === 'load' ? null : occasion.partId
    const key = `${planId} ${operationId} ${subject} ${withTargets.has(planId) ? (partId ?? '') : ''}`
    const found = known.get(key)
    if (found) return found
    const lines = (plans.get(planId) ?? []).map((line): LineOfPart => {
      const { characteristicId, sampling, minutesPerPiece, isRequired, isDecisive } = line
      const options = subject === 'load' ? null : switchingOf(sampling)
      const question = questionOf(operationId, characteristicId, ownLimits(line, partId, 0))
      const asked = { question, characteristicId, minutesPerPiece, isRequired, isDecisive }
      return { ...asked, isByHistory: options !== null, options, sampleOf: sampleOf(sampling) }
    })
    known.set(key, lines)
    return lines
  }
}

/** The histories that frequencies and severities look back on while the past is played. */
class Histories {
  readonly #arrivals = new Map<string, PastArrival[]>()
  readonly #severities = new Map<string, LineState>()

  #keyOf({ planId, operationId }: RuledPoint, { partId, supplierId, customerId }: PastOccasion, subject: PointSubject): string {
    return [planId, operationId, subject === 'load' ? '' : partId, supplierId ?? customerId ?? ''].join(' ')
  }

  /** Whether a point looks at it, by what came before. */
  isDue({ point, occasion, subject }: Here): boolean {
    return isDue(point.frequency, occasion, this.#arrivals.get(this.#keyOf(point, occasion, subject)) ?? []).isDue
  }

  /** What a point did with it is history for the next. */
  note({ point, occasion, subject }: Here, isInspected: boolean): void {
    const key = this.#keyOf(point, occasion, subject)
    const before = this.#arrivals.get(key) ?? []
    const { id, day, atHours, quantity } = occasion
    before.push({ id, day, atHours, quantity, isInspected, isAccepted: isInspected ? !occasion.failed.includes(point.planId) : null })
    if (before.length > frequencyLookBack) before.shift()
    this.#arrivals.set(key, before)
  }

  /** What a line asks, under the severity of its own history; a stop is taken to be answered at once. */
  lineOf({ point, occasion, subject }: Here, { sampleOf, options, ...line }: LineOfPart): PlayedLine {
    const lotSize = subject === 'load' ? 1 : occasion.quantity
    if (options === null) return { ...line, ...sampleOf(lotSize, null) }
    const key = `${this.#keyOf(point, occasion, subject)} ${line.characteristicId}`
    const known = this.#severities.get(key) ?? { step: switching(options), state: options.start ?? 'normal' }
    const sample = sampleOf(lotSize, known.state)
    const isAccepted = !occasion.failed.includes(point.planId)
    const { next } = known.step({ isAccepted, isAcceptedTighter: isAccepted, isAcceptedEarly: isAccepted, accept: sample.accept })
    const answered = { step: switching({ ...options, start: 'tightened' }), state: 'tightened' } as const
    this.#severities.set(key, next === 'discontinued' ? answered : { ...known, state: next })
    return { ...line, ...sample }
  }
}

/** Pieces and minutes of an inspection. */
function opening(pointId: string, lines: readonly PlayedLine[], problem: string | null): PlayedInspection {
  return { pointId, pieces: lines.reduce((sum, line) => sum + line.sampleSize, 0), minutes: plannedMinutes(lines), problem }
}

/** What opens of what is due: a line that several ask is asked once, and one that is left nothing to ask opens none. */
function opened(due: readonly Here[], linesOf: ReturnType<typeof linesAsked>, histories: Histories): PlayedInspection[] {
  const asks = due.map((here) => {
    try {
      return { ...here.point, lines: linesOf(here).map((line) => histories.lineOf(here, line)), problem: null }
    } catch (error) {
      if (!(error instanceof CoreError)) throw error
      return { ...here.point, lines: [], problem: error.message }
    }
  })
  // One alone shares its lines with nobody.
  if (asks.length < 2) return asks.map(({ id, lines, problem }) => opening(id, lines, problem))
  return askOnce<PlayedLine>(asks).flatMap(({ id, lines, leftOut }, i) => {
    if (lines.length === 0 && leftOut.length > 0) return []
    return [opening(id, lines, asks[i]?.problem ?? null)]
  })
}

/** The lines of one happening together. */
function* together(occasions: readonly PastOccasion[]): Generator<readonly PastOccasion[]> {
  let group: PastOccasion[] = []
  for (const occasion of occasions) {
    if (group.length > 0 && group[0]?.occasionId !== occasion.occasionId) {
      yield group
      group = []
    }
    group.push(occasion)
  }
  if (group.length > 0) yield group
}

/** Points that reach an occasion and give way to none. */
function reaching(occasion: PastOccasion, subject: PointSubject, at: ReturnType<typeof indexed>): Here[] {
  return considerPoints(at(occasion, subject), occasion).flatMap(({ point, opens }) => (opens ? [{ point, occasion, subject }] : []))
}

function dueOf(here: readonly Here[], histories: Histories): Here[] {
  const due = here.map((entry) => histories.isDue(entry))
  for (const [i, entry] of here.entries()) histories.note(entry, due[i] === true)
  return here.filter((_, i) => due[i])
}

/** What the load asks for, once for all that is on it: of a question that several lines bring up, the first that is due. */
function dueOfLoad(lines: readonly PastOccasion[], at: ReturnType<typeof indexed>, histories: Histories): Here[] {
  const byQuestion = new Map<string, Here & { isDue: boolean }>()
  for (const here of lines.flatMap((occasion) => reaching(occasion, 'load', at))) {
    const question = `${here.point.planId} ${here.point.operationId}`
    const known = byQuestion.get(question)
    if (known?.isDue === true) continue
    const isNow = histories.isDue(here)
    if (isNow || known === undefined) byQuestion.set(question, { ...here, isDue: isNow })
  }
  for (const here of byQuestion.values()) histories.note(here, here.isDue)
  return [...byQuestion.values()].filter(({ isDue: isNow }) => isNow)
}

/**
 * Plays what happened, in its order, under control points: what would have opened, by the rules that open in earnest (precedence, frequency,
 * severity, asked once). What was not accepted then is not accepted where it is looked at; the rest is taken to have been.
 * Shape: rules, occasions oldest first, the lines of one happening beside each other → one PlayedOccasion for each, in their order; of a
 * load, what it asks stands with its first line.
 * @throws {CoreError} as `checkFrequencyRule`.
 */
export function* playOccasions(rules: Rules, occasions: readonly PastOccasion[]): Generator<PlayedOccasion> {
  const at = indexed(rules.points)
  const histories = new Histories()
  const linesOf = linesAsked(rules)
  for (const group of together(occasions)) {
    const load = opened(dueOfLoad(group, at, histories), linesOf, histories)
    for (const [i, occasion] of group.entries()) {
      const inspections = momentsAt(occasion).flatMap(([moment, quantityOf]) => {
        const here = reaching({ ...occasion, moment }, 'lot', at).flatMap((entry) => {
          const quantity = quantityOf(entry.point)
          return quantity === null ? [] : [{ ...entry, occasion: { ...entry.occasion, quantity } }]
        })
        const due = dueOf(here, histories)
        return due.length === 0 ? [] : opened(due, linesOf, histories)
      })
      yield { occasion, inspections: i === 0 ? [...load, ...inspections] : inspections }
    }
  }
}
