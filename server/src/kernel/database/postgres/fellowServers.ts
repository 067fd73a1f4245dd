import { Client } from 'pg'
import type { Fellows, Word } from '../fellows'

/** The lock of whoever does for all servers of the plant what one of them does. It is the session's: it is free when the process is gone. */
export const leadLock = 4723
const channel = 'nemawashi'
/** What is told has to fit into a notification of the database. */
const longestWord = 7_000

/**
 * A server whose machine vanished without a word is noticed by the database within seconds, and what it held is free: by what it does not answer
 * while nothing is said, and by what was said to it and never taken.
 */
const noticesLoss = 'SET tcp_keepalives_idle = 2; SET tcp_keepalives_interval = 1; SET tcp_keepalives_count = 2; SET tcp_user_timeout = 4000'

/** The servers of one plant, by the database that they share: one of them holds a lock, and what one tells the others hear. */
export class FellowServers implements Fellows {
  private client: Promise<Client> | null = null
  private hasLock = false
  private isClosed = false
  private readonly listeners: ((word: Word) => void)[] = []

  constructor(private readonly address: string) {}

  async leads(): Promise<boolean> {
    if (this.isClosed) return false
    try {
      const client = await this.connected()
      // A lock that is held is asked about, too: only a connection that answers still holds it.
      const sql = this.hasLock ? 'SELECT TRUE AS has' : `SELECT pg_try_advisory_lock(${leadLock}) AS has`
      this.hasLock = (await client.query<{ has: boolean }>(sql)).rows[0]?.has === true
    } catch {
      this.forget()
    }
    return this.hasLock
  }

  tell(word: Word): void {
    const text = JSON.stringify(word)
    if (this.isClosed || text.length > longestWord) return
    void this.connected()
      .then((client) => client.query('SELECT pg_notify($1, $2)', [channel, text]))
      .catch(() => this.forget())
  }

  onTold(listen: (word: Word) => void): void {
    this.listeners.push(listen)
    if (!this.isClosed) void this.connected().catch(() => this.forget())
  }

  async close(): Promise<void> {
    this.isClosed = true
    const client = this.client
    this.forget()
    await client?.then((client) => client.end()).catch(() => undefined)
  }

  /** One connection for all of it; a lost one is made anew when it is needed next, and what it held is gone with it. */
  private connected(): Promise<Client> {
    this.client ??= this.connect()
    return this.client
  }

  private async connect(): Promise<Client> {
    const client = new Client({ connectionString: this.address, keepAlive: true, connectionTimeoutMillis: 5_000, query_timeout: 5_000 })
    client.on('error', () => this.forget())
    client.on('end', () => this.forget())
    client.on('notification', ({ payload, processId }) => {
      if (processId === (client as unknown as { processID: number }).processID) return
      const word = JSON.parse(payload ?? '{}') as Word
      for (const listen of this.listeners) listen(word)
    })
    await client.connect()
    await client.query(noticesLoss)
    await client.query(`LISTEN ${channel}`)
    return client
  }

  private forget(): void {
    this.client = null
    this.hasLock = false
  }
}
