import { createHash, randomBytes } from 'node:crypto'
import type { Person } from '@nemawashi/contract'
import type { CookieOptions, Request, Response } from 'express'
import type { DataSource } from 'typeorm'
import { PersonEntity, personOf } from '../people/entities'
import { SessionEntity } from './entities'
import type { Clock, Work } from './unitOfWork'

const cookieName = 'nemawashi_session'
const cookie: CookieOptions = { httpOnly: true, sameSite: 'strict', path: '/' }

function hashOf(token: string): string {
  return createHash('sha256').update(token).digest('hex')
}

function tokenOf(request: Request): string | null {
  const found = /(?:^|;\s*)nemawashi_session=([\w-]+)/.exec(request.headers.cookie ?? '')
  return found?.[1] ?? null
}

/** Who is signed in. The cookie holds a random token, the database only its hash; found sessions are remembered for speed. */
export class Sessions {
  private readonly known = new Map<string, { person: Person; expiresAt: string }>()

  constructor(
    private readonly reader: DataSource,
    private readonly clock: Clock,
    private readonly hours: number,
  ) {}

  async personOf(request: Request): Promise<Person | null> {
    const token = tokenOf(request)
    if (token === null) return null
    const tokenHash = hashOf(token)
    const session = this.known.get(tokenHash) ?? (await this.load(tokenHash))
    if (!session) return null
    if (session.expiresAt > this.clock.now().toISOString()) return session.person
    this.known.delete(tokenHash)
    return null
  }

  /** Opens a session inside the caller's transaction and sets the cookie. */
  async open(work: Work, personId: string, response: Response): Promise<void> {
    const token = randomBytes(32).toString('base64url')
    const expiresAt = new Date(Date.parse(work.now) + this.hours * 3_600_000)
    await work.manager.insert(SessionEntity, { tokenHash: hashOf(token), personId, createdAt: work.now, expiresAt: expiresAt.toISOString() })
    response.cookie(cookieName, token, { ...cookie, expires: expiresAt })
  }

  /** Ends the session of this request. */
  async close(work: Work, request: Request, response: Response): Promise<void> {
    const token = tokenOf(request)
    response.clearCookie(cookieName, cookie)
    if (token === null) return
    this.known.delete(hashOf(token))
    await work.manager.delete(SessionEntity, { tokenHash: hashOf(token) })
  }

  /** After a person was changed: look them up anew. */
  forget(): void {
    this.known.clear()
  }

  private async load(tokenHash: string): Promise<{ person: Person; expiresAt: string } | null> {
    const row = await this.reader.manager.findOneBy(SessionEntity, { tokenHash })
    const person = row && (await this.reader.manager.findOneBy(PersonEntity, { id: row.personId }))
    if (!row || !person?.isActive) return null
    const session = { person: personOf(person), expiresAt: row.expiresAt }
    if (this.known.size > 10_000) this.known.clear()
    this.known.set(tokenHash, session)
    return session
  }
}
