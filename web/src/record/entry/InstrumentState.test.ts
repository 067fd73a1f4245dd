import { mount } from '@vue/test-utils'
import { expect, it } from 'vitest'
import InstrumentState from './InstrumentState.vue'
import type { Listening } from './useInstruments'

const said = (listening: Partial<Listening> | null) =>
  mount(InstrumentState, {
    props: { listening: listening && { isOpen: true, heardAtMs: Date.now(), replacedBy: null, ...listening } },
  }).text()

it('says before anybody presses whether the instrument would be heard', () => {
  expect(said({})).toMatch(/^Connected/)
  expect(said({ heardAtMs: Date.now() - 29_000 })).toMatch(/^Connected/)
  expect(said({ heardAtMs: Date.now() - 31_000 })).toMatch(/^Silent since/)
  expect(said({ heardAtMs: null })).toContain('not connected')
  expect(said({ replacedBy: 'Rosa, I-2' })).toContain('Heard elsewhere now (Rosa, I-2)')
  for (const away of [null, { isOpen: false }]) expect(said(away)).toContain('The server is not reached')
})
