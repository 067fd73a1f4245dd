import { expect, it } from 'vitest'
import { hashCheaply, hashPassword, isPassword } from './passwords'

// OWASP Password Storage Cheat Sheet, Argon2id: "m=19456 (19 MiB), t=2, p=1". From memory.
it('a password is kept as Argon2id with the cost that OWASP asks for at least', async () => {
  hashCheaply(false)
  try {
    const kept = await hashPassword('a long enough one')
    expect(kept).toMatch(/^\$argon2id\$v=19\$m=19456,t=2,p=1\$/)
    expect([await isPassword(kept, 'a long enough one'), await isPassword(kept, 'another one'), await isPassword(null, 'any')]).toEqual([
      true,
      false,
      false,
    ])
  } finally {
    hashCheaply()
  }
})
