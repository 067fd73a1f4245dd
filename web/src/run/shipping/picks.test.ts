import { describe, expect, it } from 'vitest'
import type { Pickable } from '@nemawashi/contract'
import { suggestPicks } from './picks'

const line = (partCode: string, quantity: number) => ({
  partId: partCode,
  partCode,
  partName: '',
  unit: 'piece' as const,
  quantity,
  picked: 0,
  free: 0,
  alsoPlanned: [],
})
const free = (code: string, partCode: string, quantity: number, since: string): Pickable => ({
  id: code,
  lotId: code,
  code,
  name: code,
  partCode,
  partName: '',
  containerId: null,
  containerLabel: null,
  placeId: 'store',
  placeName: 'Store',
  quantity,
  unit: 'piece',
  planned: 0,
  since,
})
const taken = (lines: ReturnType<typeof line>[], pickable: Pickable[]) =>
  suggestPicks(lines, pickable).map(({ from, quantity }) => `${quantity} of ${from?.code}`)

describe('what to pick for a planned dispatch', () => {
  it('comes from the oldest lots first, and from the next where one is not enough', () => {
    const lots = [free('L-2', 'A', 30, '2026-02-01'), free('L-1', 'A', 20, '2026-01-01'), free('L-3', 'A', 50, '2026-03-01')]
    expect(taken([line('A', 45)], lots)).toEqual(['20 of L-1', '25 of L-2'])
  })

  it('is no more than is planned, nor than is free', () => {
    expect(taken([line('A', 10)], [free('L-1', 'A', 4, '2026-01-01')])).toEqual(['4 of L-1'])
    expect(taken([line('A', 3), line('A', 4)], [free('L-1', 'A', 40, '2026-01-01')])).toEqual(['7 of L-1'])
    expect(taken([line('A', 3)], [free('L-1', 'B', 40, '2026-01-01')])).toEqual([])
  })
})
