/** When at an operation a control point asks, by the operation's kind; the first is the usual one. */
export const momentsOf = {
  receiving: ['arrival'],
  production: ['end', 'start'],
  transfer: ['arrival'],
  shipping: ['beforeDispatch'],
  return: ['arrival'],
} as const
export type OperationKind = keyof typeof momentsOf
export const moments = ['arrival', 'start', 'end', 'beforeDispatch'] as const
export type Moment = (typeof moments)[number]

export function isMomentOf(kind: OperationKind, moment: Moment): boolean {
  return (momentsOf[kind] as readonly Moment[]).includes(moment)
}

export const momentWords: Readonly<Record<Moment, string>> = {
  arrival: 'when it arrives',
  start: 'when the step is started (first piece)',
  end: 'when the step is confirmed',
  beforeDispatch: 'once it is picked, before it leaves',
}

/** What a gate keeps from happening: the later step that it blocks, by where and when it stands. */
export const gateSteps = ['putAway', 'confirmStep', 'nextStep', 'dispatch'] as const
export type GateStep = (typeof gateSteps)[number]

export function stepBlocked(kind: OperationKind, moment: Moment): GateStep {
  if (kind === 'production') return moment === 'start' ? 'confirmStep' : 'nextStep'
  return kind === 'shipping' ? 'dispatch' : 'putAway'
}

export const gateWords: Readonly<Record<GateStep, string>> = {
  putAway: 'put-away waits for its decision',
  confirmStep: 'the step cannot be confirmed before its decision',
  nextStep: 'the next step cannot start, nor the order finish, before its decision',
  dispatch: 'the goods cannot leave before its decision',
}
