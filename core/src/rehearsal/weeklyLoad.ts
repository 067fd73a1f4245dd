import { dayAt, dayNumber, mondayOf } from '../numeric/calendar'
import type { PlayedOccasion } from './playOccasions'

/** What a week brings: how many inspections, how many pieces to look at, how many minutes. */
export interface Workload {
  readonly inspections: number
  readonly pieces: number
  readonly minutes: number
}
export interface WeeklyLoad extends Workload {
  /** Monday of the week. */
  readonly from: string
  readonly occasions: number
  /** Inspections that were opened in fact. */
  readonly inFact: number
  /** Inspections of which nobody knows how long they take; the minutes are without them. */
  readonly untimed: number
}

/** Every Monday from one day's week to another's. */
function mondays(fromDay: string, untilDay: string): string[] {
  const all: string[] = []
  for (let at = dayNumber(mondayOf(fromDay)); at <= dayNumber(untilDay); at += 7) all.push(dayAt(at))
  return all
}

const nothing = { occasions: 0, inFact: 0, inspections: 0, pieces: 0, minutes: 0, untimed: 0 }

/**
 * How many inspections another time like it may bring where chance decides on some of them, 19 times of 20: the normal approximation of a sum of
 * draws. Shape: number played, variance ≥ 0 → least and most; null where nothing is drawn.
 */
export function loadRange(inspections: number, chance: number): readonly [least: number, most: number] | null {
  if (chance <= 0) return null
  const away = 1.959964 * Math.sqrt(chance)
  return [Math.max(0, Math.floor(inspections - away)), Math.ceil(inspections + away)]
}

/** All weeks together. */
export function totalLoad(weeks: readonly WeeklyLoad[]): Omit<WeeklyLoad, 'from'> {
  const sum = (field: keyof typeof nothing) => weeks.reduce((total, week) => total + week[field], 0)
  return {
    occasions: sum('occasions'),
    inFact: sum('inFact'),
    inspections: sum('inspections'),
    pieces: sum('pieces'),
    minutes: sum('minutes'),
    untimed: sum('untimed'),
  }
}

/** Adds up what was played, by week and by control point, from a day on; weeks in which nothing came are there with zeros. */
export class LoadTally {
  readonly #weeks = new Map<string, WeeklyLoad>()
  readonly #byPoint = new Map<string, Workload>()
  readonly #problems = new Map<string, number>()
  readonly #fromDay: string
  #chance = 0

  constructor(fromDay: string, untilDay: string) {
    this.#fromDay = fromDay
    for (const from of mondays(fromDay, untilDay)) this.#weeks.set(from, { from, ...nothing })
  }

  add({ occasion, inspections, chance }: PlayedOccasion): void {
    if (occasion.day < this.#fromDay) return
    this.#chance += chance
    const from = mondayOf(occasion.day)
    const week = this.#weeks.get(from) ?? { from, ...nothing }
    this.#weeks.set(from, {
      from,
      occasions: week.occasions + 1,
      inFact: week.inFact + occasion.opened,
      inspections: week.inspections + inspections.length,
      pieces: inspections.reduce((sum, { pieces }) => sum + pieces, week.pieces),
      minutes: inspections.reduce((sum, { minutes }) => sum + (minutes ?? 0), week.minutes),
      untimed: week.untimed + inspections.filter(({ minutes }) => minutes === null).length,
    })
    for (const { pointId, pieces, minutes, problem } of inspections) {
      const known = this.#byPoint.get(pointId) ?? { inspections: 0, pieces: 0, minutes: 0 }
      this.#byPoint.set(pointId, {
        inspections: known.inspections + 1,
        pieces: known.pieces + pieces,
        minutes: known.minutes + (minutes ?? 0),
      })
      if (problem !== null) this.#problems.set(problem, (this.#problems.get(problem) ?? 0) + 1)
    }
  }

  get weeks(): WeeklyLoad[] {
    return [...this.#weeks.values()].sort((a, b) => (a.from < b.from ? -1 : 1))
  }
  get byPoint(): ReadonlyMap<string, Workload> {
    return this.#byPoint
  }
  /** Variance of the number of inspections, where chance decides on some of them. */
  get chance(): number {
    return this.#chance
  }
  /** Why samples could not be worked out, and how often. */
  get problems(): ReadonlyMap<string, number> {
    return this.#problems
  }
}
