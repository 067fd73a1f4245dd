/** What a control point names as its reach. Null means every one. */
export interface Reach {
  readonly id: string
  readonly planId: string
  readonly partId: string | null
  readonly familyId: string | null
  readonly supplierId: string | null
}

export interface Subject {
  readonly partId: string
  readonly familyId: string | null
  readonly supplierId: string | null
}

/** Order of precedence, narrowest first. */
export const precedence = ['this part from this supplier', 'this part', 'this family from this supplier', 'this family'] as const

export interface Applied<T extends Reach> {
  readonly point: T
  readonly opens: boolean
  readonly why: string
}

function rankOf(reach: Reach): number {
  return (reach.partId === null ? 2 : 0) + (reach.supplierId === null ? 1 : 0)
}

function reaches(reach: Reach, subject: Subject): boolean {
  const isPart = reach.partId !== null ? reach.partId === subject.partId : reach.familyId !== null && reach.familyId === subject.familyId
  return isPart && (reach.supplierId === null || reach.supplierId === subject.supplierId)
}

/**
 * Which control points open on an occasion. Those that ask the same plan ask the same question: of them the most specific
 * opens and the wider ones give way. Different plans all open. Points that do not reach the subject are left out.
 */
export function whichApply<T extends Reach>(points: readonly T[], subject: Subject): Applied<T>[] {
  const reaching = points.filter((point) => reaches(point, subject))
  return reaching.map((point) => {
    const rank = rankOf(point)
    const narrower = reaching.find((other) => other.planId === point.planId && other !== point && rankOf(other) < rank)
    const words = precedence[rank] as string
    if (narrower) return { point, opens: false, why: `set for ${words}; the one for ${precedence[rankOf(narrower)]} goes before it` }
    return { point, opens: true, why: `set for ${words}` }
  })
}
