import { hash, verify } from '@node-rs/argon2'

/** Argon2id with 19 MiB, two passes, one lane: the smallest setting of the OWASP password storage guidance. */
const usual = { memoryCost: 19_456, timeCost: 2, parallelism: 1 }
let options = usual

/** For tests of everything else, where dozens of people come in and nobody guesses. A hash says what it cost, and costs as much to check. */
export function hashCheaply(isCheap = true): void {
  options = isCheap ? { memoryCost: 64, timeCost: 1, parallelism: 1 } : usual
}

export function hashPassword(password: string): Promise<string> {
  return hash(password, options)
}

/** Whether the password belongs to the hash. Takes as long for somebody unknown (no hash) as for somebody known. */
export async function isPassword(passwordHash: string | null, password: string): Promise<boolean> {
  if (passwordHash === null) {
    await hash(password, options)
    return false
  }
  return verify(passwordHash, password)
}
