import { z } from 'zod'
import { ById, endpoint, Id, Instant, listEndpoint, Nothing, Role, Version } from './endpoint'

const Name = z.string().trim().min(1).max(120)
const SignInName = z.string().trim().min(1).max(60)
const Password = z.string().min(10).max(200)

export const Person = z.strictObject({
  id: Id,
  name: Name,
  initials: z.string().trim().min(1).max(4),
  signInName: SignInName,
  roles: z.array(Role).min(1),
  isActive: z.boolean(),
  version: Version,
})
export type Person = z.infer<typeof Person>

const PersonInput = Person.pick({ name: true, initials: true, signInName: true, roles: true })

export const Session = z.strictObject({
  person: Person.nullable(),
  needsFirstAdministrator: z.boolean(),
  demoPeople: z.array(z.strictObject({ name: z.string(), signInName: z.string(), roles: z.array(Role), password: z.string() })),
})
export type Session = z.infer<typeof Session>

export const AuditEntry = z.strictObject({
  id: z.string(),
  at: Instant,
  personName: z.string().nullable(),
  action: z.string(),
  subject: z.string(),
  subjectId: z.string(),
  why: z.string().nullable(),
})

export const SearchHit = z.strictObject({ kind: z.string(), id: z.string(), title: z.string(), detail: z.string() })
export type SearchHit = z.infer<typeof SearchHit>

const administrator = ['administrator'] as const

export const people = {
  health: endpoint('GET', '/api/health', {
    access: 'anyone',
    summary: 'Whether the server and its database answer',
    reply: z.strictObject({ status: z.literal('ok'), version: z.string(), startedAt: Instant }),
  }),
  getSession: endpoint('GET', '/api/session', { access: 'anyone', summary: 'Who is signed in', reply: Session }),
  signIn: endpoint('POST', '/api/session', {
    access: 'anyone',
    summary: 'Sign in; the answer sets the session cookie',
    body: z.strictObject({ signInName: z.string().max(60), password: z.string().max(200) }),
    reply: z.strictObject({ person: Person }),
  }),
  signOut: endpoint('DELETE', '/api/session', { access: 'anyone', summary: 'Sign out', reply: Nothing }),
  createFirstAdministrator: endpoint('POST', '/api/first-administrator', {
    access: 'anyone',
    summary: 'Create the first administrator of an empty installation',
    body: z.strictObject({ name: Name, initials: Person.shape.initials, signInName: SignInName, password: Password }),
    reply: z.strictObject({ person: Person }),
  }),
  changePassword: endpoint('PUT', '/api/session/password', {
    access: 'signedIn',
    summary: 'Change the own password',
    body: z.strictObject({ current: z.string().max(200), next: Password }),
    reply: Nothing,
  }),
  listPeople: listEndpoint('/api/people', 'People', Person),
  getPerson: endpoint('GET', '/api/people/:id', { access: 'signedIn', summary: 'One person', params: ById, reply: Person }),
  createPerson: endpoint('POST', '/api/people', {
    access: administrator,
    summary: 'Create a person',
    body: PersonInput.extend({ password: Password }),
    reply: Person,
  }),
  updatePerson: endpoint('PUT', '/api/people/:id', {
    access: administrator,
    summary: 'Change a person, their roles, or set a new password',
    params: ById,
    body: PersonInput.extend({ isActive: z.boolean(), password: Password.nullable(), version: Version }),
    reply: Person,
  }),
  listAudit: listEndpoint('/api/audit', 'The audit chain', AuditEntry, {}, ['auditor', 'administrator', 'qualityManager']),
  verifyAudit: endpoint('GET', '/api/audit-verification', {
    access: ['auditor', 'administrator', 'qualityManager'],
    summary: 'Recompute the audit chain and the ledger, and name the first break',
    reply: z.strictObject({ entries: z.int(), isWhole: z.boolean(), breaks: z.array(z.string()) }),
  }),
  search: endpoint('GET', '/api/search', {
    access: 'signedIn',
    summary: 'Find parts, lots, inspections, deliveries, plans, characteristics and people',
    query: z.strictObject({ q: z.string().trim().min(1).max(100) }),
    reply: z.strictObject({ hits: z.array(SearchHit) }),
  }),
}
