import type { Person, Role } from '@nemawashi/contract'
import { EntitySchema } from 'typeorm'
import { flag, id, int, json, maybeText, references, text } from '../kernel/database/columns'

export interface PersonRow {
  id: string
  name: string
  initials: string
  signInName: string
  /** Lower-cased, so that a name is taken once whatever its case. */
  signInKey: string
  passwordHash: string
  roles: Role[]
  isActive: boolean
  /** Minutes of a day that can be planned with work at the bench. */
  dayMinutes: number
  version: number
}

export const PersonEntity = new EntitySchema<PersonRow>({
  name: 'person',
  columns: {
    id,
    name: text,
    initials: text,
    signInName: text,
    signInKey: { type: 'text', unique: true },
    passwordHash: text,
    roles: json,
    isActive: flag,
    dayMinutes: { type: 'integer', default: 420 },
    version: int,
  },
})

/** A person as everybody may see them: without the password's hash. */
export function personOf(row: PersonRow): Person {
  const { id, name, initials, signInName, roles, isActive, dayMinutes, version } = row
  return { id, name, initials, signInName, roles, isActive, dayMinutes, version }
}

export interface GivenPasswordRow {
  /** The person's. */
  id: string
  byId: string
  at: string
}

/** Passwords that somebody else chose: who has one chooses another before anything else. */
export const GivenPasswordEntity = new EntitySchema<GivenPasswordRow>({
  name: 'given_password',
  columns: { id: { ...references('person'), primary: true }, byId: references('person'), at: text },
})

export interface SecondFactorRow {
  /** The person's. */
  id: string
  /** Under a key that is in no database. */
  sealedSecret: string
  /** Null while its first code has not been entered: it asks nobody for one yet. */
  confirmedAt: string | null
  /** The step of time of the last code that was used: each is good once. */
  lastStep: number
  /** What is kept of the recovery codes that were not used yet. */
  recovery: string[]
}

/** What people show besides their password. */
export const SecondFactorEntity = new EntitySchema<SecondFactorRow>({
  name: 'second_factor',
  columns: {
    id: { ...references('person'), primary: true },
    sealedSecret: text,
    confirmedAt: maybeText,
    lastStep: int,
    recovery: json,
  },
})

export interface SessionRow {
  tokenHash: string
  personId: string
  createdAt: string
  expiresAt: string
  /** What the browser calls itself: a person tells their sessions apart by it. */
  agent: string
}

export const SessionEntity = new EntitySchema<SessionRow>({
  name: 'session',
  columns: {
    tokenHash: { type: 'text', primary: true },
    personId: references('person'),
    createdAt: text,
    expiresAt: text,
    agent: { type: 'text', default: '' },
  },
  indices: [{ name: 'session_person', columns: ['personId'] }],
})
