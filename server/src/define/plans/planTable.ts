import { describeSamplingRule } from '@nemawashi/core'
import { planColumns, PlanFile, unseenIn, unseenWords, type PlanImport } from '@nemawashi/contract'
import { ServerError } from '../../kernel/base/serverError'
import { readTable } from '../library/readTable'

export type FilePlan = PlanFile['plans'][number]
type Problem = PlanImport['problems'][number]

const wide = new Set<string>(['name', 'samplingWords', 'instruction'])
/** Plans as a sheet of texts, one row a line; a plan without a line still has its row. */
export const planSheetOf = { name: 'plans', columns: planColumns.map((key) => ({ key, width: wide.has(key) ? 34 : 15 })) }

export function planSheetRows({ code, name, lines }: FilePlan): string[][] {
  const inOrder = (cells: Readonly<Partial<Record<(typeof planColumns)[number], string>>>) => planColumns.map((column) => cells[column] ?? '')
  if (lines.length === 0) return [inOrder({ plan: code, name })]
  return lines.map((line) =>
    inOrder({
      plan: code,
      name,
      characteristic: line.characteristic,
      samplingWords: describeSamplingRule(line.sampling),
      sampling: JSON.stringify(line.sampling),
      required: line.isRequired ? 'yes' : 'no',
      decisive: line.isDecisive ? 'yes' : 'no',
      stage: line.stage,
      instruction: line.instruction,
      ownLimits: line.ownLimits === null ? '' : JSON.stringify(line.ownLimits),
      targets: line.targets.length === 0 ? '' : JSON.stringify(line.targets),
    }),
  )
}

const yesNo = (text: string, otherwise: boolean) => {
  if (text === '') return otherwise
  if (/^(yes|true|1)$/i.test(text)) return true
  if (/^(no|false|0)$/i.test(text)) return false
  throw new Error(`Received "${text}". Write yes or no.`)
}
const json = (text: string, otherwise: unknown): unknown => {
  if (text === '') return otherwise
  try {
    return JSON.parse(text)
  } catch {
    throw new Error(`Received "${text.slice(0, 60)}", which is not JSON. Export a plan to see how the cell is written.`)
  }
}

/** Rows of a table as plans, in the order of their first rows; every problem is told by its row and column. */
async function plansOfTable(name: string, content: Buffer): Promise<{ plans: unknown[]; problems: Problem[] }> {
  const { columns, rows, problems: cells } = await readTable(name, content)
  const problems: Problem[] = cells
    .filter(({ isError }) => isError)
    .map(({ row, column, message }) => ({ where: `row ${row}, ${columns[column] ?? ''}`, message }))
  const missing = ['plan', 'characteristic', 'sampling'].filter((column) => !columns.includes(column))
  if (missing.length > 0)
    return {
      plans: [],
      problems: [{ where: 'row of heads', message: `Columns are missing: ${missing.join(', ')}. Export a plan to see the columns.` }],
    }
  const plans = new Map<string, { code: string; name: string; lines: unknown[] }>()
  rows.forEach((cellsOf, i) => {
    const cell = (column: (typeof planColumns)[number]) => cellsOf[columns.indexOf(column)] ?? ''
    const code = cell('plan')
    const plan = plans.get(code) ?? { code, name: cell('name') || code, lines: [] }
    plans.set(code, plan)
    if (cell('characteristic') === '' && cell('sampling') === '') return
    const read = <T>(column: (typeof planColumns)[number], reading: (text: string) => T): T | undefined => {
      try {
        return reading(cell(column))
      } catch (error) {
        problems.push({ where: `row ${i + 1}, ${column}`, message: error instanceof Error ? error.message : String(error) })
        return undefined
      }
    }
    plan.lines.push({
      characteristic: cell('characteristic'),
      sampling: read('sampling', (text) => json(text, undefined)),
      isRequired: read('required', (text) => yesNo(text, true)),
      isDecisive: read('decisive', (text) => yesNo(text, false)),
      stage: cell('stage'),
      instruction: cell('instruction'),
      ownLimits: read('ownLimits', (text) => json(text, null)),
      targets: read('targets', (text) => json(text, [])),
    })
  })
  return { plans: [...plans.values()], problems }
}

/** What a file holds, and what in it cannot be understood. */
export async function readPlans(name: string, content: Buffer): Promise<{ plans: FilePlan[]; problems: Problem[] }> {
  const isJson = /^\uFEFF?\s*\{/.test(content.subarray(0, 64).toString('utf8'))
  let file: unknown
  let problems: Problem[] = []
  if (isJson) {
    try {
      file = JSON.parse(content.toString('utf8').replace(/^\uFEFF/, ''))
    } catch (error) {
      throw new ServerError('table_unreadable', `The file begins like JSON, but is not: ${error instanceof Error ? error.message : ''}.`, {
        field: 'file',
      })
    }
  } else {
    const table = await plansOfTable(name, content)
    problems = table.problems
    if (problems.length > 0) return { plans: [], problems }
    file = { format: 'nemawashi-plans', version: 1, plans: table.plans }
  }
  const parsed = PlanFile.safeParse(file)
  const unseen = unseenIn(file)
  if (unseen !== null) return { plans: [], problems: [{ where: whereOf(unseen.path, file as { plans?: FilePlan[] }), message: unseenWords(unseen) }] }
  if (parsed.success) return { plans: parsed.data.plans, problems }
  return {
    plans: [],
    problems: parsed.error.issues.slice(0, 100).map(({ path, message }) => ({ where: whereOf(path, file as { plans?: FilePlan[] }), message })),
  }
}

/** `plan RP-1, line 2, sampling`: a path in the file as somebody would say it. */
function whereOf(path: readonly PropertyKey[], file: { readonly plans?: readonly FilePlan[] }): string {
  const [first, plan, , line, ...rest] = path
  if (first !== 'plans' || typeof plan !== 'number') return path.length === 0 ? 'file' : path.join('.')
  const parts = [`plan ${file.plans?.[plan]?.code ?? plan + 1}`]
  if (typeof line === 'number') parts.push(`line ${line + 1}`)
  else if (path[2] !== undefined) parts.push(String(path[2]))
  if (rest.length > 0) parts.push(rest.join('.'))
  return parts.join(', ')
}
