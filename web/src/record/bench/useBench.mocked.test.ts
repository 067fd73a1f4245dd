import { describeFinding } from '@nemawashi/core'
import { noDetails, type Inspection, type InspectionLine, type ReadingInput } from '@nemawashi/contract'
import { flushPromises, mount } from '@vue/test-utils'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { defineComponent } from 'vue'

const kept: ReadingInput[] = []
vi.mock('./benchOutbox', async () => {
  const { ref } = await import('vue')
  const outboxTick = ref(0)
  const waiting: (ReadingInput & { inspectionId: string; sequence: number; refusal: null })[] = []
  return {
    outboxTick,
    storedListeners: new Set(),
    restoreOutbox: async () => undefined,
    benchOutbox: {
      isUnreachable: false,
      isKept: true,
      ofOthers: () => [],
      of: () => [...waiting],
      add: async (inspectionId: string, inputs: ReadingInput[]) => {
        for (const input of inputs) {
          kept.push(input)
          waiting.push({ ...input, inspectionId, sequence: waiting.length, refusal: null })
        }
        outboxTick.value += 1
      },
      flush: async () => undefined,
      clear: () => waiting.splice(0),
    },
  }
})
const { useBench } = await import('./useBench')
const { benchOutbox } = (await import('./benchOutbox')) as unknown as { benchOutbox: { clear(): void } }

const line = (change: Partial<InspectionLine>): InspectionLine => ({
  id: 'gap',
  position: 0,
  code: 'C',
  revision: 1,
  name: 'Gate gap',
  kind: 'measured',
  class: 'major',
  method: '',
  instruction: '',
  nominal: '0.30',
  lower: '0.25',
  upper: '0.35',
  unit: 'mm',
  resolution: '0.01',
  acceptableState: null,
  details: noDetails,
  stage: '',
  stages: null,
  severity: null,
  variables: null,
  counting: 'nonconforming',
  sampleSize: 4,
  accept: 0,
  samplingReasoning: '',
  isRequired: true,
  isDecisive: false,
  alsoFor: [],
  shared: [],
  adaptedFrom: null,
  ...change,
})
const inspection = {
  id: 'i',
  state: 'toDo',
  version: 1,
  lines: [line({}), line({ id: 'burr', name: 'Burrs', kind: 'judged', sampleSize: 2 })],
  readings: [],
  gauges: [],
  wantsGauge: [],
  balances: [],
} as unknown as Inspection

let bench: ReturnType<typeof useBench>
async function sit(): Promise<void> {
  mount(
    defineComponent({
      setup() {
        bench = useBench('i')
        return () => null
      },
    }),
  )
  await bench.begin()
  await flushPromises()
}
beforeEach(async () => {
  localStorage.clear()
  kept.length = 0
  benchOutbox.clear()
  vi.stubGlobal('fetch', async () => new Response(JSON.stringify(inspection)))
  await sit()
})
afterEach(() => vi.unstubAllGlobals())

function type(text: string): void {
  bench.typed.value = text
  bench.enter()
}

