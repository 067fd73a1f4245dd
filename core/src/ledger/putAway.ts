import { CoreError } from '../errors'
import type { Standing } from './standings'

/** When a rule is asked: as pieces arrive, whenever else they lie somewhere, or both. */
export const putAwayMoments = ['always', 'arrival', 'later'] as const
export type PutAwayMoment = (typeof putAwayMoments)[number]
export const putAwayMomentWords: Readonly<Record<PutAwayMoment, string>> = {
  always: 'whenever',
  arrival: 'when they arrive',
  later: 'once they are in the plant',
}

/** What a place is for. `outside` is where suppliers have back what was returned to them, `customer` where customers have what was sent. */
export const placePurposes = ['dock', 'inspection', 'store', 'quarantine', 'scrap', 'outside', 'production', 'shipping', 'customer'] as const
export type PlacePurpose = (typeof placePurposes)[number]
export const placePurposeWords: Readonly<Record<PlacePurpose, string>> = {
  dock: 'dock: where deliveries arrive',
  inspection: 'inspection: where pieces wait to be looked at',
  store: 'store: for what is released',
  quarantine: 'quarantine: for what is set aside',
  scrap: 'scrap: for what is scrapped',
  outside: 'outside: what suppliers have back',
  production: 'production: the line',
  shipping: 'shipping: the loading door',
  customer: 'customer: what customers have',
}

/**
 * Standings in which pieces may be taken to a place, by its purpose. Common practice: what is not free is not stored. To the line, the door, outside
 * and the scrap nothing is taken by hand: pieces come there with their order, their dispatch or a decision.
 */
export const mayLieAt: Readonly<Record<PlacePurpose, readonly Standing[]>> = {
  dock: ['onHold', 'released', 'quarantined', 'inRework', 'rejected'],
  inspection: ['onHold', 'released', 'quarantined', 'inRework', 'rejected'],
  store: ['released'],
  quarantine: ['onHold', 'quarantined', 'inRework', 'rejected'],
  scrap: [],
  outside: [],
  production: [],
  shipping: [],
  customer: [],
}

/**
 * Whether pieces in a standing may be taken to a place, whoever takes them and by whatever name: put away, or transferred.
 * @param isStorable whether all that holds them lets them into a store; what is not on hold is not asked
 */
export function mayBeTakenTo(purpose: PlacePurpose, standing: Standing, isStorable: boolean): boolean {
  return mayLieAt[purpose].includes(standing) || (purpose === 'store' && standing === 'onHold' && isStorable)
}

/** Whether a rule can speak of a place of this purpose: what lies elsewhere moves with its order, its dispatch or a decision. */
export function movesFrom(purpose: PlacePurpose): boolean {
  return mayLieAt[purpose].length > 0
}

/** Why people do not move pieces: they belong to an order that is being made, to a dispatch that has not left, or are in the plant no longer. */
export type BoundTo = 'order' | 'dispatch' | 'gone'

/**
 * What pieces at a place move with, and with nothing else: on the line with the order that makes them while it is not finished, at the door with
 * the dispatch that they were picked for while it waits there. Null where people may move them.
 */
export function boundTo(
  purpose: PlacePurpose,
  { isBeingMade, isPicked }: { readonly isBeingMade: boolean; readonly isPicked: boolean },
): BoundTo | null {
  if (purpose === 'outside' || purpose === 'customer' || purpose === 'scrap') return 'gone'
  if (purpose === 'production' && isBeingMade) return 'order'
  return purpose === 'shipping' && isPicked ? 'dispatch' : null
}

/** One rule of the ordered list; null stands for every one. */
export interface PutAwayRule {
  readonly id: string
  readonly partId: string | null
  readonly familyId: string | null
  readonly supplierId: string | null
  readonly standing: Standing | null
  readonly moment: PutAwayMoment
  readonly fromPlaceId: string | null
  readonly toPlaceId: string
  readonly toPurpose: PlacePurpose
}

/** Pieces that lie somewhere, or come in (place null). */
export interface Piece {
  readonly partId: string
  readonly familyId: string | null
  readonly supplierId: string | null
  readonly standing: Standing
  readonly placeId: string | null
}

