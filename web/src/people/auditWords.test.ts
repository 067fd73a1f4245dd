import { describe, expect, it } from 'vitest'
import { plantZone } from '../shell/plantTime'
import { differences } from './auditWords'

describe('what a change made different', () => {
  it('is told field by field, moments in the time of the plant', () => {
    plantZone.value = 'Pacific/Kiritimati'
    const before = JSON.stringify({ finishedAt: null, isGate: true, holdPlaceId: 'a' })
    const after = JSON.stringify({ finishedAt: '2026-03-02T11:30:00.000Z', isGate: true, holdPlaceId: 'b' })
    expect(differences(before, after)).toEqual([
      { field: 'finished at', before: '–', after: '2026-03-03 01:30' },
      { field: 'is gate', before: 'yes', after: 'yes' },
      { field: 'hold place', before: 'a', after: 'b' },
    ])
  })
})
