<template>
  <SheetSplit list-words="People">
    <template #list>
      <DataList
        ref="list"
        name="people"
        :endpoint="people.listPeople"
        :columns="columns"
        title="People"
        :selected-id="id"
        :to="(row: Person) => `/people/${row.id}`"
      >
        <template #head
          ><v-btn v-if="isAdministrator" color="primary" variant="outlined" size="small" data-test="new" @click="router.push('/people/new')"
            >New person</v-btn
          ></template
        >
        <template #roles="{ row }">{{ row.roles.map((role) => roleWords[role]).join(', ') }}</template>
      </DataList>
    </template>
    <form v-if="form" v-first-focus="id === 'new'" class="form stack" @submit.prevent="submit" @focusout="leave">
      <h1>{{ id === 'new' ? 'New person' : form.name }}</h1>
      <ErrorNote :failure="saver.note.value" />
      <v-text-field
        v-model="form.name"
        label="Name"
        :readonly="!isAdministrator"
        :error-messages="errors['name']"
        aria-required="true"
        data-field="name"
      />
      <div class="row top">
        <v-text-field
          v-model="form.initials"
          label="Initials, for the seal"
          maxlength="4"
          :readonly="!isAdministrator"
          :error-messages="errors['initials']"
          aria-required="true"
          data-field="initials"
        />
        <v-text-field
          v-model="form.signInName"
          label="Sign-in name"
          :readonly="!isAdministrator"
          :error-messages="errors['signInName']"
          aria-required="true"
          data-field="signInName"
        />
      </div>
      <fieldset>
        <legend>Roles</legend>
        <div class="roles">
          <v-checkbox v-for="role in roles" :key="role" v-model="form.roles" :value="role" :label="roleWords[role]" :disabled="!isAdministrator" />
        </div>
        <p v-if="errors['roles']" class="nonconforming small" role="alert">{{ errors['roles'] }}</p>
      </fieldset>
      <v-text-field
        v-if="id !== 'new' && form.roles.some((role) => role === 'inspector' || role === 'qualityEngineer')"
        v-model.number="form.dayMinutes"
        type="number"
        min="0"
        max="1440"
        step="30"
        label="Minutes of a day at the bench, for planning"
        :readonly="!isAdministrator"
        :error-messages="errors['dayMinutes']"
        data-field="dayMinutes"
      />
      <v-checkbox v-if="id !== 'new'" v-model="form.isActive" label="may sign in" :disabled="!isAdministrator" />
      <PasswordField
        v-if="isAdministrator"
        v-model="password"
        :label="id === 'new' ? 'First password, at least 12 characters' : 'Set a new password (empty: stays)'"
        is-new
        :own="[form.name, form.signInName]"
        :error-messages="errors['password']"
        :is-needed="id === 'new'"
        field="password"
      />
      <p v-if="isAdministrator && form.roles.join() !== 'orderFeed'" class="soft small">
        {{
          session.isGivenPasswordKept
            ? 'It stays until they change it: this plant keeps passwords that were given.'
            : 'They choose one of their own at their first sign-in with it.'
        }}
      </p>
      <div v-if="isAdministrator" class="row"><v-btn type="submit" color="primary" :loading="saver.isBusy.value">Save</v-btn></div>
      <section v-if="isAdministrator && id !== 'new' && person?.roles.join() === 'orderFeed'" class="stack" data-test="feed-key">
        <p class="soft small">Another system signs in with a key. It is shown once; a new one ends the one before.</p>
        <div><v-btn variant="outlined" color="primary" data-test="give-key" @click="giveKey">Give it a key</v-btn></div>
        <p v-if="feedKey" class="m" data-test="key">{{ feedKey }}</p>
      </section>
      <section v-else-if="isAdministrator && id !== 'new' && person?.isActive" class="stack">
        <p class="soft small">A device is lost, or somebody else may know the password: end all sessions, and set a new password above.</p>
        <div class="row">
          <v-btn variant="outlined" data-test="end-sessions" :loading="saver.isBusy.value" @click="endSessions">End all sessions</v-btn>
          <v-btn variant="outlined" data-test="end-factor" :loading="saver.isBusy.value" @click="endFactor">Take the second factor away …</v-btn>
        </div>
      </section>
      <StaleChange
        v-if="saver.isStale.value && saver.failure.value && theirs"
        :failure="saver.failure.value"
        :rows="compared"
        @keep="keepMine"
        @take="takeTheirs"
      />
    </form>
    <EmptyState
      v-else
      title="People and roles"
      :text="
        id
          ? (failure?.message ?? 'Loading …')
          : isAdministrator
            ? 'Choose somebody, or add a person. Roles say what they may do.'
            : 'Choose somebody to see their roles. An administrator changes them.'
      "
    />
  </SheetSplit>
</template>

