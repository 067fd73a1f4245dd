import { endpoints, type Person, type Role, type Session } from '@nemawashi/contract'
import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { call, onSignedOut } from './api'

const { people } = endpoints

/** Who is signed in; two pages and the frame need to know. */
export const useSession = defineStore('session', () => {
  const person = ref<Person | null>(null)
  const needsFirstAdministrator = ref(false)
  const demoPeople = ref<Session['demoPeople']>([])
  const hasLoaded = ref(false)
  /** Set while the session has ended in the middle of work: the name that has to sign in again. */
  const interrupted = ref<string | null>(null)
  let resume: (() => void) | null = null

  async function load(): Promise<void> {
    const session = await call(people.getSession, {})
    person.value = session.person
    needsFirstAdministrator.value = session.needsFirstAdministrator
    demoPeople.value = session.demoPeople
    hasLoaded.value = true
  }

  async function signIn(signInName: string, password: string): Promise<void> {
    person.value = (await call(people.signIn, { body: { signInName, password } })).person
    interrupted.value = null
    resume?.()
    resume = null
  }

  async function signOut(): Promise<void> {
    await call(people.signOut, {})
    person.value = null
    await load()
  }

  let waiting: Promise<void> | null = null
  onSignedOut(() => {
    waiting ??= new Promise<void>((resolve) => {
      interrupted.value = person.value?.signInName ?? ''
      resume = () => {
        waiting = null
        resolve()
      }
    })
    return waiting
  })

  const has = (...roles: Role[]) => computed(() => roles.some((role) => person.value?.roles.includes(role) ?? false))
  const isEngineer = has('qualityEngineer', 'administrator')

  return { person, needsFirstAdministrator, demoPeople, hasLoaded, interrupted, load, signIn, signOut, has, isEngineer }
})
