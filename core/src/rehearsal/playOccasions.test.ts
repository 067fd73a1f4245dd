import { describe, expect, it } from 'vitest'
import type { PastOccasion, RuledLine, RuledPoint, Rules } from './pastOccasion'
import { playOccasions } from './playOccasions'
import { restsOnFindings } from './restsOnFindings'
import { LoadTally, loadRange, totalLoad } from './weeklyLoad'

const line = (characteristicId: string, change: Partial<RuledLine> = {}): RuledLine => ({
  characteristicId,
  sampling: { kind: 'fixedNumber', sampleSize: 5, accept: 0 },
  minutesPerPiece: 2,
  isRequired: true,
  isDecisive: false,
  targets: [],
  detached: null,
  ...change,
})
const point = (id: string, change: Partial<RuledPoint> = {}): RuledPoint => ({
  id,
  planId: 'plan',
  operationId: 'receiving',
  moment: 'arrival',
  every: null,
  subject: 'lot',
  partId: null,
  familyId: null,
  supplierId: null,
  customerId: null,
  supplierGroup: null,
  contract: null,
  frequency: { kind: 'everyArrival' },
  isGate: true,
  holds: 'all',
  ...change,
})
let number = 0
const occasion = (change: Partial<PastOccasion> = {}): PastOccasion => {
  const id = `O-${++number}`
  const subject = { partId: 'bolt', familyId: 'fasteners', supplierId: 'ridge', customerId: null, supplierGroup: null, contract: null }
  const at = { day: '2026-03-02', atHours: number, quantity: 100, operationId: 'receiving', moment: 'arrival' } as const
  return { id, occasionId: id, ...at, ...subject, counted: null, units: [], failed: [], judged: [], opened: 0, ...change }
}
const rules = (points: readonly RuledPoint[], plans: Record<string, readonly RuledLine[]> = { plan: [line('length')] }): Rules => ({
  points,
  plans: new Map(Object.entries(plans)),
})
const opened = (rules: Rules, occasions: readonly PastOccasion[]) =>
  [...playOccasions(rules, occasions)].map(({ inspections }) => inspections.map(({ pointId, pieces }) => `${pointId} ${pieces}`).join(', '))
const times = <T>(count: number, make: () => T): T[] => Array.from({ length: count }, make)