/** Why a rule does not match: the first of its conditions that the pieces do not meet. */
export type RuleMiss = 'part' | 'family' | 'supplier' | 'standing' | 'moment' | 'place' | 'purpose'
export const ruleMissWords: Readonly<Record<RuleMiss, string>> = {
  part: 'only for another part',
  family: 'only for another family',
  supplier: 'only for another supplier',
  standing: 'only for another standing',
  moment: 'only at another moment',
  place: 'only from another place',
  purpose: 'its place takes no pieces of this standing',
}

export function missOf(rule: PutAwayRule, piece: Piece): RuleMiss | null {
  if (rule.partId !== null && rule.partId !== piece.partId) return 'part'
  if (rule.familyId !== null && rule.familyId !== piece.familyId) return 'family'
  if (rule.supplierId !== null && rule.supplierId !== piece.supplierId) return 'supplier'
  if (rule.standing !== null && rule.standing !== piece.standing) return 'standing'
  if (rule.moment !== 'always' && (rule.moment === 'arrival') !== (piece.placeId === null)) return 'moment'
  if (rule.fromPlaceId !== null && rule.fromPlaceId !== piece.placeId) return 'place'
  return mayLieAt[rule.toPurpose].includes(piece.standing) ? null : 'purpose'
}

/** The rule that says where the pieces belong: the first of the list that matches; null where none does. */
export function ruleFor<R extends PutAwayRule>(rules: readonly R[], piece: Piece): R | null {
  return rules.find((rule) => missOf(rule, piece) === null) ?? null
}

/** Pieces that rules can tell apart: the parts, families, suppliers and standings that they name, and one that none names. */
function kindsOf(rules: readonly PutAwayRule[], familyOf: ReadonlyMap<string, string | null>): Omit<Piece, 'placeId'>[] {
  const named = <T>(read: (rule: PutAwayRule) => T | null): T[] => [...new Set(rules.flatMap((rule) => read(rule) ?? []))] as T[]
  const parts = [
    ...named((rule) => rule.partId).map((partId) => ({ partId, familyId: familyOf.get(partId) ?? null })),
    ...named((rule) => rule.familyId).map((familyId) => ({ partId: 'another', familyId: familyId as string | null })),
    { partId: 'another', familyId: null },
  ]
  const suppliers = [...named((rule) => rule.supplierId), null]
  const standings = [...new Set<Standing>([...named((rule) => rule.standing), 'released', 'onHold', 'quarantined'])]
  return parts.flatMap((part) => suppliers.flatMap((supplierId) => standings.map((standing) => ({ ...part, supplierId, standing }))))
}

/**
 * Refuses rules that would send the same pieces round and round: from each place the list is followed until it says nothing more, or
 * that they are where they belong. A place that comes up a second time is a circle.
 * @param familyOf the family of each part that a rule names
 * @throws {CoreError} `rules_in_a_circle` with the places, in the order in which pieces would go round.
 */
export function checkNoCircle(rules: readonly PutAwayRule[], familyOf: ReadonlyMap<string, string | null>): void {
  const places = [...new Set(rules.flatMap(({ fromPlaceId, toPlaceId }) => [toPlaceId, ...(fromPlaceId === null ? [] : [fromPlaceId])]))]
  for (const kind of kindsOf(rules, familyOf)) {
    for (const start of places) {
      const way = [start]
      for (;;) {
        const here = way.at(-1) as string
        const rule = ruleFor(rules, { ...kind, placeId: here })
        if (rule === null || rule.toPlaceId === here) break
        const before = way.indexOf(rule.toPlaceId)
        if (before >= 0) {
          const circle = [...way.slice(before), rule.toPlaceId]
          throw new CoreError(
            'rules_in_a_circle',
            `Received rules that send the same pieces round: ${circle.length - 1} places, and back to the first.`,
            {
              places: circle,
              standing: kind.standing,
              partId: kind.partId === 'another' ? null : kind.partId,
            },
          )
        }
        way.push(rule.toPlaceId)
      }
    }
  }
}