<script setup lang="ts">
import { type Person, people, roleWords, roles } from '@nemawashi/contract'
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { call } from '../shell/api'
import { ask } from '../shell/ask'
import { useCrumbs } from '../shell/crumbs'
import { vFirstFocus } from '../shell/firstFocus'
import { notify } from '../shell/notify'
import { useThing } from '../shell/queries'
import { useUnsaved } from '../shell/unsaved'
import { useEdited } from '../shell/useEdited'
import { useSession } from '../shell/session'
import DataList from '../components/DataList.vue'
import type { ListColumn } from '../components/listColumn'
import EmptyState from '../components/EmptyState.vue'
import ErrorNote from '../components/ErrorNote.vue'
import SheetSplit from '../components/SheetSplit.vue'
import StaleChange from '../components/StaleChange.vue'
import { useSaver } from '../composables/useSaver'
import PasswordField from './PasswordField.vue'
import { useTheirs } from '../composables/useTheirs'
import { useTyped } from '../composables/useTyped'

const route = useRoute()
const router = useRouter()
const session = useSession()
const isAdministrator = session.may(people.createPerson)
const saver = useSaver()
const list = ref<{ reload: () => Promise<void> }>()
const id = computed(() => (typeof route.params['id'] === 'string' && route.params['id'] !== '' ? route.params['id'] : null))
const {
  data: person,
  failure,
  put,
} = useThing(people.getPerson, () => (id.value === null || id.value === 'new' ? null : { params: { id: id.value } }))
const {
  edited: form,
  isChanged,
  show,
} = useEdited<Person>(
  () => (id.value === null ? null : `people/${id.value}`),
  person,
  () => ({ id: '', name: '', initials: '', signInName: '', roles: [], isActive: true, dayMinutes: 420, version: 1 }),
)
const { theirs, keepMine, takeTheirs } = useTheirs(saver, { edited: form, show }, submit)
const password = ref('')
const columns: ListColumn[] = [
  { key: 'name', title: 'Name' },
  { key: 'roles', title: 'Roles' },
  { key: 'signInName', title: 'Sign-in name', isHidden: true },
]
useCrumbs(() => [{ words: 'People', to: '/people' }, ...(form.value ? [{ words: form.value.name || 'New' }] : [])])
const load = (personId: string) => call(people.getPerson, { params: { id: personId } })
/** The key of another system, as long as this page shows it. */
const feedKey = ref('')
async function giveKey(): Promise<void> {
  const now = person.value
  if (!now) return
  await saver.save(async () => {
    feedKey.value = (await call(people.giveToken, { params: { id: now.id }, body: { version: now.version } })).token
  })
}
async function endSessions(): Promise<void> {
  const now = person.value
  if (!now) return
  await saver.save(async () => {
    const { ended } = await call(people.endSessionsOf, { params: { id: now.id } })
    notify(ended === 0 ? `${now.name} has no other session.` : `${now.name}: ${ended} ${ended === 1 ? 'session has' : 'sessions have'} ended.`)
  })
}
async function endFactor(): Promise<void> {
  const now = person.value
  if (!now) return
  const answer = await ask({
    title: `Take the second factor of ${now.name} away?`,
    text: 'For somebody who has lost the telephone and the recovery codes. From then on the password alone signs them in, until they set up another one.',
    yes: 'Take it away',
  })
  if (answer === null) return
  await saver.save(async () => {
    const { ended } = await call(people.endSecondFactorOf, { params: { id: now.id } })
    notify(ended ? `${now.name} signs in without a second factor now.` : `${now.name} has no second factor.`)
  })
}
watch(id, () => {
  feedKey.value = ''
  password.value = ''
  forget()
  theirs.value = null
  saver.clear()
})
useUnsaved(
  () => isChanged.value || password.value !== '',
  () => form.value?.name || 'the new person',
)
const created = () => {
  const { name, initials, signInName, roles: chosen } = form.value as Person
  return { name, initials, signInName, roles: chosen, password: password.value }
}
const changed = () => {
  const { isActive, dayMinutes, version } = form.value as Person
  return { ...created(), isActive, dayMinutes, version, password: password.value === '' ? null : password.value }
}
const { errors, leave, forget } = useTyped(
  saver,
  () => (id.value === 'new' ? people.createPerson : people.updatePerson).body,
  () => (id.value === 'new' ? created() : changed()),
)
async function submit(): Promise<void> {
  const wanted = id.value
  const done = await saver.save(async () => {
    const saved =
      wanted === 'new'
        ? await call(people.createPerson, { body: created() })
        : await call(people.updatePerson, { params: { id: wanted ?? '' }, body: changed() })
    show(saved)
    put(saved, { params: { id: saved.id } })
    password.value = ''
    await list.value?.reload()
    if (wanted === 'new') await router.replace(`/people/${saved.id}`)
    notify(`Saved ${saved.name}.`)
  })
  if (!done && saver.isStale.value && wanted) theirs.value = await load(wanted)
}
const wordsOf = (person: Person | null, key: keyof Person) => String(person?.[key] ?? '')
const compared = computed(() =>
  (['name', 'initials', 'signInName', 'roles', 'isActive', 'dayMinutes'] as const).map((key) => ({
    label: key,
    mine: wordsOf(form.value, key),
    theirs: wordsOf(theirs.value, key),
  })),
)
</script>

<style scoped>
.form {
  padding: 20px 28px 40px;
  max-width: 560px;
}
fieldset {
  border: 1px solid var(--rule);
  padding: 4px 14px 8px;
}
.roles {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(210px, 1fr));
}
legend {
  color: var(--soft);
  padding: 0 6px;
}
</style>
