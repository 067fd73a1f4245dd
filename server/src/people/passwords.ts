import { hash, verify } from '@node-rs/argon2'

/** Argon2id with 19 MiB, two passes, one lane: the smallest setting of the OWASP password storage guidance. */
const options = { memoryCost: 19_456, timeCost: 2, parallelism: 1 }

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