describe('typing at the bench', () => {
  it('keeps a value with the decimals of the resolution and goes to the next piece', () => {
    type('0,3')
    expect(kept).toMatchObject([{ lineId: 'gap', piece: 1, value: '0.30', isConfirmedOutside: false, corrects: null }])
    expect([bench.at.value, bench.typed.value]).toEqual([{ line: 0, piece: 2 }, ''])
    expect(describeFinding(bench.finding.value)).toContain('5 readings still blank')
  })

  it('keeps nothing of a line that wants its gauge first, and no keystroke is lost; then every value says its gauge', () => {
    const use = {
      lineId: 'gap',
      gaugeId: 'g2',
      code: 'F-2',
      name: 'Feeler',
      dueOn: null,
      objections: [],
      reason: '',
      byName: '',
      at: '',
      isSending: false,
    }
    bench.inspection.value = { ...inspection, wantsGauge: ['gap'] }
    type('0.3')
    bench.paste('0.31\n0.32')
    type('0.9')
    bench.confirm()
    expect([kept, bench.typed.value, bench.doubt.value, bench.at.value.piece]).toEqual([[], '0.9', null, 1])
    expect(bench.message.value).toContain('Scan or type the gauge of the line first')
    bench.inspection.value = { ...inspection, wantsGauge: ['gap'], gauges: [{ ...use, gaugeId: 'g1', code: 'F-1' }, use] }
    type('0.3')
    bench.go({ line: 0, piece: 1 })
    bench.withdraw()
    expect(kept.map(({ value, gaugeId }) => [value, gaugeId])).toEqual([
      ['0.30', 'g2'],
      [null, null],
    ])
  })

  it('says of each value who inspected, where that was another than who types', () => {
    type('0.3')
    bench.inspectedById.value = 'hana'
    type('0.31')
    bench.go({ line: 0, piece: 2 })
    bench.withdraw()
    expect(kept.map(({ value, inspectedById }) => [value, inspectedById])).toEqual([
      ['0.30', null],
      ['0.31', 'hana'],
      [null, null],
    ])
  })

  it('shows the mark while it is typed, and none while it is no value', () => {
    const marks = ['0.3', '0.36', '-', '0.301', ''].map((text) => {
      bench.typed.value = text
      return bench.liveMark.value
    })
    expect(marks).toEqual(['conforming', 'nonconforming', null, null, null])
  })

  it('asks about a value outside the limits and keeps nothing before the answer', () => {
    type('0.52')
    expect(bench.doubt.value?.values).toEqual([{ piece: 1, value: '0.52' }])
    expect(kept).toEqual([])
    bench.enter()
    expect(kept).toEqual([])
    bench.deny()
    expect([bench.doubt.value, bench.typed.value]).toEqual([null, '0.52'])
    bench.enter()
    bench.confirm()
    expect(kept).toMatchObject([{ value: '0.52', isConfirmedOutside: true }])
    expect(bench.at.value.piece).toBe(2)
  })

  it('says what is wrong with a value that cannot be read, and keeps it in the field', () => {
    type('0.301')
    expect(bench.message.value).toContain('finer than the resolution 0.01')
    expect([kept.length, bench.typed.value]).toEqual([0, '0.301'])
  })

  it('corrects an answered cell by naming the answer that it corrects', () => {
    type('0.30')
    bench.go({ line: 0, piece: 1 })
    type('0.31')
    expect(kept[1]).toMatchObject({ piece: 1, value: '0.31', corrects: kept[0]?.id })
    bench.go({ line: 0, piece: 1 })
    bench.withdraw()
    expect(kept[2]).toMatchObject({ value: null, corrects: kept[1]?.id })
    expect(bench.current.value?.value).toBeNull()
  })

  it('takes O and X on a judged line only', () => {
    bench.answer('O')
    expect(kept).toEqual([])
    bench.go({ line: 1, piece: 1 })
    bench.answer('X')
    expect(kept).toMatchObject([{ lineId: 'burr', piece: 1, value: 'X' }])
    expect(bench.finding.value.lines[1]).toMatchObject({ inspected: 1, nonconforming: 1 })
  })

  it('goes across the lines of a piece when that is wanted, and remembers it', async () => {
    bench.direction.value = 'across'
    await flushPromises()
    type('0.30')
    expect(bench.at.value).toEqual({ line: 1, piece: 1 })
    await sit()
    expect(bench.direction.value).toBe('across')
  })
})

describe('a pasted column', () => {
  it('fills down from the current cell', () => {
    bench.go({ line: 0, piece: 2 })
    bench.paste('0.30\t9\r\n0,31\r\n')
    expect(kept.map((input) => [input.piece, input.value])).toEqual([
      [2, '0.30'],
      [3, '0.31'],
    ])
    expect(bench.at.value).toEqual({ line: 0, piece: 4 })
  })

  it('is taken whole or not at all', () => {
    bench.paste('0.30\n0.31 kg\n')
    expect(bench.message.value).toContain('Nothing was taken')
    bench.paste('0.30\n0.30\n0.30\n0.30\n0.30\n')
    expect(bench.message.value).toContain('5 values were pasted, 4 cells are left')
    expect(kept).toEqual([])
  })

  it('with values outside the limits is asked about once, for all of them', () => {
    bench.paste('0.30\n0.40\n0.50\n')
    expect(bench.doubt.value?.values.map((entry) => entry.piece)).toEqual([2, 3])
    bench.confirm()
    expect(kept.map((input) => input.value)).toEqual(['0.30', '0.40', '0.50'])
    expect(bench.at.value.piece).toBe(4)
  })

  it('of answers takes o and x in any case on a judged line', () => {
    bench.go({ line: 1, piece: 1 })
    bench.paste('o\nX')
    expect(kept.map((input) => input.value)).toEqual(['O', 'X'])
  })
})

describe('a half-typed value', () => {
  it('is there again after a reload, in its cell', async () => {
    bench.go({ line: 0, piece: 3 })
    bench.typed.value = '0.3'
    await flushPromises()
    await sit()
    expect([bench.at.value, bench.typed.value]).toEqual([{ line: 0, piece: 3 }, '0.3'])
  })
})
