import { Secret } from 'otpauth'
import { describe, expect, it } from 'vitest'
import { FactorKeys, newRecoveryCodes, newSecret, stepOf, uriOf } from './secondFactor'

/** RFC 6238, Appendix B: the secret of its SHA-1 rows, and the last six of the eight digits that it prints (six digits are the same number modulo 10^6). */
const published = new Secret({ buffer: new TextEncoder().encode('12345678901234567890').buffer }).base32
const rows: readonly [seconds: number, code: string][] = [
  [59, '287082'],
  [1_111_111_109, '081804'],
  [1_111_111_111, '050471'],
  [1_234_567_890, '005924'],
  [2_000_000_000, '279037'],
  [20_000_000_000, '353130'],
]
const at = (seconds: number) => new Date(seconds * 1000)

describe('a one-time code', () => {
  it.each(rows)('at %i s is the one of RFC 6238, and says which step of time it is of', (seconds, code) => {
    expect(stepOf(published, code, at(seconds))).toBe(Math.floor(seconds / 30))
    expect(stepOf(published, `${code.slice(0, 3)} ${code.slice(3)}`, at(seconds))).toBe(Math.floor(seconds / 30))
  })

  it('is taken half a minute early and late, and no longer; nothing else is a code', () => {
    const [, code] = rows[0] as [number, string]
    expect([0, 29, 30, 60, 89, 90, 150].map((seconds) => stepOf(published, code, at(seconds)))).toEqual([1, 1, 1, 1, 1, null, null])
    expect(['', '28708', '2870822', 'abcdef', '287083'].map((text) => stepOf(published, text, at(59)))).toEqual([null, null, null, null, null])
  })

  it('comes from a secret of 160 bits that no two people share', () => {
    const secrets = Array.from({ length: 50 }, newSecret)
    expect(new Set(secrets).size).toBe(50)
    expect(Secret.fromBase32(secrets[0] ?? '').bytes).toHaveLength(20)
    const uri = new URL(uriOf(published, 'rosa lind'))
    expect([uri.protocol, decodeURIComponent(uri.pathname), uri.searchParams.get('secret'), uri.searchParams.get('issuer')]).toEqual([
      'otpauth:',
      expect.stringContaining('Nemawashi:rosa lind'),
      published,
      'Nemawashi',
    ])
  })
})

describe('what is kept of it', () => {
  const keys = new FactorKeys(Buffer.alloc(32, 7))

  it('opens with the same key for the same person alone, and not once it was changed', () => {
    const sealed = keys.seal(published, 'rosa')
    expect(keys.open(sealed, 'rosa')).toBe(published)
    expect(sealed).not.toContain(published)
    expect(keys.seal(published, 'rosa')).not.toBe(sealed)
    const changed = Buffer.from(sealed, 'base64')
    changed[20] = (changed[20] ?? 0) ^ 1
    expect([
      keys.open(sealed, 'tomek'),
      new FactorKeys(Buffer.alloc(32, 8)).open(sealed, 'rosa'),
      keys.open(changed.toString('base64'), 'rosa'),
    ]).toEqual([null, null, null])
    expect(keys.open('', 'rosa')).toBeNull()
  })

  it('tells recovery codes however they are typed, each once', () => {
    const codes = newRecoveryCodes()
    expect(new Set(codes).size).toBe(10)
    expect(codes.every((code) => /^([0-9A-HJKMNP-TV-Z]{4}-){3}[0-9A-HJKMNP-TV-Z]{4}$/.test(code))).toBe(true)
    const kept = codes.map((code) => keys.mark(code))
    const left = keys.without(kept, ` ${codes[3]?.toLowerCase().replaceAll('-', ' ').replaceAll('0', 'o').replaceAll('1', 'l')} `)
    expect(left).toEqual(kept.filter((_, i) => i !== 3))
    expect(keys.without(left ?? [], codes[3] ?? '')).toBeNull()
    expect(kept.join().includes((codes[0] ?? '').replaceAll('-', ''))).toBe(false)
  })
})
