import { mount } from '@vue/test-utils'
import { describe, expect, it, vi } from 'vitest'
import { defineComponent, h } from 'vue'
import { activeKeys, useKeys, type Key } from './keys'

function page(keys: Key[]) {
  return mount(
    defineComponent({
      setup() {
        useKeys(keys)
        return () => h('div', [h('input'), h('textarea')])
      },
    }),
    { attachTo: document.body },
  )
}
const press = (target: EventTarget, key: string, change: KeyboardEventInit = {}) => {
  const event = new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true, ...change })
  target.dispatchEvent(event)
  return event
}

describe('the keys of a screen', () => {
  it('run what they stand for, and keep the browser from its own meaning only then', () => {
    const run = vi.fn()
    page([{ key: 'J', words: 'next', run }])
    expect(press(document.body, 'j').defaultPrevented).toBe(true)
    expect(press(document.body, 'k').defaultPrevented).toBe(false)
    expect(run).toHaveBeenCalledOnce()
  })

  it('never take a letter out of a field that is typed into, unless they say so', () => {
    const plain = vi.fn()
    const everywhere = vi.fn()
    const wrapper = page([
      { key: 'J', words: 'next', run: plain },
      { key: 'Ctrl+K', words: 'search', run: everywhere, inFields: true },
    ])
    press(wrapper.find('input').element, 'j')
    press(wrapper.find('textarea').element, 'j')
    press(wrapper.find('input').element, 'k', { ctrlKey: true })
    expect(plain).not.toHaveBeenCalled()
    expect(everywhere).toHaveBeenCalledOnce()
  })

  it('leave a capital letter to a field of words, and take it from one of numbers', () => {
    const run = vi.fn()
    const wrapper = page([{ key: 'Shift+G', words: 'gauge', run, inFields: true }])
    expect(press(wrapper.find('input').element, 'G', { shiftKey: true }).defaultPrevented).toBe(false)
    expect(press(wrapper.find('textarea').element, 'G', { shiftKey: true }).defaultPrevented).toBe(false)
    expect(run).not.toHaveBeenCalled()
    wrapper.find('input').element.setAttribute('inputmode', 'decimal')
    expect(press(wrapper.find('input').element, 'G', { shiftKey: true }).defaultPrevented).toBe(true)
    press(document.body, 'G', { shiftKey: true })
    expect(run).toHaveBeenCalledTimes(2)
  })

  it('leave Alt to the browser and shifted keys apart', () => {
    const run = vi.fn()
    page([{ key: 'Shift+D', words: 'dark', run }])
    press(document.body, 'd')
    press(document.body, 'D', { shiftKey: true, altKey: true })
    expect(run).not.toHaveBeenCalled()
    press(document.body, 'D', { shiftKey: true })
    expect(run).toHaveBeenCalledOnce()
  })

  it('are listed in the help while the screen is there, those without an action too, and gone with it', () => {
    const wrapper = page([
      { key: 'A', words: 'attach', run: vi.fn() },
      { key: 'O, X', words: 'conforming, nonconforming' },
    ])
    expect(activeKeys.map((key) => key.words)).toEqual(expect.arrayContaining(['attach', 'conforming, nonconforming']))
    wrapper.unmount()
    expect(activeKeys).toHaveLength(0)
    expect(press(document.body, 'a').defaultPrevented).toBe(false)
  })
})
