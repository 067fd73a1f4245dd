import type { IncomingMessage, ServerResponse } from 'node:http'
import express, { type Request, type Response } from 'express'
import { ServerError } from '../base/serverError'

const kB = 1024
/** A document arrives whole in its request, tables of characteristics and plans too; everything else is small. */
const large = ['/api/v1/documents', '/api/v1/library', '/api/v1/plan-exchange']
const maxDepth = 40

/** Brackets, commas and colons of JSON cost more than its letters: how many of them, and how deep, before it is read at all. */
function checkShape(most: number) {
  return (_request: IncomingMessage, _response: ServerResponse, bytes: Buffer): void => {
    let depth = 0
    let marks = 0
    let isText = false
    for (let at = 0; at < bytes.length; at++) {
      const byte = bytes[at]
      if (isText) {
        if (byte === 0x5c) at += 1
        else if (byte === 0x22) isText = false
        continue
      }
      if (byte === 0x22) isText = true
      else if (byte === 0x5b || byte === 0x7b) {
        depth += 1
        marks += 1
      } else if (byte === 0x5d || byte === 0x7d) depth -= 1
      else if (byte === 0x2c) marks += 1
      if (depth > maxDepth || marks > most) {
        throw new ServerError('json_invalid', `The body is nested deeper than ${maxDepth} levels or holds more than ${most} values.`, {
          maxDepth,
          most,
        })
      }
    }
  }
}

// Nothing is unpacked here: a few packed bytes can stand for very many.
const reader = (limit: number, most: number) => express.json({ limit, inflate: false, verify: checkShape(most) })
const readers = { open: reader(8 * kB, 100), usual: reader(512 * kB, 40_000), large: reader(16 * kB * kB, 1_000_000) }

/** Reads the body of a request, once it is known who sends it: who is not signed in may send little. */
export async function readBody(request: Request, response: Response, path: string, isSignedIn: boolean): Promise<void> {
  const read = !isSignedIn ? readers.open : large.some((begin) => path.startsWith(begin)) ? readers.large : readers.usual
  await new Promise<void>((resolve, reject) => read(request, response, (error?: unknown) => (error ? reject(error as Error) : resolve())))
}
