import { usualUnits } from '@nemawashi/core'
import { endpoints } from '@nemawashi/contract'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { gap, reading, receive, refusal, startPlant, stock, type Plant, type Stock } from '../../testing/plant'

const { define, record } = endpoints
let plant: Plant
let goods: Stock
beforeAll(async () => {
  plant = await startPlant()
  goods = await stock(plant)
})
afterAll(() => plant.stop())

const unit = { code: 'hub', name: 'hub of the lathe', quantity: 'length', factor: '2.5', shift: null, isActive: true }

describe('the units of measure of a plant', () => {
  it('begin with the usual ones, as the core has them', async () => {
    const { units } = await goods.engineer.call(define.knownUnits, {})
    const told = units.map(({ isActive: _, ...unit }) => unit)
    const bySymbol = (a: { symbol: string }, b: { symbol: string }) => (a.symbol < b.symbol ? -1 : 1)
    expect(told.toSorted(bySymbol)).toEqual([...usualUnits].sort(bySymbol))
  })

  it('refuse a factor that is none, a symbol that is taken or ends like a number, and shorten what is written', async () => {
    const make = (change: object) => goods.engineer.call(define.measureUnits.create, { body: { ...unit, ...change } })
    expect(await refusal(make({ factor: '0' }))).toMatchObject({ code: 'factor_invalid', facts: { field: 'factor' } })
    expect(await refusal(make({ code: 'mm' }))).toMatchObject({ code: 'already_exists' })
    expect(await refusal(make({ code: 'B2' }))).toMatchObject({ code: 'input_invalid' })
    expect(await make({ code: 'hub/s', factor: ' 2,5 / 3 ', shift: '+1,0' })).toMatchObject({ factor: '2.5/3', shift: '1.0' })
  })

  it('convert what is measured in one of them, and stay as they are while a characteristic has them', async () => {
    const made = await goods.engineer.call(define.measureUnits.create, { body: unit })
    const length = await goods.characteristic('C-HUB', {
      ...gap,
      name: 'Travel',
      nominal: '10',
      lower: '8',
      upper: '12',
      unit: 'hub',
      resolution: '0.01',
    })
    expect(await refusal(goods.characteristic('C-NONE', { ...gap, unit: 'hubs' }))).toMatchObject({ code: 'unit_unknown' })
    const plan = await goods.plan('PL-HUB', [{ characteristicId: length.id }])
    await goods.under([{ planId: plan.id }], async () => {
      const { lots } = await receive(plant, goods)
      const inspector = await plant.as('inspector')
      const params = { id: lots[0]?.inspections[0]?.id ?? '' }
      const { lines } = await inspector.call(record.getInspection, { params })
      const readings = [reading(lines[0]?.id ?? '', 1, '25 mm'), reading(lines[0]?.id ?? '', 2, '10.5')]
      const stored = await inspector.call(record.recordReadings, { params, body: { readings } })
      expect(stored.readings).toMatchObject([
        { value: '10', entered: '25 mm', mark: 'conforming' },
        { value: '10.50', entered: null },
      ])
      const wrong = [reading(lines[0]?.id ?? '', 3, '25 HRC')]
      expect(await refusal(inspector.call(record.recordReadings, { params, body: { readings: wrong } }))).toMatchObject({ code: 'unit_mismatch' })
    })
    const change = (fields: object) => {
      const { id, ...now } = made
      return goods.engineer.call(define.measureUnits.update, { params: { id }, body: { ...now, ...fields } })
    }
    expect(await refusal(change({ factor: '3' }))).toMatchObject({ code: 'still_in_use', facts: { field: 'factor' } })
    expect(await refusal(change({ quantity: 'angle' }))).toMatchObject({ code: 'still_in_use', facts: { field: 'quantity' } })
    expect(await change({ name: 'lathe hub', isActive: false })).toMatchObject({ name: 'lathe hub', isActive: false })
  })
})
