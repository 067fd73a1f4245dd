import { CoreError } from '../errors'
import { plannedMinutes } from '../acceptance/plans/plannedMinutes'
import { unitKinds, type PointSubject } from '../ledger/occasions'
import { mergeDuplicateLines } from '../precedence/mergeDuplicateLines'
import type { Moment } from '../precedence/moments'
import { considerPoints } from '../precedence/whichApply'
import { intervalPassed } from '../states/stepRun'
import { Histories } from './histories'
import { linesAsked, type PlayedLine } from './linesAsked'
import type { Here, PastOccasion, RuledPoint, Rules } from './pastOccasion'

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
  /** Variance of how many inspections open here, where chance decides on some of them. */
  readonly chance: number
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
    return [partId, ...(familyId === null ? [] : [familyId]), ''].flatMap((partId) => found.get(`${key} ${partId}`) ?? [])
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
  return mergeDuplicateLines<PlayedLine>(asks).flatMap(({ id, lines, leftOut }, i) => {
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

/**
 * What is asked of each container or serial number, as an arrival of its own. What opens is given unit by unit, as no unit shares its lines
 * with another.
 */
function openedApart(
  occasion: PastOccasion,
  at: ReturnType<typeof indexed>,
  linesOf: ReturnType<typeof linesAsked>,
  histories: Histories,
): PlayedInspection[] {
  return unitKinds.flatMap((subject) => {
    const units = occasion.units.filter(({ kind }) => kind === subject)
    const points = units.length === 0 ? [] : reaching(occasion, subject, at)
    if (points.length === 0) return []
    return units.flatMap(({ quantity }, i) => {
      const unit = { ...occasion, id: `${occasion.id} ${i}`, quantity }
      const here = points.map((point) => ({ ...point, occasion: unit }))
      return opened(dueOf(here, histories), linesOf, histories)
    })
  })
}

/** What looks at the pieces as one: what is for lots, and what is for units that they are not told apart by. */
function wholeSubjects({ units }: PastOccasion): readonly PointSubject[] {
  return ['lot', ...unitKinds.filter((kind) => units.every((unit) => unit.kind !== kind))]
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
    const question = `${here.point.planId} ${here.point.operationId} ${here.point.moment}`
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
  let chance = 0
  for (const group of together(occasions)) {
    const load = opened(dueOfLoad(group, at, histories), linesOf, histories)
    for (const [i, occasion] of group.entries()) {
      const inspections = momentsAt(occasion).flatMap(([moment, quantityOf]) => {
        const reached = wholeSubjects(occasion).flatMap((subject) => reaching({ ...occasion, moment }, subject, at))
        const here = reached.flatMap((entry) => {
          const quantity = quantityOf(entry.point)
          return quantity === null ? [] : [{ ...entry, occasion: { ...entry.occasion, quantity } }]
        })
        const due = dueOf(here, histories)
        return due.length === 0 ? [] : opened(due, linesOf, histories)
      })
      inspections.push(...openedApart(occasion, at, linesOf, histories))
      const before = chance
      chance = histories.chance
      yield { occasion, inspections: i === 0 ? [...load, ...inspections] : inspections, chance: chance - before }
    }
  }
}
