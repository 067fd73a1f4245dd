import type { Characteristic } from '@nemawashi/contract'
import { define } from '@nemawashi/contract'
import { flushPromises, mount } from '@vue/test-utils'
import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { defineComponent } from 'vue'
import { Failure } from '../../shell/api'
import { useSession } from '../../shell/session'
import { useDefinition } from './useDefinition'

type State = 'draft' | 'released' | 'retired'
type Shown = { name: string }
const revision = (number: number, state: State, name: string) => ({
  id: `r${number}`,
  revision: number,
  state,
  releasedAt: null,
  releasedByName: null,
  name,
})
const definition = (version: number, revisions: ReturnType<typeof revision>[]) => ({ id: 'c1', code: 'C-1', version, revisions })
type Definition = ReturnType<typeof definition>

let onServer: Definition
let saved: string[]
let update: (version: number, name: string) => Promise<Definition>
let form: ReturnType<typeof useDefinition<Definition, Shown>>

beforeEach(() => {
  setActivePinia(createPinia())
  useSession().person = {
    id: 'p',
    name: 'Ilse',
    initials: 'IK',
    signInName: 'ilse',
    roles: ['qualityEngineer'],
    isActive: true,
    dayMinutes: 420,
    version: 1,
  }
  onServer = definition(3, [revision(2, 'draft', 'new name'), revision(1, 'released', 'old name')])
  saved = []
  update = async (version, name) => (onServer = definition(version + 1, [revision(2, 'draft', name), ...onServer.revisions.slice(1)]))
})
afterEach(() => vi.unstubAllGlobals())

async function open(id = 'c1'): Promise<void> {
  mount(
    defineComponent({
      setup() {
        form = useDefinition<Definition, Shown>({
          id,
          load: async () => onServer,
          create: async (code) => ({ ...definition(1, [revision(1, 'draft', form.edited.value.name)]), code }),
          update: (version) => update(version, form.edited.value.name),
          editedOf: (_definition, shown) => ({ name: (shown as { name: string } | null)?.name ?? '' }),
          saved: (savedId) => saved.push(savedId),
        })
        return () => null
      },
    }),
  )
  await flushPromises()
}

describe('a definition on the screen', () => {
  it('shows the draft, which can be changed, and the released revision, which cannot', async () => {
    await open()
    expect([form.edited.value.name, form.isFixed.value, form.hasDraft.value, form.hasReleased.value]).toEqual(['new name', false, true, true])
    form.chosen.value = 'r1'
    await flushPromises()
    expect([form.edited.value.name, form.isFixed.value]).toEqual(['old name', true])
  })

  it('knows when something was changed, and undoes it', async () => {
    await open()
    expect(form.isChanged.value).toBe(false)
    form.edited.value.name = 'typed'
    expect(form.isChanged.value).toBe(true)
    form.reset()
    expect([form.edited.value.name, form.isChanged.value]).toEqual(['new name', false])
  })

  it('is saved with the version that was seen, and tells the list', async () => {
    await open()
    form.edited.value.name = 'typed'
    await form.submit()
    expect([onServer.version, onServer.revisions[0]?.name, saved]).toEqual([4, 'typed', ['c1']])
    expect(form.isChanged.value).toBe(false)
  })

  it('that is new is created under the code that was typed', async () => {
    await open('new')
    expect([form.isNew, form.isFixed.value, form.entity.value]).toEqual([true, false, null])
    form.code.value = 'C-9'
    form.edited.value.name = 'first'
    await form.submit()
    expect(form.entity.value).toMatchObject({ code: 'C-9', revisions: [{ name: 'first' }] })
  })

  it('changed by somebody else is compared; mine is saved over theirs only when I say so', async () => {
    await open()
    form.edited.value.name = 'mine'
    const real = update
    update = async () => {
      throw new Failure('stale_version', 'Somebody changed this.', '')
    }
    onServer = definition(7, [revision(2, 'draft', 'theirs'), revision(1, 'released', 'old name')])
    await form.submit()
    expect([form.saver.isStale.value, form.theirs.value?.revisions[0]?.name, form.edited.value.name]).toEqual([true, 'theirs', 'mine'])
    update = real
    await form.keepMine()
    expect([onServer.version, onServer.revisions[0]?.name, form.theirs.value]).toEqual([8, 'mine', null])
  })

  it('changed by somebody else can be taken as it is', async () => {
    await open()
    form.edited.value.name = 'mine'
    form.theirs.value = definition(7, [revision(2, 'draft', 'theirs')])
    form.takeTheirs()
    expect([form.edited.value.name, form.theirs.value, form.isChanged.value]).toEqual(['theirs', null, false])
  })

  it('goes a step (release, revise, retire) with the version that was seen', async () => {
    const sent: [string, unknown][] = []
    vi.stubGlobal('fetch', async (address: string, init: RequestInit) => {
      sent.push([address, JSON.parse(init.body as string)])
      return new Response(JSON.stringify(definition(4, [revision(2, 'released', 'new name')])))
    })
    await open()
    await form.step(define.releaseCharacteristic, 'released')
    expect(sent).toEqual([['/api/v1/characteristics/c1/release', { version: 3 }]])
    expect([form.hasDraft.value, form.isFixed.value]).toEqual([false, true])
  })

  it('is only looked at by people who are no engineers', async () => {
    useSession().person = { id: 'p', name: 'Jun', initials: 'JO', signInName: 'jun', roles: ['auditor'], isActive: true, dayMinutes: 420, version: 1 }
    await open()
    expect(form.isFixed.value).toBe(true)
  })
})

it('fits the definitions of the contract', () => {
  const fits: Pick<Characteristic, 'id' | 'code' | 'version'> = definition(1, [])
  expect(fits.code).toBe('C-1')
})
