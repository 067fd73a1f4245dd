import { createServer, type AddressInfo, type Socket } from 'node:net'
import { longestInstrumentLine, readInstrumentLine } from '@nemawashi/core'
import type { BenchEvents, SentAnswer } from '@nemawashi/contract'
import type { Door } from '../kernel/area'
import { errorReply } from '../kernel/base/serverError'
import type { Kernel } from '../kernel/kernel'
import { callerOf, takeSent, topicOf, type Caller } from './instruments'

/** So many instruments at once; a plant has some tens. */
const mostConnections = 500
/** An instrument says every ten seconds that it is there; who says nothing for so long has gone. */
const silentMs = 60_000
/** So many lines may wait for their answers; more are read when those are given. */
const mostWaiting = 100

const outcomeWords = { heard: 'HEARD', unheard: 'UNHEARD', doubled: 'DOUBLED', known: 'KNOWN', refused: 'REFUSED' } as const

/** The answer to a value: `HEARD 17 I-000183`, `REFUSED 17 gauge_unfit MIC-11 is locked: …`. */
function answerLine({ outcome, sendId, inspectionCode, code, message }: SentAnswer): string {
  return [outcomeWords[outcome], sendId, inspectionCode, code, message.replaceAll(/\s+/g, ' ')].filter(Boolean).join(' ')
}

/** One instrument on its connection: lines in, one answer each, in order. */
function serve(kernel: Kernel, socket: Socket): void {
  let caller: Caller | null = null
  let rest = ''
  let answering = Promise.resolve()
  let waiting = 0
  const say = (line: string) => void (socket.writable && socket.write(`${line}\n`))
  async function answer(line: string): Promise<void> {
    try {
      const said = readInstrumentLine(line)
      if (said.kind === 'key') {
        caller = await callerOf(kernel, said.key)
        await takeSent(kernel, caller, [])
        return say(`OK ${caller.code}`)
      }
      if (said.kind === 'end') return void socket.end()
      if (caller === null) return say('REFUSED - instrument_unknown Send KEY and the key of the instrument first.')
      const [taken] = await takeSent(kernel, caller, said.kind === 'value' ? [said.sent] : [])
      say(taken ? answerLine(taken) : 'OK')
    } catch (error) {
      const { code, message } = errorReply(error, '').body.error
      say(`REFUSED - ${code} ${message.replaceAll(/\s+/g, ' ')}`)
      if (code === 'instrument_unknown') socket.end()
    }
  }
  function answered(): void {
    waiting -= 1
    if (waiting < mostWaiting) socket.resume()
  }
  socket.setEncoding('utf8')
  socket.setTimeout(silentMs, () => socket.destroy())
  socket.on('data', (text: string) => {
    const lines = (rest + text).split(/\r?\n/)
    rest = lines.pop() ?? ''
    for (const line of lines) {
      if (line.trim() === '') continue
      waiting += 1
      answering = answering.then(() => answer(line)).then(answered)
    }
    if (waiting >= mostWaiting) socket.pause()
    if (rest.length <= longestInstrumentLine) return
    rest = ''
    say(`REFUSED - line_not_understood A line has at most ${longestInstrumentLine} characters.`)
    socket.end()
  })
  socket.on('error', () => undefined)
  socket.on('close', () => {
    if (caller === null) return
    const { gaugeId } = caller
    kernel.openPages.note(topicOf(gaugeId), null, 'alive', { gaugeId, agoMs: null } satisfies BenchEvents['alive'])
  })
}

/** Listens for instruments that speak lines over TCP, where the configuration says a port. @throws {Error} where it cannot listen there. */
export async function openInstrumentDoor(kernel: Kernel): Promise<Door | null> {
  const { instrumentPort: port, host } = kernel.config
  if (port === null) return null
  const sockets = new Set<Socket>()
  const server = createServer((socket) => {
    sockets.add(socket)
    socket.on('close', () => sockets.delete(socket))
    serve(kernel, socket)
  })
  server.maxConnections = mostConnections
  await new Promise<void>((resolve, reject) => {
    server.once('error', (error) =>
      reject(new Error(`Instruments cannot connect at ${host}:${port}: ${error.message}. Choose another NEMAWASHI_INSTRUMENT_PORT.`)),
    )
    server.listen(port, host, resolve)
  })
  return {
    words: `Instruments connect at ${host}:${(server.address() as AddressInfo).port}`,
    close() {
      server.close()
      for (const socket of sockets) socket.destroy()
    },
  }
}
