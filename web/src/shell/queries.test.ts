import { people } from '@nemawashi/contract'
import { flushPromises } from '@vue/test-utils'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { computed, effectScope, ref, type EffectScope } from 'vue'
import { queryClient, useThing } from './queries'
import { useEdited } from './useEdited'

const ids = ['01900000-0000-7000-8000-00000000000a', '01900000-0000-7000-8000-00000000000b'] as const
let waiting: { address: string; answer: (body: object) => void }[]
let scope: EffectScope
beforeEach(() => {
  waiting = []
  scope = effectScope()
  vi.stubGlobal(
    'fetch',
    (address: string) => new Promise((resolve) => waiting.push({ address, answer: (body) => resolve(new Response(JSON.stringify(body))) })),
  )
})
afterEach(() => {
  scope.stop()
  queryClient.clear()
  vi.unstubAllGlobals()
})
const settle = async () => {
  for (let i = 0; i < 5; i++) await flushPromises()
}

describe('a thing of the server', () => {
  it('is what belongs to the address asked for last, in whatever order the answers come', async () => {
    const id = ref<string>(ids[0])
    const { data, isLoading } = scope.run(() => useThing(people.getPerson, () => ({ params: { id: id.value } })))!
    await settle()
    id.value = ids[1]
    await settle()
    expect([data.value, isLoading.value]).toEqual([undefined, true])
    waiting[1]?.answer({ name: 'B' })
    await settle()
    waiting[0]?.answer({ name: 'A' })
    await settle()
    expect(data.value).toEqual({ name: 'B' })
  })

  it('is asked for nothing while there is no address, and shows nothing then', async () => {
    const id = ref<string | null>(null)
    const { data, isLoading } = scope.run(() => useThing(people.getPerson, () => (id.value === null ? null : { params: { id: id.value } })))!
    await settle()
    expect([waiting.length, data.value, isLoading.value]).toEqual([0, undefined, false])
  })
})

describe('an edited copy', () => {
  const edit = () => {
    const address = ref<string | null>('x/1')
    const source = ref<{ name: string } | undefined>(undefined)
    const made = scope.run(() =>
      useEdited(
        () => address.value,
        computed(() => source.value),
        () => ({ name: '' }),
      ),
    )!
    return { address, source, ...made }
  }

  it('follows what arrives until something is typed, and is never written over then', async () => {
    const { source, edited, isChanged } = edit()
    source.value = { name: 'one' }
    await settle()
    source.value = { name: 'two' }
    await settle()
    expect(edited.value).toEqual({ name: 'two' })
    edited.value!.name = 'mine'
    source.value = { name: 'three' }
    await settle()
    expect([edited.value, isChanged.value]).toEqual([{ name: 'mine' }, true])
  })

  it('is never carried to another address: there it is blank until that answer is there', async () => {
    const { address, source, edited, isChanged } = edit()
    source.value = { name: 'one' }
    await settle()
    edited.value!.name = 'mine'
    address.value = 'x/2'
    source.value = undefined
    await settle()
    expect([edited.value, isChanged.value]).toEqual([null, false])
    source.value = { name: 'other' }
    await settle()
    expect(edited.value).toEqual({ name: 'other' })
    address.value = 'x/new'
    await settle()
    expect(edited.value).toEqual({ name: '' })
  })

  it('is blank for a new one after a new one, also where what was saved between has not come yet', async () => {
    const { address, edited, show } = edit()
    address.value = 'x/new'
    await settle()
    show({ name: 'saved' })
    address.value = 'x/3'
    await settle()
    address.value = 'x/new'
    await settle()
    expect(edited.value).toEqual({ name: '' })
  })
})
