import { endpoints } from '@nemawashi/contract'
import type { Attempts } from '../kernel/attempts'
import { verifyChain } from '../kernel/auditChain'
import type { Kernel } from '../kernel/kernel'
import type { Routes } from '../kernel/routes'
import { ServerError } from '../kernel/serverError'
import { loadAt, saveNext } from '../kernel/versioned'
import { verifyLedger } from '../run/verifyLedger'
import { PersonEntity, personOf } from './entities'
import { checkPassword } from './checkPassword'
import { createPerson, requireFreeSignInName } from './createPerson'
import { hashPassword } from './passwords'
import { searchAll } from './search'

const { people } = endpoints

export function peopleRoutes(routes: Routes, kernel: Kernel, attempts: Attempts, version: string): void {
  const reader = kernel.database.reader.manager
  const countPeople = () => reader.countBy(PersonEntity, {})

  routes.read(people.health, async (db) => {
    await db.query('SELECT 1')
    return { status: 'ok' as const, version, startedAt: kernel.startedAt }
  })

  routes.read(people.getSession, async (_db, { person }) => ({
    person,
    needsFirstAdministrator: person === null && (await countPeople()) === 0,
    demoPeople: person === null ? kernel.demoPeople.map((entry) => ({ ...entry, roles: entry.roles as never })) : [],
  }))

  routes.changeAfter(
    people.signIn,
    async ({ body, request }) => {
      const row = await checkPassword(reader, attempts, body.signInName, body.password, request.ip ?? '')
      if (!row) throw new ServerError('sign_in_failed', 'The name or the password is wrong.')
      return personOf(row)
    },
    async (work, { response }, person) => {
      await kernel.sessions.open(work, person.id, response)
      work.audit({ action: 'signed in', subject: 'person', subjectId: person.id })
      return { person }
    },
  )

  routes.change(people.signOut, async (work, { request, response, person }) => {
    await kernel.sessions.close(work, request, response)
    if (person) work.audit({ action: 'signed out', subject: 'person', subjectId: person.id })
    else work.nothingChanged()
    return {}
  })

  routes.changeAfter(
    people.createFirstAdministrator,
    async ({ body }) => hashPassword(body.password),
    async (work, { body, response }, passwordHash) => {
      if ((await work.manager.countBy(PersonEntity, {})) > 0) throw new ServerError('already_set_up', 'This installation has people already.')
      const row = await createPerson(work, { ...body, roles: ['administrator'] }, passwordHash)
      await kernel.sessions.open(work, row.id, response)
      return { person: personOf(row) }
    },
  )

  routes.changeAfter(
    people.changePassword,
    async ({ body, person, request }) => {
      const row = await checkPassword(reader, attempts, person?.signInName ?? '', body.current, request.ip ?? '')
      if (!row) throw new ServerError('password_wrong', 'The current password is wrong.', { field: 'current' })
      return hashPassword(body.next)
    },
    async (work, { person }, passwordHash) => {
      const row = await work.manager.findOneByOrFail(PersonEntity, { id: person?.id ?? '' })
      await work.manager.update(PersonEntity, { id: row.id }, { passwordHash, version: row.version + 1 })
      work.audit({ action: 'password changed', subject: 'person', subjectId: row.id })
      kernel.sessions.forget()
      return {}
    },
  )

  routes.list(people.listPeople, {
    from: 'person p',
    id: 'p.id',
    columns: {
      id: { sql: 'p.id' },
      name: { sql: 'p.name' },
      initials: { sql: 'p.initials' },
      signInName: { sql: 'p.signInName' },
      roles: { sql: 'p.roles', kind: 'json' },
      isActive: { sql: 'p.isActive', kind: 'flag' },
      version: { sql: 'p.version', kind: 'number' },
    },
    search: ['p.name', 'p.signInName', 'p.roles'],
    sort: ['name', 'asc'],
  })

  routes.read(people.getPerson, async (db, { params }) => {
    const row = await db.findOneBy(PersonEntity, { id: params.id })
    if (!row) throw new ServerError('not_found', `There is no person with the id ${params.id}.`)
    return personOf(row)
  })

  routes.changeAfter(
    people.createPerson,
    async ({ body }) => hashPassword(body.password),
    async (work, { body }, passwordHash) => personOf(await createPerson(work, body, passwordHash)),
  )

  routes.changeAfter(
    people.updatePerson,
    async ({ body }) => (body.password === null ? null : hashPassword(body.password)),
    async (work, { params, body, person }, passwordHash) => {
      const row = await loadAt(work, PersonEntity, 'person', params.id, body.version)
      await requireFreeSignInName(work, body.signInName, row.id)
      const isOwn = row.id === person?.id
      if (isOwn && (!body.isActive || !body.roles.includes('administrator'))) {
        throw new ServerError('still_in_use', 'You cannot take your own administration away. Let another administrator do it.', { field: 'roles' })
      }
      const { version: _, password: __, ...fields } = body
      await saveNext(work, PersonEntity, 'person', 'changed', row, { ...fields, signInKey: body.signInName.toLowerCase() })
      if (passwordHash !== null) {
        await work.manager.update(PersonEntity, { id: row.id }, { passwordHash })
        work.audit({ action: 'password set', subject: 'person', subjectId: row.id })
      }
      kernel.sessions.forget()
      return personOf(await work.manager.findOneByOrFail(PersonEntity, { id: row.id }))
    },
  )

  routes.list(people.listAudit, {
    from: 'audit a LEFT JOIN person p ON p.id = a.personId',
    countFrom: 'audit a',
    id: 'a.seq',
    columns: {
      id: { sql: 'CAST(a.seq AS TEXT)' },
      at: { sql: 'a.at' },
      personName: { sql: 'p.name', isNullable: true },
      action: { sql: 'a.action' },
      subject: { sql: 'a.subject' },
      subjectId: { sql: 'a.subjectId' },
      why: { sql: 'a.why', isNullable: true },
    },
    search: ['p.name', 'a.action', 'a.subject', 'a.subjectId', 'a.why'],
    sort: ['at', 'desc'],
  })

  routes.read(people.verifyAudit, async (db) => {
    const chain = await verifyChain(db)
    const ledger = await verifyLedger(db)
    const breaks = [...chain.breaks, ...ledger]
    return { entries: chain.entries, isWhole: breaks.length === 0, breaks }
  })

  routes.read(people.search, async (db, { query }) => ({ hits: await searchAll(db, query.q) }))
}
