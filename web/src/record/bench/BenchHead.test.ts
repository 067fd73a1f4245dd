import { noDetails, type InspectionLine } from '@nemawashi/contract'
import { mount } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import BenchHead from './BenchHead.vue'

const line = (change: object = {}) =>
  ({
    ...{ id: 'l', name: 'Gate gap', method: 'Caliper', instruction: '', samplingReasoning: 'AQL 1 % → 13 pieces, Ac 0' },
    ...{ details: noDetails, sampleSize: 20, stages: null, alsoFor: [], shared: [], adaptedFrom: null },
    ...change,
  }) as unknown as InspectionLine
function show(props: object = {}) {
  const AdaptDialog = { name: 'AdaptDialog', props: ['answered'], template: '<i data-test="dialog">{{ answered }}</i>' }
  return mount(BenchHead as never, {
    props: { inspection: {}, line: line(), piece: 3, asked: 20, cells: new Map(), mayAdapt: false, ...props } as never,
    global: { stubs: { AdaptDialog, 'v-btn': { template: '<button type="button"><slot /></button>' }, DocumentShelf: true, RichText: true } },
  })
}

describe('the head of a line at the bench', () => {
  it('says which piece of how many, how it is measured, and how its sample came about', () => {
    const words = show().text().replaceAll(/\s+/g, ' ')
    for (const told of ['Gate gap', 'piece 3 of 20', 'Caliper', 'AQL 1 % → 13 pieces, Ac 0']) expect(words).toContain(told)
    // Also beside an instruction, which may say nothing of the gauge.
    const told = show({ line: line({ instruction: 'Hold it flat', details: { ...noDetails, gaugeKind: 'Height gauge' } }) })
    expect(told.find('[data-test=how]').text()).toBe('Caliper · Height gauge')
  })

  it('says in which stage of a staged plan a piece is, and that a summary is one for all', () => {
    const stages = [{ sampleSize: 8 }, { sampleSize: 8 }]
    expect(show({ line: line({ stages }), piece: 8, asked: 8 }).text()).toContain('stage 1, piece 8 of 8')
    expect(show({ line: line({ stages }), piece: 9, asked: 16 }).text()).toContain('stage 2, piece 9 of 16')
    expect(show({ line: line({ details: { ...noDetails, recording: 'summary' }, sampleSize: 50 }) }).text()).toContain('one summary of 50 pieces')
  })

  it('offers to change a sample where that is allowed, down to the last piece that has an answer', () => {
    expect(show().find('[data-test=adapt]').exists()).toBe(false)
    const cells = new Map([
      ['l 2', { value: '21.4' }],
      ['l 5', { value: '21.5' }],
      ['l 9', { value: null }],
    ])
    const shown = show({ mayAdapt: true, cells })
    expect([shown.find('[data-test=adapt]').exists(), shown.find('[data-test=dialog]').text()]).toEqual([true, '5'])
  })
})
