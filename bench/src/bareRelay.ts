import { pragmas } from '@nemawashi/server'
import Database from 'better-sqlite3'
import { createServer, type ServerResponse } from 'node:http'
import { createServer as createDoor, type AddressInfo } from 'node:net'

/** The bare baseline: a line in, one prepared insert in its own transaction, an event out to the page of that instrument, nothing else. */
const database = new Database(process.argv[2] ?? '')
for (const pragma of pragmas) database.pragma(pragma)
database.exec('CREATE TABLE sent (id TEXT PRIMARY KEY, instrument TEXT, value TEXT, at TEXT)')
const insert = database.prepare('INSERT INTO sent VALUES (?,?,?,?)')
const pages = new Map<string, ServerResponse>()
const door = createDoor((socket) => {
  let name = ''
  let rest = ''
  socket.setEncoding('utf8')
  socket.on('error', () => undefined)
  socket.on('data', (text: string) => {
    const lines = (rest + text).split('\n')
    rest = lines.pop() ?? ''
    for (const line of lines) {
      const [word, id = '', value = ''] = line.split(' ')
      if (word === 'KEY') name = id
      if (word !== 'VALUE') continue
      database.exec('BEGIN')
      insert.run(`${name} ${id}`, name, value, new Date().toISOString())
      database.exec('COMMIT')
      pages.get(name)?.write(`event: value\ndata: ${JSON.stringify({ value })}\n\n`)
      socket.write(`HEARD ${id}\n`)
    }
  })
})
door.listen(0, '127.0.0.1', () => {
  const server = createServer((request, response) => {
    response.writeHead(200, { 'Content-Type': 'text/event-stream' })
    response.write(': here\n\n')
    pages.set((request.url ?? '').slice(1), response)
  })
  server.listen(0, '127.0.0.1', () =>
    process.stdout.write(
      `Instruments connect at 127.0.0.1:${(door.address() as AddressInfo).port}\nready at http://127.0.0.1:${(server.address() as AddressInfo).port}\n`,
    ),
  )
})
