/** What can happen to lots on their way. */
export const occasionKinds = ['delivery', 'orderReleased', 'stepStarted', 'stepConfirmed', 'dispatch', 'return'] as const
export type OccasionKind = (typeof occasionKinds)[number]

/** What an inspection looks at. */
export const subjectKinds = ['load', 'line', 'lot', 'container', 'serial', 'run'] as const
export type SubjectKind = (typeof subjectKinds)[number]
