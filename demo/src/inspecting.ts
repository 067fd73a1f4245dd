import { askedOf, endpoints, type Inspection, type InspectionLine, type ReadingInput } from '@nemawashi/contract'
import type { ApiClient } from '@nemawashi/contract/client'
import { readAnswer } from '@nemawashi/core'
import { Chance, Process } from './chance'
import { surfacePicture } from './drawnDocuments'
import { takeGauges } from './gauging'
import { judged, measured, others } from './plant'

const { define, record } = endpoints

/** What is wrong with a lot, when the story wants something to be: a shift in scatters, or a share of nonconforming pieces. */
export interface Trouble {
  readonly code: string
  readonly shift?: number
  readonly share?: number
}

/** Takes readings at the bench as an inspector would: piece by piece from processes that belong to the supplier. */
export class Bench {
  private isPictured = false
  private readonly processes = new Map<string, Process>()

  constructor(
    private readonly chance: Chance,
    private readonly now: () => Date,
    private readonly newId: () => string,
  ) {}

  /** Records the share of the cells that was asked for (1: all of them). */
  async record(inspector: ApiClient, inspection: Inspection, share: number, trouble: Trouble | null): Promise<void> {
    const readings: ReadingInput[] = []
    const gauges = await takeGauges(inspector, inspection)
    for (const line of inspection.lines) {
      const process = this.processOf(inspection.supplierName, line.code)
      process?.nextLot()
      const values: string[] = []
      for (let piece = 1; piece <= Math.ceil(neededCells(line, values) * share); piece++) {
        const value = this.valueOf(line, process, trouble?.code === line.code ? trouble : null)
        values.push(value)
        readings.push({
          id: this.newId(),
          lineId: line.id,
          piece,
          value,
          typedAt: this.now().toISOString(),
          isConfirmedOutside: true,
          corrects: null,
          gaugeId: gauges.get(line.id) ?? null,
        })
      }
    }
    for (let from = 0; from < readings.length; from += 200) {
      await inspector.call(record.recordReadings, { params: { id: inspection.id }, body: { readings: readings.slice(from, from + 200) } })
    }
    const look = inspection.lines.find(({ code }) => code === 'C-LOOK')
    const seen = look && readings.find(({ lineId, value }) => lineId === look.id && (value === 'M' || value === 'S'))
    if (seen && !this.isPictured) await this.takePicture(inspector, inspection.id, seen)
  }

  /** The first surface that is not even is shown, with the place where it is not. */
  private async takePicture(inspector: ApiClient, id: string, { lineId, piece, value }: ReadingInput): Promise<void> {
    this.isPictured = true
    const content = surfacePicture(new Chance(74)).toString('base64')
    const picture = await inspector.call(define.addDocument, { body: { name: 'surface under the lamp.png', mediaType: 'image/png', content } })
    const [words, x] = value === 'M' ? (['matt beside the gate', 500] as const) : (['streaks along the spine', 830] as const)
    const body = { lineId, piece, faultCode: null, count: null, words, documentId: picture.id, place: { x, y: 400 } }
    await inspector.call(record.addEvidence, { params: { id }, body })
  }

  private processOf(supplier: string, code: string): Process | null {
    const key = `${supplier} ${code}`
    const known = this.processes.get(key)
    if (known) return known
    const seed = measured.find(([name]) => name === code)
    if (!seed) return null
    const process = new Process(this.chance, seed[9], seed[10])
    this.processes.set(key, process)
    return process
  }

  private valueOf(line: InspectionLine, process: Process | null, trouble: Trouble | null): string {
    const other = others.find(({ code }) => code === line.code)
    if (other) {
      const isOff = this.chance.next() < (trouble?.share ?? other.share)
      if (other.kind === 'noted') return `certificate ${this.chance.whole(10_000, 99_999)}`
      if (other.kind === 'coded') return isOff ? this.chance.pick(['M', 'S']) : 'E'
      return isOff ? `${this.chance.pick(['PORE', 'SHUT', 'LAP'])} 1` : '0'
    }
    if (process === null) {
      const usual = judged.find(([code]) => code === line.code)?.[4] ?? 0
      return this.chance.next() < (trouble?.share ?? usual) ? 'X' : 'O'
    }
    const seed = measured.find(([code]) => code === line.code)
    const scatter = seed?.[10] ?? 0
    const isHit = trouble === null ? false : this.chance.next() < (trouble.share ?? 1)
    const value = process.piece() + (isHit ? (trouble?.shift ?? 0) * scatter : 0)
    const places = (line.resolution?.split('.')[1] ?? '').length
    return value.toFixed(places)
  }
}

/** Cells that have to be answered: of a plan of several stages, those up to the stage that decides. */
function neededCells(line: InspectionLine, values: readonly string[]): number {
  if (!line.stages) return line.sampleSize
  let end = 0
  for (const { sampleSize, accept, reject } of line.stages) {
    end += sampleSize
    if (values.length < end) return end
    const found = values.slice(0, end).filter((value) => readAnswer(askedOf(line), value).mark === 'nonconforming').length
    if (found >= reject || (accept !== null && found <= accept)) return end
  }
  return end
}
