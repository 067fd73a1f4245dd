import { codesOf } from '../masters/repository'
import { latestRevisions, planIdOf } from './repository'
import { CoreError } from '@nemawashi/core'
import { endpoints, PlanFile, type FileLine, type PlanImport, type PlanLine, type PlanLineInput, sameFacts } from '@nemawashi/contract'
import { z } from 'zod'
import type { Reader } from '../../kernel/work/database'
import type { Routes } from '../../kernel/routes'
import { ServerError } from '../../kernel/base/serverError'
import type { Work } from '../../kernel/work/unitOfWork'
import { PlanEntity, PlanRevisionEntity } from './entities'
import { undoPlanImport, type PlansBrought } from './planImportUndo'
import { checkLines, insertPlanRevision, loadLines, writeLines } from './planLines'
import type { Kernel } from '../../kernel/kernel'
import { sendWorkbook } from '../../kernel/workbook'
import { planSheetOf, planSheetRows, readPlans, type FilePlan } from './planTable'

const { define } = endpoints

const fileLine = ({ code, sampling, isRequired, isDecisive, stage, instruction, detached, targets }: PlanLine): FileLine => ({
  characteristic: code,
  sampling,
  isRequired,
  isDecisive,
  stage,
  instruction,
  ownLimits: detached,
  targets: targets.map(({ partCode, nominal, lower, upper }) => ({ part: partCode, nominal, lower, upper })),
})

/** The latest revision of every plan, or of the one with the code, as a file carries it. */
async function plansOf(reader: Reader, code: string | undefined): Promise<FilePlan[]> {
  const rows = await latestRevisions(reader, code)
  if (code !== undefined && rows.length === 0) throw new ServerError('not_found', `There is no plan with the code ${code}.`)
  const plans: FilePlan[] = []
  for (const row of rows) plans.push({ code: row.code, name: row.name, lines: (await loadLines(reader, row.id)).map(fileLine) })
  return plans
}

async function idsByCode(reader: Reader, table: 'characteristic' | 'part'): Promise<Map<string, string>> {
  return new Map((await codesOf(reader, table)).map(({ id, code }) => [code.toLowerCase(), id]))
}

/** Imports plans as drafts, all or none. A trial goes through the same steps and writes nothing. */
async function importPlans(work: Work, name: string, content: Buffer, isTrial: boolean): Promise<PlanImport> {
  const { plans, problems } = await readPlans(name, content)
  const [characteristics, parts] = [await idsByCode(work.manager, 'characteristic'), await idsByCode(work.manager, 'part')]
  const outcomes: PlanImport['plans'] = []
  const changes: ((brought: PlansBrought) => Promise<void>)[] = []
  const seen = new Set<string>()
  for (const plan of plans) {
    const tell = (line: number | null, message: string) =>
      problems.push({ where: `plan ${plan.code}${line === null ? '' : `, line ${line + 1}`}`, message })
    if (seen.has(plan.code.toLowerCase())) tell(null, 'The code stands twice in the file. Each plan stands once.')
    seen.add(plan.code.toLowerCase())
    if (!/^[\p{L}\p{N}][\p{L}\p{N} ._/-]*$/u.test(plan.code)) tell(null, 'A code has letters, digits, spaces and . _ / - only.')
    const lines: PlanLineInput[] = []
    plan.lines.forEach((line, i) => {
      const characteristicId = characteristics.get(line.characteristic.toLowerCase())
      if (characteristicId === undefined) tell(i, `There is no characteristic ${line.characteristic}. Import or define it first.`)
      const unknown = line.targets.filter(({ part }) => !parts.has(part.toLowerCase()))
      if (unknown.length > 0) tell(i, `There is no part ${unknown.map(({ part }) => part).join(', ')}.`)
      if (characteristicId === undefined || unknown.length > 0) return
      const { characteristic: _, ownLimits, targets, ...rest } = line
      const own = targets.map(({ part, ...limits }) => ({ partId: parts.get(part.toLowerCase()) as string, ...limits }))
      lines.push({ ...rest, characteristicId, detached: ownLimits, targets: own })
    })
    if (lines.length < plan.lines.length) continue
    try {
      await checkLines(work, lines)
    } catch (error) {
      if (!(error instanceof CoreError) && !(error instanceof ServerError)) throw error
      tell(null, error.message)
      continue
    }
    outcomes.push(await planned(work, plan, lines, changes))
  }
  if (!isTrial && problems.length > 0)
    throw new ServerError('import_has_errors', `${problems[0]?.where}: ${problems[0]?.message}`, { problems: problems.slice(0, 50) })
  const reply = { plans: outcomes, problems: problems.slice(0, 200) }
  if (isTrial || changes.length === 0) {
    work.nothingChanged()
    return { importId: null, ...reply }
  }
  const importId = work.newId()
  const brought: PlansBrought = { created: [], drafted: [], changed: [] }
  for (const change of changes) await change(brought)
  work.audit({ action: 'imported', subject: 'plans', subjectId: importId, after: brought })
  return { importId, ...reply }
}

