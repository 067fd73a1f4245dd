import { noDetails, type Inspection, type InspectionLine, type Reading } from '@nemawashi/contract'
import { describe, expect, it } from 'vitest'
import { smallPicture } from '../../testing/smallPicture'
import { reportPaper } from './reportPdf'

const line = (change: Partial<InspectionLine>): InspectionLine =>
  ({
    id: 'l',
    position: 0,
    code: 'C-1',
    revision: 1,
    name: 'Gap',
    kind: 'measured',
    class: 'major',
    method: '',
    instruction: '',
    nominal: null,
    lower: '10',
    upper: '25',
    unit: 'mm',
    resolution: '1',
    acceptableState: null,
    details: noDetails,
    stages: null,
    shared: [],
    variables: null,
    counting: 'nonconforming',
    sampleSize: 13,
    accept: 0,
    samplingReasoning: 'lot 500, level II',
    isRequired: true,
    isDecisive: false,
    ...change,
  }) as InspectionLine
const readings = (line: InspectionLine, count: number, bad = 0): Reading[] =>
  Array.from(
    { length: count },
    (_, i) =>
      ({
        id: `r${i}`,
        lineId: line.id,
        piece: i + 1,
        value: i < bad ? '30' : '17',
        mark: i < bad ? 'nonconforming' : 'conforming',
        typedAt: '2026-03-02T08:00:00Z',
        recordedByName: 'Rosa',
        inspectedByName: null,
        corrections: 0,
      }) as Reading,
  )
const inspection = (lines: InspectionLine[], answers: Reading[], change: Partial<Inspection> = {}): Inspection =>
  ({
    id: 'i',
    code: 'I-000001',
    state: 'finished',
    partCode: 'P-1',
    partName: 'Part',
    partRevision: 'A',
    unit: 'piece',
    lotCode: 'L-1',
    unitLabel: null,
    supplierLot: 'S',
    supplierName: 'Łódź Żelazo',
    originKind: 'delivery',
    originCode: 'D-1',
    orderNumber: '1',
    planCode: 'PL',
    planName: 'Plan',
    planRevision: 1,
    operationName: 'Receiving',
    operationKind: 'receiving',
    lotSize: 500,
    isGate: true,
    dueAt: '2026-03-02T05:00:00.000Z',
    openedAt: '2026-03-02T08:00:00Z',
    openedByName: null,
    openReason: null,
    startedAt: null,
    startedByName: null,
    finishedAt: null,
    finishedByName: null,
    lines,
    readings: answers,
    gauges: [],
    evidence: [],
    finding: {
      verdict: 'acceptable',
      lines: lines.map((entry) => ({
        name: entry.name,
        inspected: 1,
        blank: 0,
        nonconforming: 0,
        accept: 0,
        verdict: 'acceptable',
        counting: 'nonconforming',
        isDecisive: false,
        because: { kind: 'counted', stage: null, accept: 0, reject: null, returnsToNormal: false },
      })),
    },
    balances: [{ standing: 'onHold', quantity: 500 }],
    leftOut: [],
    dropped: [],
    skips: [],
    decision: null,
    decisions: [],
    cancelledAt: null,
    ...change,
  }) as unknown as Inspection

const printing = { at: new Date('2026-03-02T12:00:00Z'), timeZone: 'Europe/Vienna', head: { seq: 7, hash: 'f'.repeat(64), at: '', seal: '' } }

async function print(inspection: Inspection, pictures: Record<string, Uint8Array> = {}): Promise<{ text: string; pages: number; fonts: string[] }> {
  const text = Buffer.from(await reportPaper.run({ content: { inspection, pictures }, printing }, () => undefined)).toString('latin1')
  return {
    text,
    pages: text.match(/\/Type \/Page\b/g)?.length ?? 0,
    fonts: [...new Set(text.match(/\/BaseFont \/[A-Z]+\+[\w-]+/g) ?? [])].map((font) => font.split('+')[1] ?? ''),
  }
}

describe('the report on paper', () => {
  it('fits a small inspection on one page and goes on over as many as it needs', async () => {
    const small = line({})
    expect((await print(inspection([small], readings(small, 13)))).pages).toBe(1)
    const large = line({ sampleSize: 500 })
    const printed = await print(inspection([large], readings(large, 500)))
    expect(printed.pages).toBeGreaterThan(2)
    expect(printed.text).toContain('/Title')
  })

  it('embeds its fonts, and a second one for what they lack: µ and arrows, and Polish names too', async () => {
    const coat = line({ unit: 'µm' })
    const { fonts } = await print(inspection([coat], readings(coat, 13)))
    expect(fonts.filter((font) => font.startsWith('AtkinsonHyperlegible')).length).toBeGreaterThanOrEqual(3)
    expect(fonts).toContain('DejaVuSans')
  })

  it('does not print a thousand pages: of a very large sample it lists the nonconforming pieces', async () => {
    const huge = line({ sampleSize: 20_000 })
    expect((await print(inspection([huge], readings(huge, 20_000, 12)))).pages).toBe(1)
  })

  it('has the pictures that were taken of pieces, each with its place; one that is none is named and stops nothing', async () => {
    const gap = line({})
    const said = { id: 'e', lineId: gap.id, piece: 1, faultCode: 'PORE', faultName: 'Pore', count: 2, words: '', at: '', byName: 'Rosa' }
    const document = { id: 'd', name: 'piece.png', mediaType: 'image/png' }
    const shown = inspection([gap], readings(gap, 3), { evidence: [{ ...said, document, place: { x: 500, y: 0 } }] })
    const images = async (pictures: Record<string, Uint8Array>) => (await print(shown, pictures)).text.match(/\/Subtype \/Image/g)?.length ?? 0
    expect(await images({ d: smallPicture() })).toBe(1)
    expect(await images({ d: Buffer.from('no picture at all') })).toBe(0)
    expect(await images({})).toBe(0)
  })

  it('is printed before anything is answered or decided, too', async () => {
    expect(
      (await print(inspection([line({}), line({ id: 'k', kind: 'judged', lower: null, upper: null, unit: null, acceptableState: 'No burr' })], [])))
        .pages,
    ).toBe(1)
  })
})
