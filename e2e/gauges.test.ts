import { endpoints } from '@nemawashi/contract'
import { expect, it } from 'vitest'
import { objections } from './accessibility'
import { lineToInspect } from './mainViews'
import { standing } from './stand'

const { equip, record } = endpoints
const plant = standing()

it('a line that wants its gauge takes no value before it is scanned; a coarse one is used with a reason, which stays; a locked one not at all', async () => {
  const inspector = await plant.api('rosa')
  const { id, line, at } = await lineToInspect(inspector, ({ details }) => details.gaugeKind === 'Spring tester')
  const hand = await plant.sit('rosa', `/record/${id}`)
  await hand.page.waitForSelector('.bench')
  for (let i = 0; i < at; i++) await hand.press('PageDown')
  // The cursor waits where the gauge is scanned.
  await hand.getsCursor('[data-field=gauge]')
  expect(await objections(hand)).toEqual([])
  await hand.fill('input.big', line.nominal ?? '')
  await hand.press('Enter')
  await hand.sees('Scan or type the gauge of the line first (Spring tester).')
  expect((await inspector.call(record.getInspection, { params: { id } })).readings.filter(({ lineId }) => lineId === line.id)).toEqual([])

  await hand.fill('[data-field=gauge]', 'NO-SUCH')
  await hand.press('Enter')
  await hand.sees('There is no gauge NO-SUCH in the register.')
  await hand.fill('[data-field=gauge]', 'SPT-2')
  await hand.press('Enter')
  await hand.sees('SPT-2 shows steps of 0.2 N; a tolerance of 1 N has fewer than ten of them.')
  await hand.getsCursor('[data-field=gauge-reason]')
  await hand.type('SPT-1 is at another bench')
  await hand.press('Enter')
  await hand.sees('shows steps of 0.2 N; a tolerance of 1 N has fewer than ten of them; used all the same: SPT-1 is at another bench')
  // What was typed before is still there.
  await hand.getsCursor('input.big')
  expect(await hand.valueOf('input.big')).toBe(line.nominal)
  await hand.press('Enter')
  await hand.sees(`${line.name} · piece 2 of`)

  await hand.chord('Shift', 'G')
  await hand.getsCursor('[data-field=gauge]')
  await hand.type('SPT-1')
  await hand.press('Enter')
  await hand.getsCursor('input.big')
  await hand.type(line.nominal ?? '')
  await hand.press('Enter')
  await hand.sees(`${line.name} · piece 3 of`)
  await hand.sees('Everything typed is stored.')
  const { readings } = await inspector.call(record.getInspection, { params: { id } })
  expect(readings.filter(({ lineId }) => lineId === line.id).map(({ piece, gaugeCode }) => [piece, gaugeCode])).toEqual([
    [1, 'SPT-2'],
    [2, 'SPT-1'],
  ])

  // It falls from the bench: locked from its page, and the next value is refused and kept in sight.
  const [gauge] = (await inspector.call(equip.listGauges, { query: { q: 'SPT-1' } })).rows
  const other = await plant.sit('ilse', `/equip/gauges/${gauge?.id}`)
  await other.sees('SPT-1 Spring tester 20 N')
  await other.take('[data-test=lock]')
  await other.confirm('It fell from the bench')
  await other.sees('It fell from the bench.')
  await hand.type(line.nominal ?? '')
  await hand.press('Enter')
  await hand.sees('SPT-1 is locked: It fell from the bench.')
})

it('the register takes a gauge by keyboard, says until when it is good, and shows what is in doubt with it', async () => {
  const hand = await plant.sit('ilse', '/equip/gauges')
  await hand.page.waitForSelector('tbody tr')
  await hand.take('[data-test=new]')
  await hand.fill('[data-field=code] input', 'MIC-30')
  await hand.fill('[data-field=name] input', 'Micrometer 0–25, bench 3')
  await hand.pick('[data-field=kindId]', 'Precision micrometer')
  await hand.fill('[data-field=resolution] input', '0,001')
  await hand.fill('[data-field=lower] input', '25')
  await hand.fill('[data-field=upper] input', '0')
  await hand.pick('[data-field=unit]', 'mm')
  await hand.fill('[data-field=calibratedOn] input', '31 Aug 2026')
  await hand.fill('[data-field=intervalMonths] input', '6')
  await hand.press('Enter')
  await hand.sees('The gauge measures from 25 to 0: the first has to be the smaller one.')
  expect(await objections(hand)).toEqual([])
  await hand.fill('[data-field=lower] input', '0')
  await hand.fill('[data-field=upper] input', '25')
  await hand.press('Enter')
  await hand.sees('Saved MIC-30.')
  await hand.sees(/Good until 28 Feb/)
  await hand.sees('It has measured nothing yet.')
  await hand.select('[data-field=due]', 'overdue, or never calibrated')
  await hand.sees('MIC-07')
  expect(await hand.textOf('tbody')).not.toContain('SPT-2')
  // Somebody else changes it meanwhile: both are shown, in words, and one is chosen.
  const api = await plant.api('ilse')
  const [kept] = (await api.call(equip.listGauges, { query: { q: 'MIC-04' } })).rows
  await hand.open(`/equip/gauges/${kept?.id}`)
  await hand.fill('[data-field=serialNumber] input', 'mine')
  const { id = '', ...now } = await api.call(equip.getGauge, { params: { id: kept?.id ?? '' } })
  const { state: _s, stateReason: _r, stateSince: _t, dueOn: _d, ...fields } = now
  await api.call(equip.updateGauge, { params: { id }, body: { ...fields, serialNumber: 'theirs' } })
  await hand.press('Enter')
  await hand.sees("Maker's serial number")
  await hand.take('[data-test=keep-mine]')
  await hand.sees('Saved MIC-04.')
  expect((await api.call(equip.getGauge, { params: { id } })).serialNumber).toBe('mine')

  const [used] = (await (await plant.api('ilse')).call(equip.listGauges, { query: { q: 'HT-01' } })).rows
  await hand.open(`/equip/gauges/${used?.id}`)
  await hand.page.waitForSelector('.uses td')
  expect(await hand.textOf('.uses')).toMatch(/I-\d+.*Hardness/s)
})