describe('what happened, played under control points', () => {
  it('opens the narrowest of those that ask the same plan, where and when they hang', () => {
    const all = rules([point('wide'), point('family', { familyId: 'fasteners' }), point('part', { partId: 'bolt', supplierId: 'other' })])
    expect(opened(all, [occasion(), occasion({ familyId: null }), occasion({ supplierId: 'other' }), occasion({ operationId: 'forge' })])).toEqual([
      'family 5',
      'wide 5',
      'part 5',
      '',
    ])
  })

  it('follows a frequency over the history of its part and partner, with what was not accepted then', () => {
    const oneInThree = rules([point('p', { frequency: { kind: 'oneIn', k: 3, fullAfterFailure: 2 } })])
    const shown = (occasions: PastOccasion[]) =>
      opened(oneInThree, occasions)
        .map((words) => (words === '' ? '.' : 'L'))
        .join('')
    expect(shown(times(7, occasion))).toBe('L..L..L')
    expect(shown([occasion(), occasion({ supplierId: 'other' }), occasion(), occasion({ partId: 'nut' })])).toBe('LL.L')
    const failing = times(8, occasion).map((entry, i) => (i === 3 ? { ...entry, failed: ['plan'] } : entry))
    expect(shown(failing)).toBe('L..LLL..')
    // One that passes by says nothing of itself, however it would have been.
    expect(shown(times(7, occasion).map((entry, i) => (i === 1 ? { ...entry, failed: ['plan'] } : entry)))).toBe('L..L..L')
  })

  it('asks a line once that two plans ask, with the larger sample, and opens none that is left nothing to ask', () => {
    const more = line('length', { sampling: { kind: 'fixedNumber', sampleSize: 8, accept: 0 } })
    const both = rules([point('a'), point('b', { planId: 'other', isGate: false })], { plan: [line('length')], other: [more, line('width')] })
    expect(opened(both, [occasion()])).toEqual(['a 8, b 5'])
    expect(
      opened(
        {
          ...both,
          plans: new Map([
            ['plan', [line('length')]],
            ['other', [more]],
          ]),
        },
        [occasion()],
      ),
    ).toEqual(['a 8'])
    const own = line('length', { targets: [{ partId: 'bolt', nominal: null, lower: '1', upper: null }] })
    expect(
      opened(
        {
          ...both,
          plans: new Map([
            ['plan', [line('length')]],
            ['other', [own]],
          ]),
        },
        [occasion()],
      ),
    ).toEqual(['a 5, b 5'])
  })

  it('looks at a load once for all lines of a delivery, as one thing', () => {
    const load = rules([point('seal', { subject: 'load' }), point('lot', { partId: 'nut' })])
    const lines = ['bolt', 'nut', 'nut'].map((partId) => occasion({ occasionId: 'D-1', partId }))
    expect(opened(load, [...lines, occasion({ occasionId: 'D-2' })])).toEqual(['seal 1', 'lot 5', 'lot 5', 'seal 1'])
  })

  it('counts a load once in its history, and opens it for the first line that it is due for', () => {
    const every = point('bolts', { subject: 'load', partId: 'bolt', frequency: { kind: 'oneIn', k: 2 } })
    const load = rules([every, point('nuts', { subject: 'load', partId: 'nut', planId: 'plan' })])
    const delivery = (id: string, ...parts: string[]) => parts.map((partId) => occasion({ occasionId: id, partId }))
    // The first delivery of bolts is looked at; the second is not, but what comes for nuts with it asks the same.
    const all = [
      ...delivery('D-1', 'bolt', 'bolt'),
      ...delivery('D-2', 'bolt', 'bolt'),
      ...delivery('D-3', 'bolt', 'nut'),
      ...delivery('D-4', 'bolt'),
    ]
    expect(opened(load, all)).toEqual(['bolts 1', '', '', '', 'bolts 1', '', ''])
    const mixed = [...delivery('E-1', 'bolt'), ...delivery('E-2', 'bolt', 'nut')]
    expect(opened(load, mixed)).toEqual(['bolts 1', 'nuts 1', ''])
  })

  it('looks at each container as an arrival of its own, and at pieces that are in none as one', () => {
    const apart = rules([point('box', { subject: 'container', frequency: { kind: 'oneIn', k: 2 } }), point('lot', { planId: 'other' })], {
      plan: [line('length', { sampling: { kind: 'percentage', percent: 10, rounding: 'up', accept: 0 } })],
      other: [line('length')],
    })
    const units = [40, 60, 20].map((quantity) => ({ kind: 'container', quantity }) as const)
    // The third box is the third arrival; what the lot is asked is asked of other pieces, and asked all the same.
    expect(opened(apart, [occasion({ units, quantity: 120 })])).toEqual(['lot 5, box 4, box 2'])
    // Loose pieces are one arrival, and share their lines with whatever else asks of them.
    expect(opened(apart, [occasion({ quantity: 120 })])).toEqual(['lot 12'])
    const serials = [1, 1].map((quantity) => ({ kind: 'serial', quantity }) as const)
    expect(opened(rules([point('each', { subject: 'serial' })]), [occasion({ units: serials, quantity: 2 })])).toEqual(['each 1, each 1'])
    // What is told apart by numbers is in no containers, and looked at whole for them.
    const both = rules([point('box', { subject: 'container' }), point('each', { subject: 'serial', planId: 'other' })], {
      plan: [line('length')],
      other: [line('width')],
    })
    expect(opened(both, [occasion({ units: serials, quantity: 2 })])).toEqual(['box 2, each 1, each 1'])
    expect(opened(both, [occasion({ units, quantity: 120 })])).toEqual(['each 5, box 5, box 5, box 5'])
  })

  it('keeps a standing that was earned, however many arrivals pass by after it, as in earnest', () => {
    const once = rules([point('p', { frequency: { kind: 'certificateOnly', clearance: 3 } })])
    const looked = opened(once, times(1500, occasion)).flatMap((words, i) => (words === '' ? [] : [i]))
    expect(looked).toEqual([0, 1, 2])
  })

  it('looks at a step that runs every so many pieces, and with its confirmation at what was not told before', () => {
    const at = { operationId: 'machine', frequency: { kind: 'everyArrival' } } as const
    const machine = rules(
      [
        point('every', { ...at, moment: 'everyPieces', every: 50 }),
        point('last', { ...at, planId: 'other', moment: 'lastPiece' }),
        point('end', { ...at, moment: 'end' }),
        point('clock', { ...at, moment: 'everyMinutes', every: 30 }),
      ],
      { plan: [line('length', { sampling: { kind: 'percentage', percent: 10, rounding: 'up', accept: 0 } })], other: [line('width')] },
    )
    const told = (moment: PastOccasion['moment'], before: number, after: number, quantity: number) =>
      occasion({ operationId: 'machine', moment, counted: { before, after }, quantity })
    expect(
      opened(machine, [
        told('everyPieces', 0, 40, 40),
        told('everyPieces', 40, 120, 80),
        told('end', 120, 160, 150),
        told('everyMinutes', 0, 31, 90),
      ]),
    ).toEqual(['', 'every 10', 'every 5, last 1, end 15', 'clock 9'])
  })

  it('begins on normal inspection where a rule names reduced one and does not allow it', () => {
    const scheme = { kind: 'attributesScheme', level: 'II', aqlPercent: 1, severity: 'reduced' } as const
    const asked = (switching: 'withReduced' | 'withoutReduced') =>
      opened(rules([point('p')], { plan: [line('length', { sampling: { ...scheme, switching } })] }), [occasion({ quantity: 500 })])
    // Letter H at AQL 1 %: 50 pieces on normal inspection, 20 on reduced (ISO 2859-1, tables 2-A and 2-C; MIL-STD-105E, II-A and II-C).
    expect([asked('withReduced'), asked('withoutReduced')]).toEqual([['p 20'], ['p 50']])
  })

  it('switches the severity of a line by its own history; a stop is taken to be answered', () => {
    const scheme = { kind: 'attributesScheme', level: 'II', aqlPercent: 1, switching: 'withoutReduced' } as const
    const switching = rules([point('p')], { plan: [line('length', { sampling: scheme })] })
    // Lots of 500 at level II are letter H: 50 pieces at 1 %, tightened 80. Source: MIL-STD-105E, Tables I, II-A and II-B (from memory).
    const lots = times(9, () => occasion({ quantity: 500 })).map((entry, i) => (i < 2 ? { ...entry, failed: ['plan'] } : entry))
    const sizes = [...playOccasions(switching, lots)].map(({ inspections }) => inspections[0]?.pieces)
    expect(sizes).toEqual([50, 50, 80, 80, 80, 80, 80, 50, 50])
    expect(() =>
      opened(
        switching,
        times(20, () => occasion({ failed: ['plan'] })),
      ),
    ).not.toThrow()
  })

  it('lets a lot that the tighter plan would refuse begin the switching score anew, as it did in fact', () => {
    const scheme = { kind: 'attributesScheme', level: 'II', aqlPercent: 2.5, switching: 'withReduced' } as const
    const switching = rules([point('p')], { plan: [line('length', { sampling: scheme })] })
    const found = { planId: 'plan', characteristicId: 'length', isAccepted: true, isAcceptedTighter: false, isAcceptedEarly: true, isInGap: false }
    const firstReduced = (at: number | null) => {
      const lots = times(20, () => occasion({ quantity: 500 })).map((entry, i) => (i === at ? { ...entry, judged: [found] } : entry))
      return [...playOccasions(switching, lots)].findIndex(({ inspections }) => inspections[0]?.pieces === 20)
    }
    // Ac 3 at letter H and 2.5 %: 3 points for each lot that the next tighter AQL would accept, 30 lead to 20 pieces. Source: ISO 2859-1, 9.3.3.2.
    expect([firstReduced(null), firstReduced(5)]).toEqual([10, 16])
  })

  it('judges a line by what it found itself, where another line of its plan refused the lot', () => {
    const scheme = { kind: 'attributesScheme', level: 'II', aqlPercent: 1, switching: 'withoutReduced' } as const
    const switching = rules([point('p')], { plan: [line('length', { sampling: scheme })] })
    const clean = { planId: 'plan', characteristicId: 'length', isAccepted: true, isAcceptedTighter: true, isAcceptedEarly: true, isInGap: false }
    const lots = times(4, () => occasion({ quantity: 500, failed: ['plan'], judged: [clean] }))
    expect(new Set(opened(switching, lots))).toEqual(new Set(['p 50']))
  })

  it('says where no sample can be worked out, and goes on', () => {
    const beyond = rules([point('p')], { plan: [line('length', { sampling: { kind: 'fixedNumber', sampleSize: 0, accept: 0 } })] })
    const played = [...playOccasions(beyond, [occasion(), occasion()])]
    expect(played.map(({ inspections }) => inspections[0]?.problem)).toEqual([expect.stringContaining('0'), expect.stringContaining('0')])
  })
})

