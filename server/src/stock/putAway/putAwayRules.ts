import { checkNoCircle, CoreError, movesFrom, ruleFor, type PlacePurpose, type Piece } from '@nemawashi/core'
import type { MoveDue, PutAwayRule, PutAwayRules, RuleInput } from '@nemawashi/contract'
import { requirePartner } from '../../define/masters/partners'
import type { Reader } from '../../kernel/work/database'
import { ServerError } from '../../kernel/base/serverError'
import type { Work } from '../../kernel/work/unitOfWork'
import { requireReference } from '../../kernel/work/versioned'
import { PutAwayRuleEntity, type PutAwayRuleRow } from '../ledger/entities'
import { lyingAnywhere, rulesInForce, versionOfRules, type LyingRow } from './putAwayRuleRepository'
import { familyRows, partRows, placeRows } from '../../define/masters/rows'
import { putAwayRuleRows } from '../ledger/rows'

/** Where a rule sends the pieces; null where none says anything, or says that they are where they belong. */
export async function placeByRule(reader: Reader, piece: Piece): Promise<PutAwayRule | null> {
  return ruleFor(await rulesInForce(reader), piece)
}

export async function loadRules(reader: Reader): Promise<PutAwayRules> {
  return { rules: await rulesInForce(reader), version: await versionOfRules(reader) }
}

/** The same rules with the places they lead to, for the core. @throws {ServerError} `reference_unknown`, `input_invalid`. */
async function checkRules(work: Work, rules: readonly RuleInput[]): Promise<void> {
  const purposes = new Map<string, PlacePurpose>()
  const families = new Map<string, string | null>()
  for (const [i, rule] of rules.entries()) {
    const field = (name: string) => `rules.${i}.${name}`
    if (rule.partId !== null && rule.familyId !== null)
      throw new ServerError('input_invalid', `Rule ${i + 1} is for one part or for one family: give one of the two, or none.`, {
        field: field('partId'),
      })
    await requireReference(work, familyRows, 'family', rule.familyId, field('familyId'))
    await requirePartner(work, 'supplier', rule.supplierId, field('supplierId'), true)
    await requireReference(work, placeRows, 'place', rule.fromPlaceId, field('fromPlaceId'))
    const part = rule.partId === null ? null : await partRows.find(work.manager, { id: rule.partId })
    if (rule.partId !== null && part === null)
      throw new ServerError('reference_unknown', `The part ${rule.partId} does not exist.`, { field: field('partId') })
    if (part) families.set(part.id, part.familyId)
    const place = await placeRows.find(work.manager, { id: rule.toPlaceId })
    if (!place) throw new ServerError('reference_unknown', `The place ${rule.toPlaceId} does not exist.`, { field: field('toPlaceId') })
    if (!movesFrom(place.purpose))
      throw new ServerError('place_not_for', `Rule ${i + 1} leads to ${place.name}: what goes there goes with an order, a dispatch or a decision.`, {
        field: field('toPlaceId'),
        purpose: place.purpose,
      })
    purposes.set(place.id, place.purpose)
  }
  const named = rules.map((rule, i) => ({ ...rule, id: rule.id ?? `new ${i}`, toPurpose: purposes.get(rule.toPlaceId) ?? 'dock' }))
  try {
    checkNoCircle(named, families)
  } catch (error) {
    if (!(error instanceof CoreError)) throw error
    const names = new Map((await placeRows.list(work.manager)).map(({ id, name }) => [id, name]))
    const places = (error.facts['places'] as string[]).map((id) => names.get(id) ?? id)
    throw new CoreError('rules_in_a_circle', `These rules send the same pieces round: ${places.join(' → ')}.`, { ...error.facts, placeNames: places })
  }
}

/**
 * Saves the whole list in its order. Rules that are left out are retired: transfers that they sent still name them.
 * @throws {ServerError} `stale_version`, `reference_unknown`, `input_invalid`, `place_not_for`, `not_found`; {CoreError} `rules_in_a_circle`.
 */
export async function saveRules(work: Work, { rules, version }: { rules: readonly RuleInput[]; version: number }): Promise<PutAwayRules> {
  const current = await versionOfRules(work.manager)
  if (current !== version)
    throw new ServerError('stale_version', 'Somebody changed the list of rules while you had it open.', {
      seenVersion: version,
      currentVersion: current,
      changedByName: null,
      changedAt: null,
    })
  await checkRules(work, rules)
  const next = current + 1
  const before = await putAwayRuleRows.list(work.manager, { state: 'active' })
  for (const rule of before) {
    if (rules.some(({ id }) => id === rule.id)) continue
    await work.manager.update(PutAwayRuleEntity, { id: rule.id }, { state: 'retired', version: next })
    work.audit({ action: 'retired', subject: 'put-away rule', subjectId: rule.id, before: rule })
  }
  for (const [position, { id, ...said }] of rules.entries()) {
    const known = before.find((rule) => rule.id === id)
    if (id !== null && !known) throw new ServerError('not_found', `There is no rule with the id ${id} in force.`, { field: `rules.${position}.id` })
    const row: PutAwayRuleRow = { ...said, id: known?.id ?? work.newId(), position, state: 'active', version: next }
    if (known) await work.manager.update(PutAwayRuleEntity, { id: row.id }, { ...row })
    else await work.manager.insert(PutAwayRuleEntity, { ...row })
    work.audit({ action: known ? 'changed' : 'created', subject: 'put-away rule', subjectId: row.id, before: known ?? null, after: row })
  }
  return loadRules(work.manager)
}

const maxDue = 200

function dueOf(rules: readonly PutAwayRule[], { partId, familyId, supplierId, purpose, ...row }: LyingRow): MoveDue[] {
  const rule = ruleFor(rules, { partId, familyId, supplierId, standing: row.standing, placeId: row.placeId })
  if (rule === null || rule.toPlaceId === row.placeId) return []
  return [{ ...row, placePurpose: purpose, toPlaceId: rule.toPlaceId, toPlaceName: rule.toPlaceName, ruleId: rule.id, ruleName: rule.name }]
}

/** Pieces that lie elsewhere than the rules say: the first of them, and how many there are. */
export async function movesDue(reader: Reader): Promise<{ rows: MoveDue[]; total: number }> {
  const rules = await rulesInForce(reader)
  const all = rules.length === 0 ? [] : (await lyingAnywhere(reader)).flatMap((row) => dueOf(rules, row))
  return { rows: all.slice(0, maxDue), total: all.length }
}
