import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { calibrationDue } from './calibrationDue'
import {
  describeGaugeUse,
  describeObjection,
  gaugeObjections,
  isBarring,
  isOverSinceChosen,
  type GaugeFacts,
  type MeasuringTask,
} from './gaugeFitness'

const gauge: GaugeFacts = {
  kind: 'Micrometer',
  state: 'inUse',
  resolution: '0.001',
  unit: 'mm',
  lower: '0',
  upper: '25',
  dueOn: '2026-11-30',
  intervalMonths: 6,
  calibratedOn: '2026-05-30',
}
const task: MeasuringTask = { gaugeKind: 'Micrometer', unit: 'mm', lower: '12.45', upper: '12.55' }
const kindsOf = (change: Partial<GaugeFacts>, asked: Partial<MeasuringTask> = {}, today = '2026-11-30') =>
  gaugeObjections({ ...gauge, ...change }, { ...task, ...asked }, today).map(({ kind }) => kind)

describe('the day on which a gauge is due', () => {
  it('is the same day of a later month, and its last day where there is no such day', () => {
    expect(calibrationDue('2026-11-30', 6)).toBe('2027-05-30')
    expect(calibrationDue('2026-08-31', 6)).toBe('2027-02-28')
    expect(calibrationDue('2027-08-31', 6)).toBe('2028-02-29')
    expect(calibrationDue('2099-02-28', 12)).toBe('2100-02-28')
    expect(calibrationDue('2024-02-29', 12)).toBe('2025-02-28')
    expect(calibrationDue('2026-12-15', 1)).toBe('2027-01-15')
  })

  it('agrees with the calendar of the language for every first of a month, and never goes back as the interval grows', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1950, max: 2150 }), fc.integer({ min: 1, max: 12 }), fc.integer({ min: 1, max: 599 }), (year, month, months) => {
        const first = `${year}-${String(month).padStart(2, '0')}-01`
        expect(calibrationDue(first, months)).toBe(new Date(Date.UTC(year, month - 1 + months, 1)).toISOString().slice(0, 10))
        const last = new Date(Date.UTC(year, month, 0)).toISOString().slice(0, 10)
        expect(calibrationDue(last, months + 1) > calibrationDue(last, months)).toBe(true)
      }),
    )
  })

  it('refuses what is no day and no interval', () => {
    for (const day of ['2026-02-29', '2026-13-01', '2026-00-10', '2026-04-31', '30.11.2026', ''])
      expect(() => calibrationDue(day, 12), day).toThrow(expect.objectContaining({ code: 'day_invalid' }))
    for (const months of [0, -1, 1.5, 601, Number.NaN])
      expect(() => calibrationDue('2026-11-30', months)).toThrow(expect.objectContaining({ code: 'interval_invalid' }))
  })
})

describe('what speaks against a gauge', () => {
  it('is nothing where kind, range, resolution and calibration fit, on the day that it is due too', () => {
    expect(kindsOf({})).toEqual([])
    expect(kindsOf({}, {}, '2026-12-01')).toEqual(['overdue'])
    expect(kindsOf({ dueOn: null, intervalMonths: null }, {}, '2099-01-01')).toEqual([])
    expect(kindsOf({ dueOn: null, calibratedOn: null })).toEqual(['neverCalibrated'])
  })

  it('is a resolution above a tenth of the tolerance: 0.01 of 0.1 is fine, 0.02 is not', () => {
    expect(kindsOf({ resolution: '0.01' })).toEqual([])
    expect(kindsOf({ resolution: '0.02' })).toEqual(['tooCoarse'])
    // One limit alone has no width; a gauge without numbers has no steps.
    expect(kindsOf({ resolution: '5' }, { upper: null })).toEqual([])
    expect(kindsOf({ resolution: null, unit: null, lower: null, upper: null })).toEqual([])
  })

  it('is a limit outside of its range; the ends of the range are in it', () => {
    expect(kindsOf({ lower: '12.45', upper: '12.55' })).toEqual([])
    expect(kindsOf({ lower: '12.46' })).toEqual(['outOfRange'])
    expect(kindsOf({ upper: '12.5' })).toEqual(['outOfRange'])
    expect(kindsOf({ upper: '12.5' }, { upper: null })).toEqual([])
  })

  it('is judged in the unit of the gauge, where units convert', () => {
    const inches = { unit: 'in', resolution: '0.0001', lower: '0', upper: '1' }
    // 12.55 mm are 0.494 in; 0.1 mm are 39 steps of 0.0001 in.
    expect(kindsOf(inches)).toEqual([])
    expect(kindsOf({ ...inches, upper: '0.49' })).toEqual(['outOfRange'])
    expect(kindsOf({ ...inches, resolution: '0.0005' })).toEqual(['tooCoarse'])
    expect(kindsOf({ unit: 'N' })).toEqual(['otherQuantity'])
    // A tolerance in degrees Fahrenheit is a difference: 18 °F wide are 10 °C.
    const heat = { unit: '°C', resolution: '1', lower: '0', upper: '100' }
    expect(kindsOf(heat, { unit: '°F', lower: '50', upper: '68' })).toEqual([])
    expect(kindsOf({ ...heat, resolution: '1.1' }, { unit: '°F', lower: '50', upper: '68' })).toEqual(['tooCoarse'])
  })

  it('bars a locked, retired or other gauge whatever is said, and comes before what can be waived', () => {
    const all = gaugeObjections({ ...gauge, state: 'locked', kind: 'Caliper', resolution: '0.1' }, task, '2027-01-01')
    expect(all.map((each) => [each.kind, isBarring(each)])).toEqual([
      ['locked', true],
      ['wrongKind', true],
      ['tooCoarse', false],
      ['overdue', false],
    ])
    expect(all.map((each) => describeObjection(each))).toEqual([
      'is locked',
      'is a Caliper, asked for is a Micrometer',
      'shows steps of 0.1 mm; a tolerance of 0.1 mm has fewer than ten of them',
      'was due for calibration on 2026-11-30',
    ])
    expect(kindsOf({ state: 'retired' })).toEqual(['retired'])
  })

  it('is a day that it went over after it was chosen, unless somebody said then why it may be used', () => {
    const use = { dueOn: '2026-11-30', objections: [] }
    expect([isOverSinceChosen(use, '2026-11-30'), isOverSinceChosen(use, '2026-12-01')]).toEqual([false, true])
    expect(isOverSinceChosen({ ...use, dueOn: null }, '2099-01-01')).toBe(false)
    expect(isOverSinceChosen({ ...use, objections: [{ kind: 'overdue', dueOn: '2026-11-30' }] }, '2026-12-01')).toBe(false)
    expect(isOverSinceChosen({ ...use, objections: [{ kind: 'neverCalibrated' }] }, '2026-12-01')).toBe(true)
  })

  it('stands behind the gauge wherever its values are read', () => {
    const use = { code: 'MIC-2', objections: gaugeObjections(gauge, task, '2026-12-24'), reason: 'the other one is at calibration', byName: 'Rosa' }
    expect(describeGaugeUse(use)).toBe('MIC-2, although it was due for calibration on 2026-11-30 (Rosa: the other one is at calibration)')
    expect(describeGaugeUse({ ...use, objections: [] })).toBe('MIC-2')
  })
})
