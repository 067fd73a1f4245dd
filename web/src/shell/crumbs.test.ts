import { mount } from '@vue/test-utils'
import { expect, it } from 'vitest'
import { h, nextTick, ref } from 'vue'
import { crumbs, useCrumbs } from './crumbs'

it('the strip shows the sheet that is open, and the list again once it is closed', async () => {
  const open = ref(false)
  const name = ref('R-1')
  const Sheet = {
    setup() {
      useCrumbs(() => [{ words: 'List', to: '/list' }, { words: name.value }])
      return () => h('p')
    },
  }
  const List = {
    setup() {
      useCrumbs(() => [{ words: 'List' }])
      return () => (open.value ? h(Sheet) : h('div'))
    },
  }
  const list = mount(List)
  const shown = () => crumbs.value.map(({ words }) => words)
  expect(shown()).toEqual(['List'])
  open.value = true
  await nextTick()
  expect(shown()).toEqual(['List', 'R-1'])
  name.value = 'R-2'
  await nextTick()
  expect(document.title).toBe('R-2 · Nemawashi')
  open.value = false
  await nextTick()
  expect(shown()).toEqual(['List'])
  list.unmount()
  await nextTick()
  expect([shown(), document.title]).toEqual([[], 'Nemawashi'])
})
