import { FeedEventInput, placeWords, unseenIn, unseenWords } from '@nemawashi/contract'
import Papa from 'papaparse'
import { z } from 'zod'

/** A file that could not be read: nothing of it was taken. */
export class Unreadable extends Error {
  override readonly name = 'Unreadable'
}

/** As people write a quantity: digits, decimals behind a point, and nothing that a machine would read as another number. */
const quantityText = z
  .string()
  .trim()
  .regex(/^\d{1,12}(\.\d{1,3})?$/, 'is no number written in digits, with a point before decimals')
  .transform(Number)

const Row = z.object({
  key: z.string().trim().min(1, 'is empty'),
  supplier: z.string().trim(),
  orderNumber: z.string().trim(),
  part: z.string().trim(),
  supplierLot: z.string().trim(),
  quantity: quantityText,
  container: z.string().trim().default(''),
  containerQuantity: z.union([z.literal(''), quantityText]).default(''),
  serial: z.string().trim().default(''),
})
type Row = z.output<typeof Row>

function problemsOf(error: z.ZodError): string {
  return error.issues
    .slice(0, 5)
    .map(({ path, message }) => `${placeWords(path)}: ${message}`)
    .join('; ')
}

interface Line {
  readonly part: string
  readonly supplierLot: string
  readonly quantity: number
  readonly containers: { label: string | null; quantity: number }[]
  readonly serials: string[]
}

/** Rows of one thing say the same of it: nobody knows which of them would be right. @throws {Unreadable} */
function requireAlike<K extends string>(what: string, rows: readonly Readonly<Record<K, unknown>>[], columns: readonly K[]): void {
  for (const column of columns) {
    const said = [...new Set(rows.map((row) => row[column]))]
    if (said.length > 1) throw new Unreadable(`The rows of ${what} disagree: ${column} is ${said.map(String).join(' and ')}.`)
  }
}

/** Deliveries of a table: rows with the same key are one, rows of the same lot in it one line with a container or a serial number each. */
function deliveriesOf(text: string): unknown[] {
  const { data, errors } = Papa.parse<Record<string, string>>(text, { header: true, skipEmptyLines: true, transformHeader: (name) => name.trim() })
  // A table of one column has no separator to find; it lacks the columns below, and is told so there.
  const [wrong] = errors.filter(({ code }) => code !== 'UndetectableDelimiter')
  if (wrong) throw new Unreadable(`Row ${(wrong.row ?? 0) + 2}: ${wrong.message}.`)
  const byKey = new Map<string, Row[]>()
  for (const [i, cells] of data.entries()) {
    const row = Row.safeParse(cells)
    if (!row.success) throw new Unreadable(`Row ${i + 2}: ${problemsOf(row.error)}. The columns are ${Object.keys(Row.shape).join(', ')}.`)
    byKey.set(row.data.key, [...(byKey.get(row.data.key) ?? []), row.data])
  }
  return [...byKey].map(([key, rows]) => {
    const lines = new Map<string, Line>()
    requireAlike(key, rows, ['supplier', 'orderNumber'])
    for (const { part, supplierLot, quantity, container, containerQuantity, serial } of rows) {
      const id = `${part} ${supplierLot}`
      const line = lines.get(id) ?? { part, supplierLot, quantity, containers: [], serials: [] }
      requireAlike(`${key}, ${part} ${supplierLot}`, [line, { quantity }], ['quantity'])
      if (serial !== '') line.serials.push(serial)
      if (container !== '' || containerQuantity !== '')
        line.containers.push({
          label: container === '' ? null : container,
          quantity: containerQuantity === '' ? quantity : containerQuantity,
        })
      lines.set(id, line)
    }
    const { supplier = '', orderNumber = '' } = rows[0] ?? {}
    return { key, kind: 'delivery', body: { supplier, orderNumber, lines: [...lines.values()] } }
  })
}

function parsed(text: string): unknown[] {
  try {
    const content = JSON.parse(text) as unknown
    const events = Array.isArray(content) ? content : (content as { events?: unknown } | null)?.events
    if (Array.isArray(events)) return events
  } catch (error) {
    throw new Unreadable(`It is no JSON: ${error instanceof Error ? error.message : String(error)}.`)
  }
  throw new Unreadable('It is neither a list of events nor { "events": [ … ] }.')
}

/**
 * The events of a file that was dropped: JSON as the feed takes it, or a table of deliveries as CSV.
 * @throws {Unreadable} with what is wrong; nothing of such a file is taken, as nobody knows what is missing of it.
 */
export function eventsIn(name: string, text: string): FeedEventInput[] {
  const found = name.toLowerCase().endsWith('.csv') ? deliveriesOf(text) : parsed(text)
  if (found.length === 0) throw new Unreadable('There is no event in it.')
  const events = z.array(FeedEventInput).safeParse(found)
  if (!events.success) throw new Unreadable(`${problemsOf(events.error)}.`)
  const unseen = unseenIn(events.data)
  if (unseen !== null) throw new Unreadable(`Event ${Number(unseen.path[0]) + 1}, ${placeWords(unseen.path.slice(1))}: ${unseenWords(unseen)}.`)
  return events.data
}
