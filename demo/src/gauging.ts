import { endpoints, type Inspection } from '@nemawashi/contract'
import type { ApiClient } from '@nemawashi/contract/client'

const { define, equip, record } = endpoints

/** Kinds that characteristics ask for; of which of them readings want a gauge by name, and whether a reason helps where something speaks against it. */
const kinds = [
  ['Spring tester', 'Spring tester with load cell', true, true],
  ['Brinell tester', 'Hardness tester, Brinell', false, false],
  ['Precision micrometer', 'Outside micrometer', false, true],
  ['Eddy current gauge', 'Coating thickness gauge, eddy current', false, true],
  ['Caliper', 'Caliper', false, true],
  ['Bench scale', 'Bench scale', false, true],
  ['Plug gauge', 'Go and no-go plug gauge', false, false],
] as const

/** Code, name, kind, maker's number, resolution, unit, range, months of its interval, days since its calibration when the demo begins. */
const gauges = [
  ['SPT-1', 'Spring tester 20 N', 'Spring tester', '20-4471', '0.01', 'N', '0', '20', 12, 40],
  ['SPT-2', 'Spring tester 200 N', 'Spring tester', '200-0932', '0.2', 'N', '0', '200', 12, 200],
  ['HT-01', 'Brinell bench', 'Brinell tester', 'HB 118', '0.1', 'HBW', '60', '450', 12, 90],
  ['MIC-04', 'Micrometer 0–25', 'Precision micrometer', 'M25-7712', '0.0005', 'mm', '0', '25', 6, 20],
  ['MIC-07', 'Micrometer 0–25', 'Precision micrometer', 'M25-7715', '0.0005', 'mm', '0', '25', 6, 175],
  ['MIC-11', 'Micrometer 25–50', 'Precision micrometer', 'M50-0210', '0.0005', 'mm', '25', '50', 6, 30],
  ['EC-03', 'Eddy current gauge', 'Eddy current gauge', 'EC 5518', '0.1', 'µm', '0', '500', 12, 60],
  ['CAL-02', 'Digital caliper 0–150', 'Caliper', 'C150-3381', '0.01', 'mm', '0', '150', 12, 60],
  ['SC-05', 'Bench scale 3 kg', 'Bench scale', 'SC3-0417', '0.1', 'g', '0', '3000', 12, 80],
  ['PG-8H7', 'Plug gauge 8 H7', 'Plug gauge', 'PG-8-03', null, null, null, null, 24, 100],
] as const

/** The gauge that the bench takes of each kind. */
const usual = new Map<string, string>([
  ['Spring tester', 'SPT-1'],
  ['Brinell tester', 'HT-01'],
  ['Precision micrometer', 'MIC-04'],
  ['Eddy current gauge', 'EC-03'],
])

/** Those that send what they show, for the stand-ins beside the demo plant: what they show about, with what noise, and a unit that is wrong. */
const instruments = [
  { code: 'CAL-02', unit: 'mm', otherUnit: 'g', about: 18.02, noise: 0.06, decimals: 2 },
  { code: 'SC-05', unit: 'g', otherUnit: 'mm', about: 412.5, noise: 1.2, decimals: 1 },
  { code: 'HT-01', unit: 'HBW', otherUnit: 'N', about: 154.5, noise: 2, decimals: 1 },
  { code: 'SPT-1', unit: 'N', otherUnit: 'kg', about: 5.02, noise: 0.1, decimals: 2 },
] as const

/** Gives each of them its key. Gives what the stand-ins have to know. */
export async function connectInstruments(engineer: ApiClient): Promise<object[]> {
  const given: object[] = []
  for (const instrument of instruments) {
    const [gauge] = (await engineer.call(equip.listGauges, { query: { q: instrument.code } })).rows
    if (!gauge) throw new Error(`The demo has no ${instrument.code}.`)
    const { key } = await engineer.call(equip.giveInstrumentKey, { params: { id: gauge.id } })
    given.push({ ...instrument, name: gauge.name, key })
  }
  return given
}

/** Fills the register: most are good, MIC-07 goes over its day while the demo is played, MIC-11 fell from the bench. */
export async function seedGauges(engineer: ApiClient, today: Date): Promise<void> {
  const ids = new Map<string, string>()
  for (const [code, name, isAsked, isWaivable] of kinds)
    ids.set(code, (await engineer.call(define.gaugeKinds.create, { body: { code, name, isAsked, isWaivable, isActive: true } })).id)
  for (const [code, name, kind, serialNumber, resolution, unit, lower, upper, intervalMonths, age] of gauges) {
    const calibratedOn = new Date(today.getTime() - age * 86_400_000).toISOString().slice(0, 10)
    const body = { code, name, kindId: ids.get(kind) ?? '', maker: '', serialNumber, resolution, unit, lower, upper, calibratedOn, intervalMonths }
    const { id, version } = await engineer.call(equip.createGauge, { body })
    if (code === 'MIC-11')
      await engineer.call(equip.setGaugeState, { params: { id }, body: { version, state: 'locked', reason: 'Fell from the bench; to be checked' } })
  }
}

/** Takes the usual gauge in hand for each line that asks for a kind. Gives which gauge each line is measured with. */
export async function takeGauges(inspector: ApiClient, { id, lines, gauges: chosen }: Inspection): Promise<Map<string, string>> {
  const taken = new Map(chosen.map(({ lineId, gaugeId }) => [lineId, gaugeId]))
  for (const line of lines) {
    const code = usual.get(line.details.gaugeKind ?? '')
    if (code === undefined || taken.has(line.id)) continue
    const { gauges: now } = await inspector.call(record.chooseGauge, { params: { id }, body: { lineId: line.id, code, reason: '' } })
    for (const { lineId, gaugeId } of now) taken.set(lineId, gaugeId)
  }
  return taken
}
