import type { SignedHead } from '../kernel/audit/chainHead'
import type { HeavyTask } from '../kernel/threads/threadPool'
import { verifyPlant, type Verification } from '../kernel/verify/verifyPlant'

interface PlantToVerify {
  readonly address: string
  readonly key: Uint8Array
  readonly heads: readonly { readonly where: string; readonly head: SignedHead | 'damaged' }[]
}

/** Proves a plant from its own connection, away from those who work in it. */
export const verifyTask: HeavyTask<PlantToVerify, Verification> = {
  name: 'the verification',
  async run({ address, key, heads }, tell) {
    // The papers' threads need none of the tables.
    const { schema, verifications } = await import('./areas')
    return verifyPlant(address, schema, { key: Buffer.from(key), heads, also: verifications, tell })
  },
}
