import { recordersOf, type Inspection, type Person } from '@nemawashi/contract'

/** Whether somebody may record an inspection, by their roles; whether another has taken it is a question of its own. */
export function mayRecord(inspection: Pick<Inspection, 'spotAnswerer'> | null | undefined, person: Pick<Person, 'roles'> | null): boolean {
  return recordersOf(inspection?.spotAnswerer ?? null).some((role) => person?.roles.includes(role) ?? false)
}
