import { dropExpired, dropIdle, dropSessions, noteSeen, sessionsOf } from './repository'
import { createHash, randomBytes } from 'node:crypto'
import type { OwnSession, Owed, Person } from '@nemawashi/contract'
import type { CookieOptions, Request, Response } from 'express'
import type { Database } from '../kernel/work/database'
import { cookieOf, sessionCookie } from './cookies'
import type { Identity } from '../kernel/work/identity'
import { PersonEntity, personOf, SessionEntity } from './entities'
import type { Clock, UnitOfWork, Work } from '../kernel/work/unitOfWork'

/** How long the key of another system is good for. */
const tokenHours = 366 * 24

function hashOf(token: string): string {
  return createHash('sha256').update(token).digest('hex')
}

/** A page says so, and a stream of events that is taken up anew. */
const isAskedByItself = (request: Request) => request.get('x-unattended') !== undefined || request.get('last-event-id') !== undefined

interface Known {
  readonly person: Person
  readonly createdAt: string
  readonly expiresAt: string
  owes: Owed | null
}

/** Who is signed in. The cookie holds a random token, the database only its hash; found sessions are remembered for speed. */
export class Sessions implements Identity {
  private readonly known = new Map<string, Known>()
  /** Who did something since that was last kept, and when. */
  private readonly seen = new Map<string, string>()
  private readonly cookie: CookieOptions
  private readonly cookieName: string

  constructor(
    private readonly database: Pick<Database, 'reader' | 'isAlone'>,
    private readonly clock: Clock,
    private readonly hours: number,
    private readonly idleMinutes: number,
    isSecure: boolean,
    private readonly owing: (person: Person) => Promise<Owed | null>,
  ) {
    this.cookie = { httpOnly: true, sameSite: 'strict', path: '/', secure: isSecure }
    this.cookieName = sessionCookie(isSecure)
  }

  /** The token of a browser's cookie, or the one that another system shows. */
  private tokenOf(request: Request): string | null {
    const shown = /^Bearer ([\w-]{20,})$/.exec(request.get('authorization') ?? '')
    return shown?.[1] ?? cookieOf(request, this.cookieName)
  }

  async personOf(request: Request): Promise<Person | null> {
    return (await this.sessionOf(request))?.person ?? null
  }

  async minutesSinceSignIn(request: Request): Promise<number | null> {
    const session = await this.sessionOf(request)
    return session && (this.clock.now().getTime() - Date.parse(session.createdAt)) / 60_000
  }

  async owedBy(request: Request): Promise<Owed | null> {
    const session = await this.sessionOf(request)
    if (!session) return null
    // Until it is done it is asked anew each time.
    if (session.owes !== null) session.owes = await this.owing(session.person)
    return session.owes
  }

  async isSignedIn(request: Request): Promise<boolean> {
    return (await this.sessionOf(request, true)) !== null
  }

  private async sessionOf(request: Request, isUnattended = isAskedByItself(request)): Promise<Known | null> {
    const token = this.tokenOf(request)
    if (token === null) return null
    const tokenHash = hashOf(token)
    const session = this.known.get(tokenHash) ?? (await this.load(tokenHash))
    if (!session) return null
    const now = this.clock.now().toISOString()
    // What a page asks by itself shows nobody at it.
    if (!isUnattended) this.seen.set(tokenHash, now)
    if (session.expiresAt > now) return session
    this.known.delete(tokenHash)
    return null
  }

  /** Opens a session inside the caller's transaction, in the place of the one that this browser had, and sets the cookie. */
  async open(work: Work, personId: string, request: Request, response: Response): Promise<void> {
    await this.end(work, this.tokenOf(request))
    const token = randomBytes(32).toString('base64url')
    // By the clock that it will be asked by, also where that is not believed yet: somebody has to come in to set it right.
    const expiresAt = new Date(this.clock.now().getTime() + this.hours * 3_600_000)
    await work.manager.insert(SessionEntity, {
      tokenHash: hashOf(token),
      personId,
      createdAt: work.now,
      expiresAt: expiresAt.toISOString(),
      agent: (request.get('user-agent') ?? '').slice(0, 200),
    })
    response.cookie(this.cookieName, token, { ...this.cookie, expires: expiresAt })
  }

