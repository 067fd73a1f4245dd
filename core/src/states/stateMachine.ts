/** A life as a table: which act leads from which states to which; to null where nothing is left of it. */
export type StateMachine<S extends string> = Readonly<Record<string, { readonly from: readonly S[]; readonly to: S | null }>>

/** Whether something in this state can be done so to. */
export function canTransition<L extends StateMachine<string>>(life: L, act: keyof L, state: string): boolean {
  return Object.hasOwn(life, act) && (life[act]?.from.includes(state) ?? false)
}

/** Whether nothing can be done to it any more. */
export function isFinal(life: StateMachine<string>, state: string): boolean {
  return Object.keys(life).every((act) => !canTransition(life, act, state))
}
