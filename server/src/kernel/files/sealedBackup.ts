import { closeSync, createReadStream, createWriteStream, openSync, readFileSync, readSync, renameSync, rmSync } from 'node:fs'
import { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import type { ReadableStream } from 'node:stream/web'

/*
 * Backups under a passphrase, in the open format of age (age-encryption.org/v1): scrypt, then ChaCha20-Poly1305 in pieces, so that a piece that was
 * changed, moved or cut off is noticed. Any tool of that format opens them, also when this program is gone.
 */

const firstWords = 'age-encryption.org/v1'
const minPassphraseLength = 12

/** The first line of a file: a passphrase on a command line is read by everybody on the machine. @throws {Error} */
export function passphraseIn(file: string): string {
  const [line = ''] = readFileSync(file, 'utf8').split(/\r?\n/)
  if (line.trim().length < minPassphraseLength)
    throw new Error(`The first line of ${file} has ${line.trim().length} characters. Write a passphrase of at least ${minPassphraseLength} there.`)
  return line.trim()
}

/** Whether a file is a backup under a passphrase. */
export function isSealedBackup(file: string): boolean {
  const start = Buffer.alloc(firstWords.length)
  const descriptor = openSync(file, 'r')
  try {
    readSync(descriptor, start, 0, start.length, 0)
  } finally {
    closeSync(descriptor)
  }
  return start.toString('latin1') === firstWords
}

async function pour(from: string, to: string, through: (stream: ReadableStream<Uint8Array>) => Promise<unknown>): Promise<void> {
  const half = `${to}.half`
  try {
    const poured = await through(Readable.toWeb(createReadStream(from)) as ReadableStream<Uint8Array>)
    await pipeline(Readable.fromWeb(poured as ReadableStream), createWriteStream(half, { mode: 0o600 }))
    renameSync(half, to)
  } finally {
    rmSync(half, { force: true })
  }
}

/**
 * Writes a file under a passphrase; whole or not at all.
 * @param work how dear a guess is, as the power of two that scrypt is given: 2^18 takes a second or two and 256 MiB
 */
export async function sealBackup(from: string, to: string, passphrase: string, work = 18): Promise<void> {
  const { Encrypter } = await import('age-encryption')
  const encrypter = new Encrypter()
  encrypter.setScryptWorkFactor(work)
  encrypter.setPassphrase(passphrase)
  return pour(from, to, (stream) => encrypter.encrypt(stream as never))
}

/** Writes what is in a file under a passphrase; whole or not at all. @throws {Error} where the passphrase is another one, or the file is not as it was written. */
export async function openBackup(from: string, to: string, passphrase: string): Promise<void> {
  const { Decrypter } = await import('age-encryption')
  const decrypter = new Decrypter()
  decrypter.addPassphrase(passphrase)
  try {
    await pour(from, to, (stream) => decrypter.decrypt(stream as never))
  } catch (error) {
    if ((error as { code?: string }).code !== undefined) throw error
    throw new Error(`${from} does not open: the passphrase is another one, or the file is not as it was written. Nothing was changed.`, {
      cause: error,
    })
  }
}
