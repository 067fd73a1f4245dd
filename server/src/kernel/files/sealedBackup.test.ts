import { randomBytes } from 'node:crypto'
import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { isSealedBackup, openBackup, passphraseIn, sealBackup } from './sealedBackup'

const passphrase = 'four odd words here'
const folder = mkdtempSync(join(tmpdir(), 'nemawashi-sealed-'))
const [plain, sealed, opened] = ['plain', 'sealed', 'opened'].map((name) => join(folder, name)) as [string, string, string]
/** Three pieces of the format, the last one not full. */
const content = randomBytes(150_000)

beforeAll(async () => {
  writeFileSync(plain, content)
  await sealBackup(plain, sealed, passphrase, 10)
})
afterAll(() => rmSync(folder, { recursive: true }))

describe('a backup under a passphrase', () => {
  it('shows nothing of what is in it, is for its owner alone, and opens with the passphrase', async () => {
    expect([isSealedBackup(sealed), isSealedBackup(plain)]).toEqual([true, false])
    expect(readFileSync(sealed).includes(content.subarray(70_000, 70_032))).toBe(false)
    expect(statSync(sealed).mode & 0o777).toBe(0o600)
    await openBackup(sealed, opened, passphrase)
    expect(readFileSync(opened).equals(content)).toBe(true)
    rmSync(opened)
  })

  it.each([
    ['another passphrase', (bytes: Buffer) => bytes, 'five odd words here'],
    ['a changed byte', (bytes: Buffer) => (bytes.writeUInt8((bytes.at(-40_000) ?? 0) ^ 1, bytes.length - 40_000), bytes), passphrase],
    ['its end cut off', (bytes: Buffer) => bytes.subarray(0, -30_000), passphrase],
    ['a whole piece cut off', (bytes: Buffer) => bytes.subarray(0, -(150_000 - 2 * 65_536) - 16), passphrase],
  ])('does not open with %s, and leaves nothing half written', async (_words, change, words) => {
    const other = join(folder, 'other')
    writeFileSync(other, change(Buffer.from(readFileSync(sealed))))
    await expect(openBackup(other, opened, words)).rejects.toThrow('does not open')
    expect([existsSync(opened), readdirSync(folder).filter((name) => name.includes('half'))]).toEqual([false, []])
  })

  it('asks for a passphrase that is worth it', () => {
    const file = join(folder, 'words')
    writeFileSync(file, `${passphrase}\nnot this\n`)
    expect(passphraseIn(file)).toBe(passphrase)
    writeFileSync(file, 'short\n')
    expect(() => passphraseIn(file)).toThrow('has 5 characters')
  })
})
