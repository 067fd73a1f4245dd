import { pragmas } from '@nemawashi/server'
import Database from 'better-sqlite3'
import express from 'express'
import type { AddressInfo } from 'node:net'

/** The bare baseline: one handler, one prepared insert in its own transaction, the same pragmas, nothing else. */
const database = new Database(process.argv[2] ?? '')
for (const pragma of pragmas) database.pragma(pragma)
database.exec(
  'CREATE TABLE reading (id TEXT PRIMARY KEY, inspectionId TEXT, lineId TEXT, piece INTEGER, correction INTEGER, value TEXT, mark TEXT, isConfirmedOutside INTEGER, typedAt TEXT, at TEXT, personId TEXT)',
)
const insert = database.prepare('INSERT INTO reading VALUES (?,?,?,?,?,?,?,?,?,?,?)')
const app = express()
app.post('/reading', express.json(), (request, response) => {
  const { id, inspectionId, lineId, piece, value, typedAt } = request.body as Record<string, string | number>
  database.exec('BEGIN')
  insert.run(id, inspectionId, lineId, piece, 0, value, 'conforming', 0, typedAt, typedAt, 'p')
  database.exec('COMMIT')
  response.json({ id })
})
const server = app.listen(0, '127.0.0.1', () => process.stdout.write(`ready at http://127.0.0.1:${(server.address() as AddressInfo).port}\n`))
