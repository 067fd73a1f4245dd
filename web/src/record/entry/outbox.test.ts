import type { ReadingInput } from '@nemawashi/contract'
import { beforeEach, describe, expect, it } from 'vitest'
import { Outbox, type OutboxStore, type SendFailure, type WaitingReading } from './outbox'

function memory(kept: Map<string, WaitingReading>): OutboxStore {
  return {
    put: async (reading) => void kept.set(reading.id, reading),
    remove: async (ids) => ids.forEach((id) => kept.delete(id)),
    all: async () => [...kept.values()],
  }
}
const reading = (id: string, value: string | null = '1.0'): ReadingInput => ({
  id,
  lineId: 'line',
  piece: 1,
  value,
  typedAt: '2026-03-01T08:00:00Z',
  isConfirmedOutside: false,
  corrects: null,
})
const down: SendFailure = { isTemporary: 'all', message: 'unreachable', readingId: null }

let who = 'rosa'
beforeEach(() => (who = 'rosa'))

function bench(answer: (readings: readonly ReadingInput[]) => SendFailure | null) {
  const kept = new Map<string, WaitingReading>()
  const arrived: string[] = []
  const outbox = new Outbox(
    memory(kept),
    async (_inspection, readings) => {
      const failure = answer(readings)
      if (failure === null) arrived.push(...readings.map((entry) => entry.id))
      return failure
    },
    () => undefined,
    () => who,
  )
  return { outbox, kept, arrived }
}

describe('what was typed at the bench', () => {
  it('is sent once, in the order in which it was typed', async () => {
    const { outbox, kept, arrived } = bench(() => null)
    await Promise.all([outbox.add('i', [reading('a')]), outbox.add('i', [reading('b')]), outbox.add('i', [reading('c')])])
    await outbox.flush()
    expect(arrived).toEqual(['a', 'b', 'c'])
    expect(kept.size).toBe(0)
  })

  it('is sent in that order after a reload too, in whatever order the browser gives it back', async () => {
    const { outbox, kept, arrived } = bench(() => null)
    for (const [id, sequence] of [
      ['c', 3],
      ['a', 1],
      ['b', 2],
    ] as const)
      kept.set(id, { ...reading(id), inspectionId: 'i', personId: 'rosa', sequence, refusal: null })
    await outbox.restore()
    await outbox.flush()
    expect(arrived).toEqual(['a', 'b', 'c'])
  })

  it('is kept while the server cannot be reached, and survives a reload', async () => {
    let isDown = true
    const { outbox, kept } = bench(() => (isDown ? down : null))
    await outbox.add('i', [reading('a'), reading('b')])
    await outbox.flush()
    expect(outbox.isUnreachable).toBe(true)
    expect(kept.size).toBe(2)

    isDown = false
    const arrived: string[] = []
    const later = new Outbox(
      memory(kept),
      async (_i, readings) => (arrived.push(...readings.map((entry) => entry.id)), null),
      () => undefined,
      () => who,
    )
    await later.restore()
    expect(later.of('i').map((entry) => entry.id)).toEqual(['a', 'b'])
    await later.flush()
    expect(arrived).toEqual(['a', 'b'])
    expect(kept.size).toBe(0)
  })

  it('is kept with the reason when the server refuses it, and the others go through', async () => {
    const { outbox, kept, arrived } = bench((readings) =>
      readings.some((entry) => entry.id === 'bad') ? { isTemporary: false, message: 'finer than the resolution', readingId: 'bad' } : null,
    )
    await outbox.add('i', [reading('a'), reading('bad'), reading('c')])
    await outbox.flush()
    expect(arrived).toEqual(['a', 'c'])
    expect(kept.get('bad')?.refusal).toBe('finer than the resolution')
    await outbox.takeOut('bad')
    expect(kept.size).toBe(0)
  })

  it('never mixes inspections in one request', async () => {
    const sent: string[] = []
    const outbox = new Outbox(
      memory(new Map()),
      async (inspection, readings) => (sent.push(`${inspection}:${readings.length}`), null),
      () => undefined,
      () => who,
    )
    await Promise.all([outbox.add('i', [reading('a')]), outbox.add('j', [reading('b')]), outbox.add('i', [reading('c')])])
    await outbox.flush()
    expect(sent.reduce((sum, entry) => sum + Number(entry.split(':')[1]), 0)).toBe(3)
    expect(new Set(sent.map((entry) => entry[0]))).toEqual(new Set(['i', 'j']))
  })

  it('of one inspection that the server stumbles over keeps no other back, and is tried again', async () => {
    let isBroken = true
    const kept = new Map<string, WaitingReading>()
    const arrived: string[] = []
    const outbox = new Outbox(
      memory(kept),
      async (inspection, readings) => {
        if (isBroken && inspection === 'i') return { isTemporary: 'this', message: 'Something went wrong here', readingId: null }
        arrived.push(...readings.map(({ id }) => id))
        return null
      },
      () => undefined,
      () => who,
    )
    await outbox.add('i', [reading('a')])
    await outbox.add('j', [reading('b')])
    await outbox.flush()
    expect([arrived, [...kept.keys()], outbox.isUnreachable]).toEqual([['b'], ['a'], true])
    isBroken = false
    await outbox.flush()
    expect([arrived, kept.size, outbox.isUnreachable]).toEqual([['b', 'a'], 0, false])
  })

  it('is sent in the name of who typed it, and waits while somebody else is signed in', async () => {
    let isDown = true
    const { outbox, kept, arrived } = bench(() => (isDown ? down : null))
    await outbox.add('i', [reading('rosas')])
    await outbox.flush()
    isDown = false
    who = 'tomek'
    await outbox.add('i', [reading('tomeks')])
    await outbox.flush()
    expect([arrived, outbox.ofOthers().map(({ id }) => id), [...kept.keys()]]).toEqual([['tomeks'], ['rosas'], ['rosas']])
    who = 'rosa'
    await outbox.flush()
    expect(arrived).toEqual(['tomeks', 'rosas'])
  })

  it('is sent at once where the browser keeps nothing, and the screen can say so', async () => {
    const arrived: string[] = []
    const broken = async () => Promise.reject(new Error('quota'))
    const outbox = new Outbox(
      { put: broken, remove: broken, all: broken },
      async (_i, readings) => (arrived.push(...readings.map(({ id }) => id)), null),
      () => undefined,
      () => who,
    )
    await outbox.restore()
    await outbox.add('i', [reading('a')])
    await outbox.flush()
    expect([arrived, outbox.isKept, outbox.of('i')]).toEqual([['a'], false, []])
  })
})
