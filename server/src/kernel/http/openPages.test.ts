import { describe, expect, it } from 'vitest'
import type { Word } from '../database/fellows'
import { OpenPages } from './openPages'

/** Two servers of one plant. */
function servers() {
  let nowMs = 0
  /** Words that are still on the way; null: none is kept back. */
  let onTheWay: (() => void)[] | null = null
  const listeners: ((word: Word) => void)[] = []
  const server = () => {
    let own: (word: Word) => void = () => undefined
    const tell = (word: Word) => {
      const arrive = () => listeners.filter((each) => each !== own).forEach((each) => each(JSON.parse(JSON.stringify(word)) as Word))
      if (onTheWay === null) arrive()
      else onTheWay.push(arrive)
    }
    const onTold = (listen: (word: Word) => void) => void listeners.push((own = listen))
    return new OpenPages({ leads: async () => true, tell, onTold }, () => nowMs)
  }
  const slowly = (act: () => void) => {
    const words = (onTheWay = [] as (() => void)[])
    act()
    onTheWay = null
    for (const arrive of words) arrive()
  }
  return { here: server(), there: server(), passes: (ms: number) => void (nowMs += ms), slowly }
}
function page(at: OpenPages, name: string, ...topics: string[]) {
  const told: [string, unknown][] = []
  const opened = at.open(
    topics,
    { name },
    (event, data) => void told.push([event, data]),
    () => void told.push(['end', null]),
  )
  return { told, ...opened }
}

describe('an open page', () => {
  it('is told at whichever server it is, and holds a topic until another page takes it', () => {
    const { here, there } = servers()
    const first = page(here, 'first', 'a', 'b')
    const pageId = there.holderOf('a')?.pageId ?? ''
    expect(pageId).toBe(first.pageId)
    there.tell(pageId, 'value', { n: 1 })
    expect(first.told).toEqual([['value', { n: 1 }]])
    const second = page(there, 'second', 'a')
    expect(first.told.at(-1)).toEqual(['replaced', { topic: 'a', name: 'second' }])
    expect([here.holderOf('a')?.facts, here.holderOf('b')?.facts]).toEqual([{ name: 'second' }, { name: 'first' }])
    // It lets go what it holds, and nothing else.
    first.leave()
    expect([here.holderOf('a')?.pageId, there.holderOf('b')]).toEqual([second.pageId, null])
  })

  it('that takes a topic while another one lets it go keeps it, in whichever order the servers hear of it', () => {
    const { here, there, slowly } = servers()
    const first = page(here, 'first', 'a')
    slowly(() => {
      page(there, 'second', 'a')
      first.leave()
    })
    expect(there.holderOf('a')?.facts).toEqual({ name: 'second' })
    expect(here.holderOf('a')?.facts).toEqual({ name: 'second' })
  })

  it('of a server that is gone holds nothing after half a minute', () => {
    const { here, there, passes } = servers()
    page(here, 'first', 'a')
    passes(30_000)
    expect(there.holderOf('a')).not.toBeNull()
    passes(1)
    expect([there.holderOf('a'), here.holderOf('a')?.facts]).toEqual([null, { name: 'first' }])
  })

  it('hears of signs of life, which every server knows, and is ended with its server', () => {
    const { here, there } = servers()
    const first = page(here, 'first', 'a')
    there.note('a', '2026-12-02T08:00:00.000Z', 'alive', { ago: 0 })
    expect([here.lastHeard('a'), there.lastHeard('a'), here.lastHeard('b')]).toEqual(['2026-12-02T08:00:00.000Z', '2026-12-02T08:00:00.000Z', null])
    there.note('a', null, 'alive', { ago: null })
    here.close()
    expect([here.lastHeard('a'), first.told]).toEqual([
      null,
      [
        ['alive', { ago: 0 }],
        ['alive', { ago: null }],
        ['end', null],
      ],
    ])
  })
})