  /** A key for another system, in the place of the one that it had. Gives it, once. */
  async give(work: Work, personId: string): Promise<{ token: string; expiresAt: string }> {
    await this.endAll(work, personId, null)
    const token = randomBytes(32).toString('base64url')
    const expiresAt = new Date(Date.parse(work.now) + tokenHours * 3_600_000).toISOString()
    await work.manager.insert(SessionEntity, { tokenHash: hashOf(token), personId, createdAt: work.now, expiresAt, agent: 'key of another system' })
    return { token, expiresAt }
  }

  /** Ends the session of this request. */
  async close(work: Work, request: Request, response: Response): Promise<void> {
    response.clearCookie(this.cookieName, this.cookie)
    await this.end(work, this.tokenOf(request))
  }

  /** The sessions of a person that have not run out, the newest first. */
  async ofPerson(personId: string, request: Request): Promise<OwnSession[]> {
    const own = this.tokenOf(request)
    const rows = await sessionsOf(this.database.reader, personId, this.clock.now().toISOString())
    return rows.map(({ tokenHash, ...row }) => ({ ...row, id: tokenHash, isThis: own !== null && hashOf(own) === tokenHash }))
  }

  /** Ends one session of this person; says whether there was one. */
  async endOne(work: Work, personId: string, id: string): Promise<boolean> {
    const found = (await work.manager.countBy(SessionEntity, { tokenHash: id, personId })) > 0
    this.known.delete(id)
    if (found) await work.manager.delete(SessionEntity, { tokenHash: id, personId })
    return found
  }

  /**
   * Ends every session of a person but the one of this request, where that is theirs: after a new password, when they may not come any more, or
   * when an administrator says so. Gives how many there were.
   */
  async endAll(work: Work, personId: string, exceptOf: Request | null): Promise<number> {
    const own = exceptOf === null ? null : this.tokenOf(exceptOf)
    const ended = await dropSessions(work.manager, personId, own === null ? '' : hashOf(own))
    this.forget()
    return ended
  }

  async tidy(work: UnitOfWork, now: Date): Promise<void> {
    const seen = [...this.seen]
    this.seen.clear()
    try {
      await work.run({ personId: null, key: null, content: '' }, async ({ manager, audit, nothingChanged }) => {
        for (const [tokenHash, at] of seen) await noteSeen(manager, tokenHash, at)
        const expired = await dropExpired(manager, now.toISOString())
        const idle = this.idleMinutes === 0 ? 0 : await dropIdle(manager, new Date(now.getTime() - this.idleMinutes * 60_000).toISOString())
        if (expired + idle === 0) return nothingChanged()
        audit({ action: 'tidied', subject: 'session', subjectId: '', after: { ended: expired + idle } })
      })
    } catch (error) {
      // It is kept the next time.
      for (const [tokenHash, at] of seen) if (!this.seen.has(tokenHash)) this.seen.set(tokenHash, at)
      throw error
    }
    this.forget()
  }

  /** After a person was changed: look them up anew. */
  forget(): void {
    this.known.clear()
  }

  private async end(work: Work, token: string | null): Promise<void> {
    if (token === null) return
    this.known.delete(hashOf(token))
    await work.manager.delete(SessionEntity, { tokenHash: hashOf(token) })
  }

  private async load(tokenHash: string): Promise<Known | null> {
    const row = await this.database.reader.findOneBy(SessionEntity, { tokenHash })
    const person = row && (await this.database.reader.findOneBy(PersonEntity, { id: row.personId }))
    if (!row || !person?.isActive) return null
    const session = { person: personOf(person), createdAt: row.createdAt, expiresAt: row.expiresAt, owes: await this.owing(personOf(person)) }
    // Where another process may end a session, each request asks anew.
    if (!this.database.isAlone) return session
    if (this.known.size > 10_000) this.known.clear()
    this.known.set(tokenHash, session)
    return session
  }
}
