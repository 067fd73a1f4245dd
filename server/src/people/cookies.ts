import type { Request } from 'express'

/**
 * What the cookies are called. Over HTTPS their names say to the browser what they must be (RFC 6265bis, 4.1.3): set by this host alone, over HTTPS,
 * so that nobody beside it on the network or under the same domain can put one in their place.
 */
export const sessionCookie = (isSecure: boolean): string => `${isSecure ? '__Host-' : ''}nemawashi_session`
/** It is for one address only, which `__Host-` does not allow. */
export const deviceCookie = (isSecure: boolean): string => `${isSecure ? '__Secure-' : ''}nemawashi_device`

/** What a cookie of this name holds; null where there is none. */
export function cookieOf(request: Request, name: string): string | null {
  const cookies = (request.headers.cookie ?? '').split(/;\s*/)
  const found = cookies.find((cookie) => cookie.startsWith(`${name}=`))?.slice(name.length + 1) ?? ''
  return /^[\w.-]+$/.test(found) ? found : null
}
