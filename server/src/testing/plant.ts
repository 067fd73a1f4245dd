import type { AddressInfo } from 'node:net'
import {
  endpoints,
  type CallOf,
  type Delivery,
  type Endpoint,
  type Inspection,
  type Plan,
  type PlanLineInput,
  type ReadingInput,
  type Role,
} from '@nemawashi/contract'
import { ApiClient, ApiError } from '@nemawashi/contract/client'
import type { Disposition, SamplingRule } from '@nemawashi/core'
import { v7 } from 'uuid'
import { buildApp } from '../app/app'
import { readConfig } from '../kernel/base/config'
import { startApp } from '../app/start'
import { hashCheaply } from '../people/passwords'
import type { SqliteDatabase } from '../kernel/database/sqlite/sqliteDatabase'
import { testPlace } from './database'

const { people, define, attach, run, record, contain } = endpoints
export const password = 'a-test-password'
export const setupCode = 'TEST-CODE'

/** A small plant on a real server and a real database in a folder of its own, with a clock that tests set. */
export async function startPlant(environment: Record<string, string> = {}) {
  hashCheaply()
  const { dataFolder: folder, databaseServer, remove } = await testPlace()
  // What it leaps by is no time that passed.
  const clock = { time: Date.parse('2026-03-02T06:00:00Z'), leaptMs: 0, now: () => new Date((clock.time += 1)) }
  const config = readConfig({
    PORT: '0',
    NEMAWASHI_DATA: folder,
    NEMAWASHI_DATABASE: databaseServer ?? '',
    NEMAWASHI_LOG: process.env['TEST_LOG'] ?? 'silent',
    NEMAWASHI_TIME_ZONE: 'Europe/Vienna',
    // Dozens of people come in with what they were given; what becomes of that has tests of its own.
    NEMAWASHI_GIVEN_PASSWORDS: 'keep',
    ...environment,
  })
  const kernel = await startApp(config, { clock, isCheckingReplies: true, setupCode, monotonicMs: () => clock.time - clock.leaptMs })
  // No test cuts the power: what waits for the disk is a seventh of the time.
  if ('raw' in kernel.database) (kernel.database as SqliteDatabase).raw.pragma('synchronous = OFF')
  const server = buildApp(kernel, null).listen(0, '127.0.0.1')
  await new Promise((resolve) => server.once('listening', resolve))
  const base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`
  const administrator = new ApiClient(base)
  await administrator.call(people.createFirstAdministrator, {
    body: { code: setupCode, name: 'Admin', initials: 'AD', signInName: 'admin', password },
  })

  const clients = new Map<string, ApiClient>()
  let cameAt = clock.time
  /** Who makes people has signed in a moment ago, whatever a test did with the clock. */
  async function comeIn(): Promise<void> {
    cameAt = clock.time
    await administrator.call(people.signIn, { body: { signInName: 'admin', password } })
  }
  async function as(role: Role, signInName: string = role): Promise<ApiClient> {
    const known = clients.get(signInName)
    if (known) return known
    if (Math.abs(clock.time - cameAt) > 600_000) await comeIn()
    await administrator.call(people.createPerson, { body: { name: signInName, initials: 'XX', signInName, roles: [role], password } })
    const client = new ApiClient(base)
    await client.call(people.signIn, { body: { signInName, password } })
    clients.set(signInName, client)
    return client
  }
  return {
    base,
    folder,
    clock,
    kernel,
    administrator,
    as,
    /** Lets time pass; sessions that ended meanwhile are begun anew. */
    async later(instant: string) {
      clock.time = Date.parse(instant)
      await comeIn()
      for (const [signInName, client] of clients) await client.call(people.signIn, { body: { signInName, password } })
    },
    async stop() {
      server.close()
      server.closeAllConnections()
      await kernel.close()
      await remove()
    },
  }
}
export type Plant = Awaited<ReturnType<typeof startPlant>>

/** What a call refused, or null when it went through. */
export async function refusal(
  call: Promise<unknown>,
): Promise<{ status: number; code: string; message: string; facts: Record<string, unknown> } | null> {
  try {
    await call
    return null
  } catch (error) {
    if (!(error instanceof ApiError)) throw error
    return { status: error.status, code: error.reply.code, message: error.reply.message, facts: error.reply.facts }
  }
}

export const gap = {
  name: 'Gate gap',
  kind: 'measured' as const,
  class: 'major' as const,
  method: 'feeler',
  instruction: '',
  nominal: '0.3',
  lower: '0.25',
  upper: '0.35',
  unit: 'mm',
  resolution: '0.01',
  acceptableState: null,
}
export const burr = {
  ...gap,
  name: 'Burrs',
  kind: 'judged' as const,
  nominal: null,
  lower: null,
  upper: null,
  unit: null,
  resolution: null,
  acceptableState: 'No burr to be felt',
}

/** A line of a plan as it is sent: every piece of a characteristic, with what a test says otherwise. */
export const planLine = (characteristicId: string, change: Partial<PlanLineInput> = {}): PlanLineInput => ({
  characteristicId,
  sampling: { kind: 'everyPiece', accept: 0 },
  isRequired: true,
  isDecisive: false,
  detached: null,
  stage: '',
  instruction: '',
  targets: [],
  ...change,
})

/** Master data of one bought part with a plan of two lines at its receiving. */
export async function stock(plant: Plant, sampling: SamplingRule = { kind: 'fixedNumber', sampleSize: 3, accept: 0 }) {
  const engineer = await plant.as('qualityEngineer')
  const make = async (area: { readonly create: Endpoint }, body: object) =>
    (await engineer.call(area.create, { body } as CallOf<Endpoint>)) as { id: string; code: string; version: number }
  const place = (code: string, purpose: string) => make(define.places, { code, name: code, purpose, countsForPlanning: purpose === 'store' })
  const supplier = await make(define.partners, { code: 'SUP', name: 'Supplier', kind: 'supplier', isActive: true })
  const other = await make(define.partners, { code: 'OTH', name: 'Other supplier', kind: 'supplier', isActive: true })
  const places = {
    dock: await place('DOCK', 'dock'),
    bay: await place('BAY', 'inspection'),
    store: await place('STORE', 'store'),
    cage: await place('CAGE', 'quarantine'),
    scrap: await place('SCRAP', 'scrap'),
    out: await place('OUT', 'outside'),
  }
  const receiving = await make(define.operations, { code: 'RCV', name: 'Receiving', kind: 'receiving' })
  const assembly = await make(define.operations, { code: 'ASM', name: 'Assembly', kind: 'production' })
  const family = await make(define.families, { code: 'FAM', name: 'Family' })
  const part = await make(define.parts, {
    code: 'P-1',
    name: 'Part',
    revision: 'A',
    unit: 'piece',
    tracking: 'lot',
    familyId: family.id,
    putAwayPlaceId: places.store.id,
    operationIds: [receiving.id, assembly.id],
  })
  const characteristic = async (code: string, fields: typeof gap | typeof burr) => {
    const made = await engineer.call(define.createCharacteristic, { body: { code, ...fields } })
    return engineer.call(define.releaseCharacteristic, { params: { id: made.id }, body: { version: made.version } })
  }
  const measured = await characteristic('C-GAP', gap)
  const judged = await characteristic('C-BURR', burr)
  const plan = async (code: string, lines: { characteristicId: string; isDecisive?: boolean }[]): Promise<Plan> => {
    const made = await engineer.call(define.createPlan, {
      body: {
        code,
        name: `Plan ${code}`,
        lines: lines.map(({ characteristicId, isDecisive = false }) => ({ characteristicId, sampling, isRequired: true, isDecisive })),
      },
    })
    return engineer.call(define.releasePlan, { params: { id: made.id }, body: { version: made.version } })
  }
  const point = (planId: string, change: object = {}) =>
    engineer.call(attach.createControlPoint, {
      body: {
        operationId: receiving.id,
        planId,
        partId: part.id,
        familyId: null,
        supplierId: null,
        holdPlaceId: places.bay.id,
        isGate: true,
        ...change,
      },
    })
  /** Hangs control points, does something under them, and takes them off again, as they are by then. */
  async function under(points: readonly { planId: string; change?: object }[], work: () => Promise<void>): Promise<void> {
    const made: string[] = []
    for (const { planId, change } of points) made.push((await point(planId, change)).code)
    await work().finally(async () => {
      const { rows } = await engineer.call(attach.listControlPoints, { query: { state: 'active' } })
      for (const { id, version } of rows.filter(({ code }) => made.includes(code)))
        await engineer.call(attach.retireControlPoint, { params: { id }, body: { version } })
    })
  }
  return { under, engineer, make, supplier, other, places, receiving, assembly, family, part, characteristic, measured, judged, plan, point }
}
export type Stock = Awaited<ReturnType<typeof stock>>

export async function receive(
  plant: Plant,
  { supplier, part }: Stock,
  change: { supplierId?: string; quantity?: number; containers?: { label: string | null; quantity: number }[] } = {},
): Promise<Delivery> {
  const clerk = await plant.as('receivingClerk')
  const { supplierId = supplier.id, quantity = 100, containers = [] } = change
  return clerk.call(run.receiveDelivery, {
    body: { supplierId, isAnother: true, orderNumber: '4711', lines: [{ partId: part.id, supplierLot: 'S-1', quantity, containers }] },
  })
}

export const reading = (lineId: string, piece: number, value: string | null, change: Partial<ReadingInput> = {}): ReadingInput => ({
  id: v7(),
  lineId,
  piece,
  value,
  typedAt: '2026-03-02T07:00:00.000Z',
  isConfirmedOutside: false,
  corrects: null,
  ...change,
})

/** Answers every cell of an inspection and finishes it; `bad` many pieces of the first line are nonconforming. */
export async function inspect(plant: Plant, id: string, bad = 0): Promise<Inspection> {
  const inspector = await plant.as('inspector')
  const inspection = await inspector.call(record.getInspection, { params: { id } })
  const readings = inspection.lines.flatMap((line, i) =>
    Array.from({ length: line.sampleSize }, (_, at) => {
      const isBad = i === 0 && at < bad
      const value = line.kind === 'judged' ? (isBad ? 'X' : 'O') : isBad ? '0.40' : '0.30'
      return reading(line.id, at + 1, value, { isConfirmedOutside: isBad })
    }),
  )
  const { version } = await inspector.call(record.recordReadings, { params: { id }, body: { readings } })
  return inspector.call(record.finishInspection, { params: { id }, body: { version } })
}

/** Decides everything that is held the same way. */
export async function decideAll(plant: Plant, inspection: Inspection, disposition?: Disposition) {
  const manager = await plant.as('qualityManager')
  const rows = inspection.held.map(({ containerId, quantity }) => ({
    containerId,
    quantity,
    disposition: disposition ?? (inspection.finding.verdict === 'acceptable' ? 'release' : 'concession'),
    reason: 'said in a test',
  }))
  return manager.call(contain.decide, {
    params: { id: inspection.id },
    body: { version: inspection.version, password, lotId: inspection.lotId, rows },
  })
}
