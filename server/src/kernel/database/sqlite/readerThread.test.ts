import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import Sqlite from 'better-sqlite3'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { ReaderThreads } from './readerThread'

const folder = mkdtempSync(join(tmpdir(), 'nemawashi-test-'))
const file = join(folder, 'some.sqlite')
let thread: ReaderThreads
beforeAll(() => {
  const raw = new Sqlite(file)
  raw.exec('CREATE TABLE t (n INTEGER); INSERT INTO t VALUES (1), (2), (3)')
  raw.close()
  thread = new ReaderThreads(file)
})
afterAll(async () => {
  await thread.close()
  rmSync(folder, { recursive: true })
})

describe('long readings in a thread of their own', () => {
  it('are answered each to who asked, and do not hold up the others', async () => {
    const slow = thread.query('WITH RECURSIVE c(n) AS (SELECT 1 UNION ALL SELECT n + 1 FROM c WHERE n < 3000000) SELECT MAX(n) AS n FROM c')
    let turns = 0
    const turning = setInterval(() => (turns += 1), 5)
    const [long, short] = await Promise.all([slow, thread.query('SELECT n FROM t WHERE n > ? ORDER BY n', [1])])
    clearInterval(turning)
    expect([long, short]).toEqual([[{ n: 3_000_000 }], [{ n: 2 }, { n: 3 }]])
    expect(turns).toBeGreaterThan(5)
  })

  it('cannot write, and say what is wrong with a question', async () => {
    await expect(thread.query('DELETE FROM t')).rejects.toThrow(/readonly|does not return data/)
    expect(await thread.query("SELECT x'4142' AS some_bytes")).toEqual([{ someBytes: Buffer.from('AB') }])
    expect(await thread.rows("SELECT 'a' AS some_text")).toEqual([{ some_text: 'a' }])
    await expect(thread.query('SELECT missing')).rejects.toThrow(/no such column/)
    expect(await thread.query('SELECT COUNT(*) AS n FROM t')).toEqual([{ n: 3 }])
  })

  it('go on in a new thread after one has ended, and leave nobody waiting', async () => {
    const asked = expect(
      thread.query('WITH RECURSIVE c(n) AS (SELECT 1 UNION ALL SELECT n + 1 FROM c WHERE n < 5000000) SELECT MAX(n) FROM c'),
    ).rejects.toThrow(/has ended/)
    await thread.close()
    await asked
    expect(await thread.query('SELECT 1 AS n')).toEqual([{ n: 1 }])
  })
})
