import type { Request, Response } from 'express'
import type { Identity } from '../work/identity'

/** So often a stream says that it is there, and looks whether who reads it is still signed in. */
const beatMs = 10_000

/**
 * Answers with server-sent events (HTML Standard, section 9.2) until the page goes away, its sign-in ends or the server does. Each event has an id, so
 * that a page which takes the stream up anew says so.
 */
export function eventStream(request: Request, response: Response, identity: Identity) {
  let id = 0
  response.writeHead(200, { 'Content-Type': 'text/event-stream', 'Cache-Control': 'no-store, no-transform', 'X-Accel-Buffering': 'no' })
  const send = (event: string, data: unknown) => void response.write(`id: ${++id}\nevent: ${event}\ndata: ${JSON.stringify(data)}\n\n`)
  const end = () => void response.end()
  const beat = setInterval(() => {
    response.write(': here\n\n')
    void identity.isSignedIn(request).then((isSignedIn) => isSignedIn || end(), end)
  }, beatMs)
  response.on('close', () => clearInterval(beat))
  return { send, end }
}
