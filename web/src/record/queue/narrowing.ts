import { dueWords, QueueFilters, type DueGroup, type Facet, type QueueFacets } from '@nemawashi/contract'
import type { LocationQuery } from 'vue-router'

/** Ways to narrow the queue down that the page offers, in their order, with what each is called. */
export const facetWords: Readonly<Record<keyof QueueFacets, string>> = {
  due: 'Due',
  operationId: 'Operation',
  responsible: 'Responsible',
  assignedTo: 'Planned for',
  gate: 'Gate',
  supplierId: 'Supplier',
  partId: 'Part',
}
export const facetNames = Object.keys(facetWords) as (keyof QueueFacets)[]

export type Narrowing = { readonly [K in keyof typeof QueueFilters]?: string }

/** What of an address narrows the queue down; what makes no sense is left out. */
export function narrowingOf(query: LocationQuery): Narrowing {
  const found: Record<string, string> = {}
  for (const [name, schema] of Object.entries(QueueFilters)) {
    const value = query[name]
    if (typeof value === 'string' && schema.safeParse(value).success) found[name] = value
  }
  return found
}

/** The address with one way more, or, where it is there already, without it. */
export function toggled(query: LocationQuery, name: keyof QueueFacets, value: string): LocationQuery {
  const { [name]: before, ...rest } = query
  return before === value ? rest : { ...rest, [name]: value }
}

/** What narrows the list that is no facet, or that the facets do not name: in words. */
export function restWords(narrowing: Narrowing, facets: QueueFacets | undefined): { name: keyof Narrowing; words: string }[] {
  const isNamed = (name: string, value: string) =>
    name in facetWords && (facets?.[name as keyof QueueFacets] ?? []).some((option: Facet) => option.value === value)
  const wordsOf = (name: string, value: string): string => {
    if (name === 'day') return value === 'before' ? 'planned for an earlier day' : `planned for ${value}`
    if (name === 'dayUntil') return `planned for up to ${value}`
    if (name === 'own') return 'of my own day'
    if (name === 'lotId') return 'of one lot'
    return name === 'due' ? dueWords[value as DueGroup] : `${facetWords[name as keyof QueueFacets].toLowerCase()}: none is left`
  }
  const entries = Object.entries(narrowing) as [keyof Narrowing, string][]
  return entries.filter(([name, value]) => !isNamed(name, value)).map(([name, value]) => ({ name, words: wordsOf(name, value) }))
}
