import { codesOf } from '../masters/repository'
import { storedPlanLines } from './repository'
import {
  checkLimits,
  checkSamplingRule,
  CoreError,
  countedOf,
  parseDecimal,
  requireSuits,
  type CharacteristicKind,
  type SamplingRule,
} from '@nemawashi/core'
import type { DetachedLimits, PartTarget, PlanLine, PlanLineInput } from '@nemawashi/contract'
import type { Reader } from '../../kernel/work/database'
import { ServerError } from '../../kernel/base/serverError'
import type { Work } from '../../kernel/work/unitOfWork'
import { requireReference } from '../../kernel/work/versioned'
import { detailsOf } from '../library/checkedFields'
import { PlanLineEntity, PlanRevisionEntity } from './entities'
import { characteristicRevisionRows, characteristicRows } from '../library/rows'
import { partRows } from '../masters/rows'

/** The lines of a plan revision in order, each with what the library says of its characteristic now. */
export async function loadLines(reader: Reader, planRevisionId: string): Promise<PlanLine[]> {
  const rows = await storedPlanLines(reader, planRevisionId)
  const codes = rows.some(({ targets }) => targets !== null) ? await partCodes(reader) : new Map<string, string>()
  return rows.map(({ details, detached, targets, ...row }) => {
    const { minutesPerPiece, isAdaptable } = detailsOf(details)
    const own = targets === null ? [] : (JSON.parse(targets) as PartTarget[])
    return {
      ...row,
      sampling: JSON.parse(row.sampling) as PlanLine['sampling'],
      isRequired: row.isRequired === 1,
      isDecisive: row.isDecisive === 1,
      detached: detached === null ? null : (JSON.parse(detached) as DetachedLimits),
      minutesPerPiece,
      isAdaptable,
      targets: own.map((target) => ({ ...target, partCode: codes.get(target.partId) ?? '?' })),
    }
  })
}

async function partCodes(reader: Reader): Promise<Map<string, string>> {
  return new Map((await codesOf(reader, 'part')).map(({ id, code }) => [id, code]))
}

/** What the newest revision of a characteristic says it is. */
async function latestOf(work: Work, characteristicId: string): Promise<{ kind: CharacteristicKind; name: string }> {
  const [latest] = await characteristicRevisionRows.list(work.manager, { characteristicId }, { order: { revision: 'DESC' }, take: 1 })
  return latest ?? { kind: 'judged', name: '' }
}

/** @throws {ServerError | CoreError} what is wrong with the first line that cannot be; names the line. */
export async function checkLines(work: Work, lines: readonly PlanLineInput[]): Promise<void> {
  const seen = new Set<string>()
  for (const [index, line] of lines.entries()) {
    await requireReference(work, characteristicRows, 'characteristic', line.characteristicId, `lines.${index}.characteristicId`)
    if (seen.has(line.characteristicId)) {
      throw new ServerError(
        'already_exists',
        `Line ${index + 1} asks for a characteristic that stands in the plan already. One line is one question.`,
        { line: index },
      )
    }
    seen.add(line.characteristicId)
    try {
      const { kind, name } = await latestOf(work, line.characteristicId)
      checkSamplingRule(line.sampling as SamplingRule, countedOf(kind))
      requireSuits(line.sampling as SamplingRule, kind, name)
      await checkDetached(work, line)
    } catch (error) {
      if (error instanceof CoreError) throw new CoreError(error.code, `Line ${index + 1}: ${error.message}`, { ...error.facts, line: index })
      throw error
    }
  }
}

/** Own limits of a line or of parts on it: only where the characteristic is measured and allows it; they obey what its own limits obey. */
async function checkDetached(work: Work, { characteristicId, detached, targets }: PlanLineInput): Promise<void> {
  if (detached === null && targets.length === 0) return
  const revision = await characteristicRevisionRows.first(work.manager, { characteristicId }, { revision: 'DESC' })
  if (revision?.kind !== 'measured' || !detailsOf(revision.details).isAdaptable) {
    throw new ServerError(
      'input_invalid',
      `${revision?.name ?? 'This characteristic'} takes no limits of its own on a line: it is not measured, or must be followed as it is.`,
      {
        field: 'detached',
      },
    )
  }
  const decimal = (text: string | null) => (text === null || text.trim() === '' ? null : parseDecimal(text))
  const check = ({ nominal, lower, upper }: Omit<PartTarget, 'partId'>) =>
    checkLimits({ nominal: decimal(nominal), lower: decimal(lower), upper: decimal(upper) }, revision.resolution ?? '1')
  if (detached) check(detached)
  const seen = new Set<string>()
  for (const target of targets) {
    await requireReference(work, partRows, 'part', target.partId, 'targets')
    const part = await partRows.load(work.manager, target.partId)
    if (seen.has(part.id))
      throw new ServerError('already_exists', `${part.code} has two targets on this line. Keep one.`, { field: 'targets', part: part.code })
    seen.add(part.id)
    try {
      check(target)
    } catch (error) {
      if (error instanceof CoreError) throw new CoreError(error.code, `${part.code}: ${error.message}`, { ...error.facts, part: part.code })
      throw error
    }
  }
}

export async function writeLines(work: Work, planRevisionId: string, lines: readonly PlanLineInput[]): Promise<void> {
  await work.manager.delete(PlanLineEntity, { planRevisionId })
  for (const [position, { characteristicId, sampling, isRequired, isDecisive, detached, stage, instruction, targets }] of lines.entries()) {
    await work.manager.insert(PlanLineEntity, {
      planRevisionId,
      position,
      characteristicId,
      sampling: sampling as SamplingRule,
      isRequired,
      isDecisive,
      detached,
      stage,
      instruction,
      targets: targets.length === 0 ? null : targets.map(({ partId, nominal, lower, upper }) => ({ partId, nominal, lower, upper })),
    })
  }
}

/** A further revision of a plan, as a draft; its id. */
export async function insertPlanRevision(work: Work, planId: string, revision: number, lines: readonly PlanLineInput[]): Promise<string> {
  const id = work.newId()
  await work.manager.insert(PlanRevisionEntity, { id, planId, revision, state: 'draft', releasedAt: null, releasedById: null, effectiveFrom: null })
  await writeLines(work, id, lines)
  return id
}