describe('a load by week', () => {
  it('counts what was played from its first day on, with weeks in which nothing came', () => {
    const days = ['2026-02-27', '2026-03-02', '2026-03-04', '2026-03-17']
    const occasions = days.map((day) => occasion({ day, opened: 2 }))
    const tally = new LoadTally('2026-03-01', '2026-03-20')
    const lines = { plan: [line('length'), line('width', { minutesPerPiece: null })] }
    for (const played of playOccasions(rules([point('p')], lines), occasions)) tally.add(played)
    expect(tally.weeks.map(({ from, occasions: came, inspections, pieces, minutes }) => [from, came, inspections, pieces, minutes])).toEqual([
      ['2026-02-23', 0, 0, 0, 0],
      ['2026-03-02', 2, 2, 20, 20],
      ['2026-03-09', 0, 0, 0, 0],
      ['2026-03-16', 1, 1, 10, 10],
    ])
    expect(totalLoad(tally.weeks)).toEqual({ occasions: 3, inFact: 6, inspections: 3, pieces: 30, minutes: 30, untimed: 0 })
    expect([...tally.byPoint]).toEqual([['p', { inspections: 3, pieces: 30, minutes: 30 }]])
    expect([...tally.problems]).toEqual([])
  })

  it('counts its first and its last day, inspections that nobody timed, and samples that could not be worked out', () => {
    const tally = new LoadTally('2026-03-02', '2026-03-09')
    const lines = {
      plan: [line('width', { minutesPerPiece: null })],
      bad: [line('x', { sampling: { kind: 'fixedNumber', sampleSize: 0, accept: 0 } })],
    }
    const both = rules([point('p'), point('q', { planId: 'bad' })], lines)
    for (const played of playOccasions(
      both,
      ['2026-03-01', '2026-03-02', '2026-03-09'].map((day) => occasion({ day })),
    ))
      tally.add(played)
    expect(tally.weeks.map(({ from, occasions: came, inspections, untimed }) => [from, came, inspections, untimed])).toEqual([
      ['2026-03-02', 1, 2, 2],
      ['2026-03-09', 1, 2, 2],
    ])
    expect([...tally.problems.values()]).toEqual([2])
    expect([...tally.byPoint.keys()]).toEqual(['p', 'q'])
  })
})