/** What is to be done about one plan; the writing waits until all are known to be free of errors. */
async function planned(
  work: Work,
  { code, name, lines: fileLines }: FilePlan,
  lines: readonly PlanLineInput[],
  changes: ((brought: PlansBrought) => Promise<void>)[],
): Promise<PlanImport['plans'][number]> {
  const known = await planIdOf(work.manager, code)
  if (known === null) {
    changes.push(async (brought) => {
      const id = work.newId()
      await work.manager.insert(PlanEntity, { id, code, name, version: 1 })
      await insertPlanRevision(work, id, 1, lines)
      brought.created.push(id)
      work.audit({ action: 'imported', subject: 'plan', subjectId: id, after: { code, name, lines } })
    })
    return { code, name, lines: lines.length, outcome: 'created' }
  }
  const plan = await work.manager.findOneByOrFail(PlanEntity, { id: known })
  const latest = await work.manager.findOneOrFail(PlanRevisionEntity, { where: { planId: plan.id }, order: { revision: 'DESC' } })
  const before = await loadLines(work.manager, latest.id)
  const isSame = plan.name === name && sameFacts(before.map(fileLine), fileLines)
  if (isSame) return { code, name, lines: lines.length, outcome: 'unchanged' }
  changes.push(async (brought) => {
    const entry = { id: plan.id, version: plan.version + 1, name: plan.name }
    if (latest.state === 'draft') {
      await writeLines(work, latest.id, lines)
      brought.changed.push({ ...entry, revisionId: latest.id, lines: before })
    } else brought.drafted.push({ ...entry, revisionId: await insertPlanRevision(work, plan.id, latest.revision + 1, lines) })
    await work.manager.update(PlanEntity, { id: plan.id }, { name, version: plan.version + 1 })
    work.audit({ action: 'imported', subject: 'plan', subjectId: plan.id, before: { name: plan.name, lines: before }, after: { name, lines } })
  })
  return { code, name, lines: lines.length, outcome: 'revised' }
}

export function planExchangeRoutes(routes: Routes, kernel: Kernel): void {
  routes.stream(define.exportPlans, async (reader, { query, response }) => {
    const plans = await plansOf(reader, query.code)
    response.attachment(`${(query.code ?? 'plans').replaceAll(/[^\w.-]/g, '_')}.${query.format}`)
    if (query.format === 'json') {
      const file: PlanFile = { format: 'nemawashi-plans', version: 1, plans }
      response.type('application/json').send(`${JSON.stringify(file, null, 2)}\n`)
    } else await sendWorkbook(kernel, response, planSheetOf, plans.map(planSheetRows))
  })
  routes.read(define.getPlanSchema, async () => z.toJSONSchema(PlanFile, { io: 'input' }))
  routes.change(define.undoPlanImport, (work, { params }) => undoPlanImport(work, params.id))
  routes.change(define.importPlans, (work, { body }) => importPlans(work, body.name, Buffer.from(body.content, 'base64'), body.isTrial))
}
