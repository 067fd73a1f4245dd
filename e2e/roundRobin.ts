import { createServer, request, type IncomingMessage, type ServerResponse } from 'node:http'
import type { AddressInfo } from 'node:net'

/** A small proxy in front of several servers, one after another; what does not answer is answered with 502, as a proxy in a plant would. */
export class RoundRobin {
  private turn = 0
  private readonly server = createServer((request, answer) => this.pass(request, answer))
  base = ''

  private constructor(private readonly targets: () => readonly string[]) {}

  static async before(targets: () => readonly string[]): Promise<RoundRobin> {
    const made = new RoundRobin(targets)
    made.server.listen(0, '127.0.0.1')
    await new Promise((resolve) => made.server.once('listening', resolve))
    made.base = `http://127.0.0.1:${(made.server.address() as AddressInfo).port}`
    return made
  }

  private pass(incoming: IncomingMessage, answer: ServerResponse): void {
    const targets = this.targets()
    const target = new URL(incoming.url ?? '/', targets[this.turn++ % targets.length])
    const headers = { ...incoming.headers, host: incoming.headers.host ?? target.host }
    const fail = () => {
      if (!answer.headersSent) answer.writeHead(502, { 'content-type': 'application/json' })
      answer.end('{}')
    }
    const onward = request(target, { method: incoming.method, headers, agent: false, timeout: 15_000 }, (got) => {
      answer.writeHead(got.statusCode ?? 502, got.headers)
      got.on('error', fail)
      got.pipe(answer)
    })
    onward.on('error', fail)
    onward.on('timeout', () => onward.destroy())
    incoming.pipe(onward)
  }

  close(): void {
    this.server.close()
    this.server.closeAllConnections()
  }
}
