/** A life as a table: which act leads from which states to which; to null where nothing is left of it. */
export type Life<S extends string> = Readonly<Record<string, { readonly from: readonly S[]; readonly to: S | null }>>

/** Whether something in this state can be done so to. */
export function may<L extends Life<string>>(life: L, act: keyof L, state: string): boolean {
  return Object.hasOwn(life, act) && (life[act]?.from.includes(state) ?? false)
}

/** Whether nothing can be done to it any more. */
export function isAtItsEnd(life: Life<string>, state: string): boolean {
  return Object.keys(life).every((act) => !may(life, act, state))
}
