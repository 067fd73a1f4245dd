// The small page of a stand-in: what it is asked over HTTP, and its own file beside this one.
import { createServer } from 'node:http'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'

/** The text of a request. */
export function textOf(request) {
  return new Promise((resolve) => {
    let text = ''
    request.on('data', (chunk) => (text += chunk))
    request.on('end', () => resolve(text))
  })
}

export const json = (response, status, body) => response.writeHead(status, { 'Content-Type': 'application/json' }).end(JSON.stringify(body))

const fileOf = (name, type) => (_request, response) =>
  response.writeHead(200, { 'Content-Type': `${type}; charset=utf-8` }).end(readFileSync(join(import.meta.dirname, name)))

/** Answers on this machine alone; `answers` by method and path. Says where it is once it is there. */
export function serve(answers, { file, port, words }) {
  const all = { 'GET /': fileOf(file, 'text/html'), 'GET /page.css': fileOf('page.css', 'text/css'), ...answers }
  const server = createServer((request, response) => {
    const answer = all[`${request.method} ${new URL(request.url, 'http://x').pathname}`]
    if (answer) Promise.resolve(answer(request, response)).catch((error) => json(response, 500, { error: error.message }))
    else json(response, 404, { error: 'There is no such page.' })
  })
  server.listen(Number(port), '127.0.0.1', () => console.log(`${words} at http://127.0.0.1:${server.address().port}`))
}
