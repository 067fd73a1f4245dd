import { createHmac, randomBytes, timingSafeEqual } from 'node:crypto'
import { closeSync, existsSync, fsyncSync, mkdirSync, openSync, readFileSync, writeFileSync, writeSync } from 'node:fs'
import { dirname } from 'node:path'

/** The last entry of the audit chain as something outside the database says it. */
export interface Head {
  readonly seq: number
  readonly hash: string
}

export interface SignedHead extends Head {
  readonly at: string
  /** HMAC-SHA-256 over the rest, under a key that is not in the database. */
  readonly seal: string
}

/** The key that heads are sealed with, made at the first use and readable by this account only. */
export function chainKey(file: string): Buffer {
  if (!existsSync(file)) {
    mkdirSync(dirname(file), { recursive: true })
    writeFileSync(file, randomBytes(32).toString('hex'), { mode: 0o600, flag: 'wx' })
  }
  return Buffer.from(readFileSync(file, 'utf8').trim(), 'hex')
}

function sealOf(key: Buffer, { seq, hash }: Head, at: string): string {
  return createHmac('sha256', key).update(`${seq} ${hash} ${at}`).digest('hex')
}

export function signHead(key: Buffer, head: Head, at: string): SignedHead {
  return { ...head, at, seal: sealOf(key, head, at) }
}

export function isSealed(key: Buffer, head: SignedHead): boolean {
  const expected = Buffer.from(sealOf(key, head, head.at))
  const given = Buffer.from(head.seal)
  return expected.length === given.length && timingSafeEqual(expected, given)
}

const width = 320

/** One signed head of a text of JSON lines; null where the line is none. */
export function readHead(line: string): SignedHead | null {
  try {
    const { seq, hash, at, seal } = JSON.parse(line) as Partial<SignedHead>
    return typeof seq === 'number' && typeof hash === 'string' && typeof at === 'string' && typeof seal === 'string' ? { seq, hash, at, seal } : null
  } catch {
    return null
  }
}

/**
 * Says after each change, outside the database, how far the chain goes: a lost or rewritten end is noticed by it. Written over in
 * place before a change is acknowledged, so that it outlives the end of the process; not forced to the disk, which would cost a
 * second wait for each reading. Where it is behind the database after a power cut, nothing is wrong.
 */
export class HeadFile {
  private descriptor: number | null = null

  constructor(
    readonly file: string,
    private readonly key: Buffer,
  ) {}

  read(): SignedHead | 'damaged' | null {
    if (!existsSync(this.file)) return null
    return readHead(readFileSync(this.file, 'utf8')) ?? 'damaged'
  }

  write(head: Head, at: string): void {
    if (this.descriptor === null) {
      mkdirSync(dirname(this.file), { recursive: true })
      this.descriptor = openSync(this.file, existsSync(this.file) ? 'r+' : 'w+', 0o600)
    }
    writeSync(this.descriptor, `${JSON.stringify(signHead(this.key, head, at)).padEnd(width)}\n`, 0)
  }

  /** Begins with the file anew: what is open cannot be written. */
  forget(): void {
    if (this.descriptor === null) return
    try {
      closeSync(this.descriptor)
    } catch {
      // It is gone already.
    }
    this.descriptor = null
  }

  close(): void {
    if (this.descriptor === null) return
    fsyncSync(this.descriptor)
    closeSync(this.descriptor)
    this.descriptor = null
  }
}
