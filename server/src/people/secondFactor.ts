import { createCipheriv, createDecipheriv, createHmac, hkdfSync, randomBytes, randomInt, timingSafeEqual } from 'node:crypto'
import { Secret, TOTP } from 'otpauth'

/** What every app that shows one-time codes knows: six digits, a new one each 30 s, SHA-1. Source: RFC 6238; the defaults of its appendix. */
const kind = { algorithm: 'SHA1', digits: 6, period: 30 } as const
/** Clocks of people's telephones go a little wrong: the code before and the one after are taken, too. Source: RFC 6238, 5.2. */
const stepsBeside = 1

const letters = '0123456789ABCDEFGHJKMNPQRSTVWXYZ'
const groups = 4
const groupLength = 4
export const recoveryCount = 10

/** A new secret of 160 bits, as long as the hash. Source: RFC 4226, 4 R6. */
export const newSecret = (): string => new Secret({ size: 20 }).base32

/** What the app reads from the picture: whose secret it is, and where it is for. */
export const uriOf = (secret: string, label: string): string => new TOTP({ ...kind, issuer: 'Nemawashi', label, secret }).toString()

/** The step of time whose code this is, at an instant; null for none near it. Each step is good once: the caller keeps the last one. */
export function stepOf(secret: string, code: string, at: Date): number | null {
  const token = code.replaceAll(/\s/g, '')
  if (!/^\d{6}$/.test(token)) return null
  const delta = new TOTP({ ...kind, secret }).validate({ token, timestamp: at.getTime(), window: stepsBeside })
  return delta === null ? null : Math.floor(at.getTime() / 1000 / kind.period) + delta
}

/** Codes for whoever has no telephone left: 80 bits each, without letters that are read as another one. */
export const newRecoveryCodes = (): string[] =>
  Array.from({ length: recoveryCount }, () =>
    Array.from({ length: groups }, () => Array.from({ length: groupLength }, () => letters[randomInt(letters.length)]).join('')).join('-'),
  )

/**
 * What of second factors is kept, under keys that are derived from the plant's own: it is in no database, and who reads the database alone can
 * neither show a code nor use up a recovery code.
 */
export class FactorKeys {
  private readonly sealing: Buffer
  private readonly marking: Buffer

  constructor(chainKey: Buffer) {
    const derived = (use: string) => Buffer.from(hkdfSync('sha256', chainKey, '', `nemawashi second factor ${use}`, 32))
    this.sealing = derived('secret')
    this.marking = derived('recovery')
  }

  /** The secret as it is kept, bound to the person: copied to somebody else's row it opens nothing. */
  seal(secret: string, personId: string): string {
    const nonce = randomBytes(12)
    const cipher = createCipheriv('aes-256-gcm', this.sealing, nonce).setAAD(Buffer.from(personId))
    return Buffer.concat([nonce, cipher.update(secret, 'utf8'), cipher.final(), cipher.getAuthTag()]).toString('base64')
  }

  /** Null where another key sealed it, for another person, or nobody did. */
  open(sealed: string, personId: string): string | null {
    const bytes = Buffer.from(sealed, 'base64')
    try {
      const cipher = createDecipheriv('aes-256-gcm', this.sealing, bytes.subarray(0, 12)).setAAD(Buffer.from(personId))
      cipher.setAuthTag(bytes.subarray(-16))
      return Buffer.concat([cipher.update(bytes.subarray(12, -16)), cipher.final()]).toString('utf8')
    } catch {
      return null
    }
  }

  /** A recovery code as it is kept. Blanks, dashes and case make no difference, nor O for 0 and I or L for 1. */
  mark(code: string): string {
    const plain = code.toUpperCase().replaceAll(/[\s-]/g, '').replaceAll('O', '0').replaceAll(/[IL]/g, '1')
    return createHmac('sha256', this.marking).update(plain).digest('hex')
  }

  /** The kept recovery codes without this one; null where it is none of them. */
  without(kept: readonly string[], code: string): string[] | null {
    const mark = Buffer.from(this.mark(code))
    const at = kept.findIndex((entry) => timingSafeEqual(Buffer.from(entry), mark))
    return at < 0 ? null : kept.filter((_, i) => i !== at)
  }
}
