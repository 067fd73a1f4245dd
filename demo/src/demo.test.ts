import { describeFinding } from '@nemawashi/core'
import { endpoints } from '@nemawashi/contract'
import { ApiClient } from '@nemawashi/contract/client'
import { buildApp, readConfig, startApp } from '@nemawashi/server'
import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import type { AddressInfo } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { Chance, Process } from './chance'
import { password } from './plant'
import { seedDemo } from './seed'

const { people, define, run, record, contain } = endpoints

describe('chance from a seed', () => {
  it('is the same each time and another for another seed', () => {
    const draw = (seed: number) => {
      const chance = new Chance(seed)
      return Array.from({ length: 5 }, () => chance.next())
    }
    expect(draw(1)).toEqual(draw(1))
    expect(draw(1)).not.toEqual(draw(2))
    expect(draw(7).every((value) => value >= 0 && value < 1)).toBe(true)
  })

  it('gives normal deviates with mean 0 and standard deviation 1', () => {
    const chance = new Chance(3)
    const values = Array.from({ length: 20_000 }, () => chance.normal())
    const mean = values.reduce((sum, value) => sum + value, 0) / values.length
    const variance = values.reduce((sum, value) => sum + (value - mean) ** 2, 0) / (values.length - 1)
    expect(Math.abs(mean)).toBeLessThan(0.03)
    expect(Math.abs(variance - 1)).toBeLessThan(0.05)
  })

  it('makes lots that look like a process: pieces of one lot are nearer to each other than lots are', () => {
    const process = new Process(new Chance(5), 100, 1)
    const lots = Array.from({ length: 200 }, () => {
      process.nextLot()
      return Array.from({ length: 20 }, () => process.piece())
    })
    const mean = (values: readonly number[]) => values.reduce((sum, value) => sum + value, 0) / values.length
    const means = lots.map(mean)
    const spread = Math.sqrt(mean(means.map((value) => (value - mean(means)) ** 2)))
    expect(spread).toBeGreaterThan(1.3 / Math.sqrt(20))
    expect(Math.abs(mean(means) - 100)).toBeLessThan(0.8)
  })
})

describe('the demo plant', () => {
  const folder = mkdtempSync(join(tmpdir(), 'nemawashi-demo-'))
  const today = new Date('2026-05-13T13:30:00')
  let api: ApiClient
  let stop: () => Promise<void>
  beforeAll(async () => {
    const config = readConfig({ NEMAWASHI_DATA: folder, NEMAWASHI_LOG: 'silent' })
    await seedDemo(config, today, () => undefined)
    const kernel = await startApp(config, { isCheckingReplies: true })
    const server = buildApp(kernel, null).listen(0, '127.0.0.1')
    await new Promise((resolve) => server.once('listening', resolve))
    api = new ApiClient(`http://127.0.0.1:${(server.address() as AddressInfo).port}`)
    await api.call(people.signIn, { body: { signInName: 'anja', password } })
    stop = async () => {
      server.close()
      server.closeAllConnections()
      await kernel.close()
    }
  }, 180_000)
  afterAll(async () => {
    await stop()
    rmSync(folder, { recursive: true, force: true })
  })

  it('has at least 25 parts, 8 suppliers, 60 past deliveries and a dozen open inspections of today', async () => {
    expect((await api.call(define.parts.list, {})).total).toBeGreaterThanOrEqual(25)
    const partners = (await api.call(define.partners.list, {})).rows as { kind: string }[]
    expect(partners.filter((partner) => partner.kind === 'supplier')).toHaveLength(8)
    const deliveries = await api.call(run.listDeliveries, { query: { limit: 200 } })
    expect(deliveries.rows.filter((delivery) => new Date(delivery.receivedAt).toDateString() !== today.toDateString()).length).toBeGreaterThanOrEqual(
      60,
    )
    const open = await api.call(record.listInspections, { query: { state: 'open' } })
    expect(open.total).toBeGreaterThanOrEqual(12)
    expect(open.rows.every((row) => new Date(row.openedAt).toDateString() === today.toDateString())).toBe(true)
    expect(new Set(open.rows.map((row) => row.state))).toEqual(new Set(['toDo', 'started']))
  })

  it('went in through the services: chain and ledger verify, and nothing happened after today', async () => {
    expect(await api.call(people.verifyAudit, {})).toMatchObject({ isWhole: true, breaks: [] })
    const [latest] = (await api.call(people.listAudit, { query: { q: 'recorded', limit: 1 } })).rows
    expect(Date.parse(latest?.at ?? '')).toBeLessThanOrEqual(today.getTime() + 5000)
  })

  it('holds the story: bar stock with low hardness, found, quarantined in part and returned in part', async () => {
    const { rows } = await api.call(record.listInspections, {
      query: { q: 'Bar stock, metal', state: 'decided', sort: 'verdict', dir: 'desc', limit: 200 },
    })
    const found = []
    for (const row of rows.filter((entry) => entry.verdict === 'notAcceptable'))
      found.push(await api.call(record.getInspection, { params: { id: row.id } }))
    const story = found.find(
      (inspection) => inspection.supplierName === 'Marrow Vale Metals' && describeFinding(inspection.finding).includes('Hardness'),
    )
    expect(story?.partCode).toBe('BS-7075-16')
    expect(story?.decision?.rows.map((row) => row.disposition)).toEqual(expect.arrayContaining(['quarantine', 'returnToSupplier']))
    expect((await api.call(contain.listHeld, {})).rows.some((row) => row.lotCode === story?.lotCode && row.quarantined > 0)).toBe(true)
  })

  it('mostly delivers good lots: it is a plant, not a catastrophe', async () => {
    const { rows } = await api.call(record.listInspections, { query: { state: 'decided', limit: 200 } })
    const share = rows.filter((row) => row.verdict === 'notAcceptable').length / rows.length
    expect(share).toBeGreaterThan(0.03)
    expect(share).toBeLessThan(0.2)
  })

  it('offers its people on the sign-in page', () => {
    const offered = JSON.parse(readFileSync(join(folder, 'demo-people.json'), 'utf8')) as { signInName: string; roles: string[] }[]
    expect(new Set(offered.flatMap((person) => person.roles)).size).toBe(7)
  })
})
