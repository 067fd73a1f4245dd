import { type ReadingInput, record } from '@nemawashi/contract'
import { openDB, type DBSchema } from 'idb'
import { ref } from 'vue'
import { asFailure, call } from '../../shell/api'
import { useSession } from '../../shell/session'
import { Outbox, type OutboxStore, type WaitingReading } from '../entry/outbox'

interface Schema extends DBSchema {
  readings: { key: string; value: WaitingReading }
}

function browserStore(): OutboxStore {
  const opened = openDB<Schema>('nemawashi-bench', 1, { upgrade: (database) => void database.createObjectStore('readings', { keyPath: 'id' }) })
  return {
    put: async (reading) => void (await (await opened).put('readings', reading)),
    remove: async (ids) => {
      const transaction = (await opened).transaction('readings', 'readwrite')
      await Promise.all([...ids.map((id) => transaction.store.delete(id)), transaction.done])
    },
    all: async () => (await opened).getAll('readings'),
  }
}

/** Of everything that waits; an error within the server is of what was sent. */
const ofAll = new Set(['unreachable', 'signed_out', 'person_changed', 'storage_failed', 'storage_busy'])
const retryMs = 2000

/** Counts up whenever the outbox changes, so that pages follow. */
export const outboxTick = ref(0)
/** Called after readings were stored, with the inspection's new version, before they leave the outbox. */
export const storedListeners = new Set<(inspectionId: string, version: number, readings: readonly ReadingInput[]) => void>()

export const benchOutbox = new Outbox(
  browserStore(),
  async (inspectionId, readings, personId) => {
    try {
      const { version } = await call(record.recordReadings, { params: { id: inspectionId }, body: { readings: [...readings] } }, { personId })
      for (const listener of storedListeners) listener(inspectionId, version, readings)
      return null
    } catch (error) {
      const { code, message, facts } = asFailure(error)
      const isTemporary = ofAll.has(code) ? 'all' : code === 'internal' ? 'this' : false
      return { isTemporary, message, readingId: typeof facts['readingId'] === 'string' ? facts['readingId'] : null }
    }
  },
  () => {
    outboxTick.value += 1
    if (benchOutbox.isUnreachable) scheduleRetry()
  },
  () => useSession().person?.id ?? null,
)

let retry = 0
function scheduleRetry(): void {
  window.clearTimeout(retry)
  retry = window.setTimeout(() => void benchOutbox.flush(), retryMs)
}
window.addEventListener('online', () => void benchOutbox.flush())

let restored: Promise<void> | null = null
/** Loads what an earlier visit left, once, and begins to send what is of the person who is signed in now. */
export async function restoreOutbox(): Promise<void> {
  await (restored ??= benchOutbox.restore())
  void benchOutbox.flush()
}
