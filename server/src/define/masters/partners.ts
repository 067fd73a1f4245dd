import type { Partner } from '@nemawashi/contract'
import { ServerError } from '../../kernel/base/serverError'
import type { Work } from '../../kernel/work/unitOfWork'
import { PartnerEntity } from './entities'

/**
 * Refuses a partner that is not of this kind: goods come from suppliers and go to customers. Out of use, it takes part in nothing new.
 * @param isKept whether what names it may go on naming it though it is out of use: a rule, a control point
 * @throws {ServerError} `reference_unknown`.
 */
export async function requirePartner(work: Work, kind: Partner['kind'], id: string | null, field: string, isKept = false): Promise<void> {
  if (id === null) return
  const partner = await work.manager.findOneBy(PartnerEntity, { id })
  const refuse = (message: string) => {
    throw new ServerError('reference_unknown', message, { field, received: partner?.code ?? id })
  }
  if (!partner) return refuse(`The ${kind} ${id} does not exist.`)
  if (partner.kind !== kind) refuse(`${partner.name} is a ${partner.kind}, and no ${kind}.`)
  if (!partner.isActive && !isKept) refuse(`${partner.name} is out of use.`)
}