describe('where chance decides', () => {
  it('a range says how many it may be another time: as many years as it says lie in it', () => {
    const drawn = rules([point('drawn', { frequency: { kind: 'randomShare', percent: 20 } })])
    const years = times(400, () => {
      const tally = new LoadTally('2026-01-01', '2026-12-31')
      for (const played of playOccasions(
        drawn,
        times(100, () => occasion()),
      ))
        tally.add(played)
      return { inspections: totalLoad(tally.weeks).inspections, chance: tally.chance }
    })
    expect(years[0]?.chance).toBeCloseTo(16)
    // Binomial, n 100 and p 0.2: between 12 and 28 with 0.9674 (the masses summed exactly).
    const [least, most] = loadRange(20, 16) ?? [0, 0]
    expect([least, most]).toEqual([12, 28])
    const inside = years.filter(({ inspections }) => inspections >= least && inspections <= most).length
    expect(inside).toBeGreaterThan(374)
    expect(inside).toBeLessThan(399)
  })

  it('there is none where nothing is drawn, or all of it', () => {
    for (const frequency of [
      { kind: 'oneIn', k: 3 },
      { kind: 'randomShare', percent: 100 },
    ] as const) {
      const played = [...playOccasions(rules([point('p', { frequency })]), [occasion(), occasion()])]
      expect(
        loadRange(
          2,
          played.reduce((sum, { chance }) => sum + chance, 0),
        ),
      ).toBeNull()
    }
  })

  it('it is known whether findings bear on it: a frequency that is earned, or a severity that switches', () => {
    expect(restsOnFindings(rules([point('p')]))).toBe(false)
    expect(restsOnFindings(rules([point('p', { frequency: { kind: 'everyArrival', fullAfterFailure: 3 } })]))).toBe(true)
    expect(restsOnFindings(rules([point('p', { frequency: { kind: 'earnedSkipping', clearance: 5, k: 3 } })]))).toBe(true)
    const switching = line('length', { sampling: { kind: 'attributesScheme', level: 'II', aqlPercent: 1, switching: {} } as never })
    expect(restsOnFindings(rules([point('p')], { plan: [switching] }))).toBe(true)
  })
})
