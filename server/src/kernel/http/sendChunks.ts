import { once } from 'node:events'
import { setImmediate } from 'node:timers/promises'
import type { Response } from 'express'

/**
 * Sends a long text piece by piece, no faster than it is taken, and lets others have their turn after each. Ends early where the asker has
 * gone. What fails before the first piece has sent nothing.
 */
export async function sendChunks(response: Response, chunks: AsyncIterable<string> | Iterable<string>): Promise<void> {
  for await (const chunk of chunks) {
    if (response.closed) return
    if (!response.write(chunk)) await Promise.race([once(response, 'drain'), once(response, 'close')])
    await setImmediate()
  }
  response.end()
}
