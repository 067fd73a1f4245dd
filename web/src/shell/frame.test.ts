import { afterEach, describe, expect, it, vi } from 'vitest'
import { createMemoryHistory, createRouter } from 'vue-router'
import { mount } from '@vue/test-utils'
import { defineComponent, h, ref } from 'vue'
import { ask, dialog } from './ask'
import { returnFocus } from './focusReturn'
import { plantClock, plantDay, plantZone, startOfPlantDay } from './plantTime'
import { guardUnsaved, useUnsaved } from './unsaved'
import { differences, pageOf } from '../people/auditWords'
import { browserWords } from '../people/browserWords'

afterEach(() => {
  document.body.innerHTML = ''
  dialog.answer(null)
})

describe('leaving unsaved work', () => {
  const isDirty = ref(true)
  const page = defineComponent(() => {
    useUnsaved(
      () => isDirty.value,
      () => 'the plan PL-1',
    )
    return () => h('p')
  })
  const start = async () => {
    const router = createRouter({ history: createMemoryHistory(), routes: [{ path: '/:path(.*)*', component: page }] })
    guardUnsaved(router)
    await router.push('/a')
    mount(page)
    return router
  }

  it('asks, stays when the answer is to stay, and goes when it is to drop it', async () => {
    const router = await start()
    const leaving = router.push('/b')
    await vi.waitFor(() => expect(dialog.question?.text).toContain('the plan PL-1'))
    dialog.answer(null)
    await leaving
    expect(router.currentRoute.value.path).toBe('/a')
    const again = router.push('/b')
    await vi.waitFor(() => expect(dialog.question).not.toBeNull())
    dialog.answer('')
    await again
    expect(router.currentRoute.value.path).toBe('/b')
  })

  it('asks nothing for another filter of the same page, nor when nothing was changed', async () => {
    const router = await start()
    await router.push('/a?q=bar')
    expect(dialog.question).toBeNull()
    isDirty.value = false
    await router.push('/c')
    expect(router.currentRoute.value.path).toBe('/c')
    isDirty.value = true
  })

  it('keeps the browser from closing the page', async () => {
    await start()
    const event = new Event('beforeunload', { cancelable: true })
    window.dispatchEvent(event)
    expect(event.defaultPrevented).toBe(true)
  })
})

describe('the cursor', () => {
  it('is back where it was when a dialog has gone', async () => {
    document.body.innerHTML = '<input id="value"><div class="v-overlay-container"></div>'
    const value = document.querySelector<HTMLInputElement>('#value') as HTMLInputElement
    returnFocus()
    value.focus()
    value.dispatchEvent(new Event('focusin', { bubbles: true }))
    const overlay = document.createElement('div')
    overlay.className = 'v-overlay'
    document.querySelector('.v-overlay-container')?.append(overlay)
    value.blur()
    overlay.remove()
    await vi.waitFor(() => expect(document.activeElement).toBe(value))
  })

  it('is back where it was when a question was answered', async () => {
    document.body.innerHTML = '<button id="here">x</button>'
    const here = document.querySelector<HTMLButtonElement>('#here') as HTMLButtonElement
    here.focus()
    const answer = ask({ title: 't', text: 'x', yes: 'y' })
    here.blur()
    dialog.answer('because')
    expect(await answer).toBe('because')
    await vi.waitFor(() => expect(document.activeElement).toBe(here))
  })
})

describe('days and times', () => {
  it('are those of the plant, wherever the browser is, also where the clocks change', () => {
    plantZone.value = 'Asia/Tokyo'
    expect([plantDay('2026-03-01T16:30:00Z'), plantClock('2026-03-01T16:30:00Z')]).toEqual(['2026-03-02', '01:30'])
    plantZone.value = 'Europe/Vienna'
    expect(startOfPlantDay('2026-03-29')).toBe('2026-03-28T23:00:00.000Z')
    expect(startOfPlantDay('2026-03-30')).toBe('2026-03-29T22:00:00.000Z')
    plantZone.value = 'UTC'
  })
})

describe('an entry of the audit chain', () => {
  it('leads to the thing, and shows what differed field by field', () => {
    expect(pageOf('lot', 'x')).toBe('/trace/x')
    expect(pageOf('plant', '')).toBeNull()
    expect(differences('{"holdPlaceId":"a","isGate":true}', '{"holdPlaceId":null,"isGate":false}')).toEqual([
      { field: 'hold place', before: 'a', after: '–' },
      { field: 'is gate', before: 'yes', after: 'no' },
    ])
    expect(differences(null, '{"name":"x"}')).toEqual([{ field: 'name', before: '', after: 'x' }])
  })

  it('and a session are told apart by words that people know', () => {
    expect(browserWords('Mozilla/5.0 (Windows NT 10.0) Gecko/20100101 Firefox/140.0')).toBe('Firefox on Windows')
    expect(browserWords('')).toBe('a program')
  })
})
