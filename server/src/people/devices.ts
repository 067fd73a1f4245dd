import { createHmac, randomBytes, timingSafeEqual } from 'node:crypto'
import type { CookieOptions, Request, Response } from 'express'
import { cookieOf, deviceCookie } from './cookies'

const yearMs = 366 * 86_400_000

/**
 * Devices that somebody signed in on before: a cookie says so, sealed with the plant's key. It opens nothing; all it is good for is that the
 * failures of strangers, who guess at the same name elsewhere, keep nobody waiting here.
 */
export class Devices {
  private readonly cookie: CookieOptions
  private readonly cookieName: string

  constructor(
    private readonly key: Buffer,
    isSecure: boolean,
  ) {
    this.cookie = { httpOnly: true, sameSite: 'strict', path: '/api/v1/session', secure: isSecure, maxAge: yearMs }
    this.cookieName = deviceCookie(isSecure)
  }

  /** The number of the device that a person signed in on before; null where it is none, or another's. */
  of(request: Request, personId: string): string | null {
    const found = cookieOf(request, this.cookieName) ?? ''
    const [number = '', seal = ''] = found.split('.')
    const expected = Buffer.from(this.sealOf(number, personId))
    const given = Buffer.from(seal)
    return number !== '' && given.length === expected.length && timingSafeEqual(given, expected) ? number : null
  }

  /** Remembers the device of somebody who has just signed in. */
  remember(request: Request, response: Response, personId: string): void {
    const number = this.of(request, personId) ?? randomBytes(16).toString('base64url')
    response.cookie(this.cookieName, `${number}.${this.sealOf(number, personId)}`, this.cookie)
  }

  private sealOf(number: string, personId: string): string {
    return createHmac('sha256', this.key).update(`device ${number} ${personId}`).digest('base64url')
  }
}
