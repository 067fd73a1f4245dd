import type { Characteristic, Plan, PlanLine, PlanLineInput } from '@nemawashi/contract'
import { describeSamplingRule, sampleFor, type SamplingRule } from '@nemawashi/core'
import { count, limitsWords } from '../../format/format'

const orNull = (text: string | null) => text || null

/** A line as it is sent: what the library says of it stays behind. */
export function inputOf({ characteristicId, sampling, isRequired, isDecisive, detached, stage, instruction, targets }: PlanLine): PlanLineInput {
  return {
    characteristicId,
    sampling,
    isRequired,
    isDecisive,
    detached: detached && { ...detached, nominal: orNull(detached.nominal), lower: orNull(detached.lower), upper: orNull(detached.upper) },
    stage,
    instruction,
    targets: targets.map(({ partId, nominal, lower, upper }) => ({ partId, nominal: orNull(nominal), lower: orNull(lower), upper: orNull(upper) })),
  }
}

/** A line for a characteristic that was chosen, as one would begin it. */
export function newLine(characteristicId: string, code: string, revisions: Characteristic['revisions']): PlanLine | null {
  const revision = revisions.find((entry) => entry.state === 'released') ?? revisions[0]
  if (!revision) return null
  const { name, kind, class: cls, unit, nominal, lower, upper, details } = revision
  return {
    characteristicId,
    code,
    name,
    kind,
    class: cls,
    unit,
    nominal,
    lower,
    upper,
    followsRevision: revision.state === 'released' ? revision.revision : null,
    minutesPerPiece: details.minutesPerPiece,
    isAdaptable: details.isAdaptable,
    sampling: kind === 'noted' ? { kind: 'fixedNumber', sampleSize: 1, accept: 0 } : { kind: 'attributesScheme', level: 'II', aqlPercent: 1 },
    isRequired: true,
    isDecisive: false,
    detached: null,
    stage: '',
    instruction: '',
    targets: [],
  }
}

/** Work of one lot over all lines: pieces and minutes. */
export function effortWords(lines: readonly PlanLine[], lot: number): string {
  let pieces = 0
  let minutes = 0
  let untimed = 0
  for (const line of lines) {
    try {
      const { sampleSize } = sampleFor(line.sampling as SamplingRule, lot)
      pieces += sampleSize
      if (line.minutesPerPiece === null) untimed += 1
      else minutes += sampleSize * line.minutesPerPiece
    } catch {
      untimed += 1
    }
  }
  const time = minutes > 0 ? `, ${minutes < 120 ? `${Math.round(minutes)} minutes` : `${(minutes / 60).toFixed(1)} hours`}` : ''
  const rest = untimed > 0 ? `; ${count(untimed, 'line')} without a time` : ''
  return `A lot of ${lot} takes ${count(pieces, 'reading')} at most${time}${rest}.`
}

/** The lines in one string, for choosing between two versions. */
export function linesWords(lines: readonly PlanLine[] | undefined): string {
  return (lines ?? []).map((line) => `${line.code} (${describeSamplingRule(line.sampling as SamplingRule)})`).join('; ')
}

/** A revision line by line, for comparing two of them. */
export function planWords(revision: Plan['revisions'][number]): readonly { label: string; words: string }[] {
  return revision.lines.map((line, i) => ({
    label: line.code,
    words: [
      `line ${i + 1}`,
      describeSamplingRule(line.sampling as SamplingRule),
      line.isRequired ? '' : 'not required',
      line.isDecisive ? 'decisive' : '',
      line.detached ? `own limits ${limitsWords({ ...line.detached, unit: line.unit })}` : '',
      ...line.targets.map((target) => `${target.partCode} ${limitsWords({ ...target, unit: line.unit })}`),
      line.stage,
      line.instruction,
    ]
      .filter((words) => words !== '')
      .join(', '),
  }))
}
