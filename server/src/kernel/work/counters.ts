import type { Store } from './database'
import { ServerError } from '../base/serverError'
import { isTaken } from '../base/storage'
import { rowsOf } from '../database/rowsOf'

/** A running number as it was and as it is; it is new where nothing was numbered so before. */
interface Counted {
  readonly first: number
  last: number
  readonly isNew: boolean
}

/** Running numbers of one change: each is read once, counted on, and written back with the end of the change. */
export class Counters {
  private readonly values = new Map<string, Counted>()

  constructor(private readonly manager: Store) {}

  async next(prefix: string): Promise<string> {
    const known = this.values.get(prefix) ?? (await this.read(prefix))
    known.last += 1
    this.values.set(prefix, known)
    return codeOf(prefix, known.last)
  }

  private async read(name: string): Promise<Counted> {
    const [row] = await rowsOf(this.manager, { value: 'number' }, 'SELECT value FROM counter WHERE name = ?', [name])
    return { first: row?.value ?? 0, last: row?.value ?? 0, isNew: row === undefined }
  }

  /** Changes run one after another, so that nobody else has counted meanwhile. */
  async keep(): Promise<void> {
    for (const [name, { first, last, isNew }] of this.values)
      if (isNew) await this.manager.query('INSERT INTO counter (name, value) VALUES (?, ?)', [name, last])
      else if (last > first) await this.manager.query('UPDATE counter SET value = ? WHERE name = ?', [last, name])
  }

  /**
   * The refusal of a change whose new number something has already: then the count was set back past the server.
   * It is not counted on past what is taken; that would cover up what `verify` says. Null for any other error.
   */
  taken(error: unknown): ServerError | null {
    if (this.values.size === 0 || !isTaken(error, ['code', 'label'])) return null
    const numbers = [...this.values].map(([prefix, { first }]) => codeOf(prefix, first + 1))
    return new ServerError('number_taken', `A running number is given already: the next one would be ${numbers.join(' or ')}.`, { numbers })
  }
}

const codeOf = (prefix: string, number: number): string => `${prefix}-${String(number).padStart(6, '0')}`
