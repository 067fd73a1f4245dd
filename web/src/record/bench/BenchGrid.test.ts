import { noDetails, type InspectionLine } from '@nemawashi/contract'
import { mount } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import BenchGrid from './BenchGrid.vue'
import { cellKey, type Answer } from '../entry/cells'
import type { WaitingReading } from '../entry/outbox'

const line = (id: string, sampleSize: number, kind: 'measured' | 'judged'): InspectionLine =>
  ({
    id,
    name: id,
    sampleSize,
    kind,
    unit: kind === 'measured' ? 'mm' : null,
    nominal: null,
    lower: '0',
    upper: '1',
    resolution: '0.01',
    details: noDetails,
    stages: null,
    shared: [] as InspectionLine['shared'],
  }) as InspectionLine
const lines = [line('gap', 3, 'measured'), line('burr', 2, 'judged')]
const answer = (value: string | null, change: Partial<Answer> = {}): Answer => ({
  id: 'a',
  value,
  mark: value === null ? 'notJudged' : 'conforming',
  status: 'stored',
  corrections: 0,
  ...change,
})

function show(cells: [string, number, Answer][], at = { line: 0, piece: 1 }, shown = lines) {
  return mount(BenchGrid, { props: { lines: shown, cells: new Map(cells.map(([id, piece, value]) => [cellKey(id, piece), value])), at } })
}

describe('the grid of the bench', () => {
  it('has pieces down and lines across, and no cell where a line asks for fewer pieces', () => {
    const grid = show([])
    expect(grid.findAll('thead th').map((head) => head.text())).toEqual(['piece', 'gap, mm', 'burr'])
    expect(grid.findAll('tbody tr')).toHaveLength(3)
    expect(grid.findAll('td.unasked')).toHaveLength(1)
  })

  it('shows value, mark and strip of a measured answer, and the mark alone of a judged one', () => {
    const grid = show([
      ['gap', 1, answer('0.5')],
      ['burr', 1, answer('X', { mark: 'nonconforming' })],
    ])
    const [gap, burr] = grid.findAll('tbody tr')[0]?.findAll('td[data-cell]') ?? []
    expect(gap?.text()).toContain('0.5')
    expect(gap?.find('.tolerance').exists()).toBe(true)
    expect(burr?.find('.mark').attributes('aria-label')).toBe('nonconforming')
    expect(burr?.find('.tolerance').exists()).toBe(false)
  })

  it('leaves what could not be stored in the cell where it was typed, said to be not stored', () => {
    const refused = { id: 'r', lineId: 'gap', piece: 2, value: '0.7', refusal: 'another answer stands there' } as WaitingReading
    const rows = mount(BenchGrid, { props: { lines, cells: new Map(), at: { line: 0, piece: 1 }, refused: [refused] } }).findAll('tbody tr')
    expect(rows.map((row) => row.text().includes('0.7 not stored'))).toEqual([false, true, false])
  })

  it('tells what waits to be sent and what was corrected', () => {
    const grid = show([['gap', 2, answer('0.5', { status: 'waiting', corrections: 2 })]])
    const cell = grid.findAll('tbody tr')[1]?.find('td[data-cell]')
    expect(cell?.classes()).toContain('waiting')
    expect(cell?.text()).toContain('corrected')
  })

  it('goes to a cell that is clicked, and not to one that nobody asked for', async () => {
    const grid = show([])
    await grid.findAll('tbody tr')[1]?.findAll('td')[2]?.trigger('click')
    await grid.find('td.unasked').trigger('click')
    expect(grid.emitted('go')).toEqual([[{ line: 1, piece: 2 }]])
  })

  it('shows the pieces around the current one of a large sample, and says so', () => {
    const grid = show([], { line: 0, piece: 700 }, [line('gap', 2000, 'measured')])
    const pieces = grid.findAll('tbody .piece').map((cell) => Number(cell.text()))
    expect(pieces).toHaveLength(150)
    expect(pieces).toContain(700)
    expect(grid.text()).toContain('of 2000')
    expect(grid.find('td.here').exists()).toBe(true)
  })
})
