<template>
  <div class="page">
    <div class="who">
      <img src="/icon.svg" alt="" width="44" height="44" />
      <h1>Nemawashi</h1>
      <p v-if="!session.isSecure && !isLocal" class="marginal small" data-test="plain">
        This server speaks plain HTTP: on the way, passwords and readings can be read. HTTPS needs a certificate, see the README.
      </p>
      <p class="soft">Inspection plans, the bench, what is held, and the whole story of every lot.</p>
      <form v-if="!session.needsFirstAdministrator" class="stack" @submit.prevent="submit">
        <ErrorNote :failure="saver.note.value" />
        <v-text-field v-model="name" v-first-focus label="Sign-in name" name="username" autocomplete="username" />
        <PasswordField v-model="password" label="Password" name="password" />
        <CodeField v-if="asksCode" v-model="code" :error-messages="codeError" />
        <v-btn type="submit" color="primary" :loading="saver.isBusy.value" block>Sign in</v-btn>
      </form>
      <form v-else class="stack" @submit.prevent="create">
        <h2>Nobody is here yet</h2>
        <p class="soft">The first person administers this installation: creates the others and gives them roles.</p>
        <ErrorNote :failure="saver.note.value" />
        <v-text-field
          v-model="setupCode"
          v-first-focus
          class="mono"
          label="Code that the server printed at its start"
          name="setup-code"
          autocomplete="off"
          :error-messages="saver.fieldErrors.value['code']"
        />
        <v-text-field v-model="fullName" label="Your name" name="name" autocomplete="name" :error-messages="saver.fieldErrors.value['name']" />
        <v-text-field
          v-model="initials"
          label="Initials, for your seal"
          name="initials"
          maxlength="4"
          :error-messages="saver.fieldErrors.value['initials']"
        />
        <v-text-field
          v-model="name"
          label="Sign-in name"
          name="username"
          autocomplete="username"
          :error-messages="saver.fieldErrors.value['signInName']"
        />
        <PasswordField
          v-model="password"
          label="Password, at least 12 characters"
          name="password"
          is-new
          :own="[fullName, name]"
          :error-messages="saver.fieldErrors.value['password']"
        />
        <v-btn type="submit" color="primary" :loading="saver.isBusy.value" block>Create and sign in</v-btn>
      </form>
    </div>
    <div v-if="session.demoPeople.length > 0" class="demo">
      <h2>The people of the demo plant</h2>
      <p class="soft">An invented maker of climbing and rescue hardware. Choose somebody to be.</p>
      <ul>
        <li v-for="person in session.demoPeople" :key="person.signInName">
          <button class="person" :data-person="person.signInName" @click="be(person)">
            <b>{{ person.name }}</b><span class="soft">{{ person.roles.map((role) => roleWords[role]).join(', ') }}</span>
          </button>
        </li>
      </ul>
      <p class="soft small">
        Their password, asked for again under every decision, is <b class="m">{{ session.demoPeople[0]?.password }}</b>
      </p>
    </div>
  </div>
</template>

<script setup lang="ts">
import { vFirstFocus } from '../shell/firstFocus'
import { type Session, people, roleWords } from '@nemawashi/contract'
import { ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { call } from '../shell/api'
import { useSession } from '../shell/session'
import ErrorNote from '../components/ErrorNote.vue'
import CodeField from './CodeField.vue'
import PasswordField from './PasswordField.vue'
import { useSignIn } from './useSignIn'

const session = useSession()
/** On this machine nothing travels. */
const isLocal = ['localhost', '127.0.0.1', '[::1]'].includes(location.hostname)
const route = useRoute()
const router = useRouter()
const name = ref('')
const fullName = ref('')
const initials = ref('')
const setupCode = ref('')
const { password, code, asksCode, codeError, signIn, saver } = useSignIn(() => name.value)

async function enter(): Promise<void> {
  const then = route.query['then']
  await router.push(typeof then === 'string' && then.startsWith('/') && !then.startsWith('//') ? then : '/today')
}
async function submit(): Promise<void> {
  if (await signIn()) await enter()
}
async function be(person: Session['demoPeople'][number]): Promise<void> {
  name.value = person.signInName
  password.value = person.password
  await submit()
}
async function create(): Promise<void> {
  const body = { code: setupCode.value, name: fullName.value, initials: initials.value, signInName: name.value, password: password.value }
  const isDone = await saver.save(async () => {
    await call(people.createFirstAdministrator, { body })
    await session.load()
  })
  if (isDone) await enter()
}
</script>

<style scoped>
.page {
  min-height: 100%;
  display: flex;
  gap: 80px;
  justify-content: center;
  align-items: center;
  padding: 32px;
  flex-wrap: wrap;
}
.who {
  width: 340px;
}
.who h1 {
  font-size: 28px;
  line-height: 36px;
  margin-top: 8px;
}
.who p {
  margin: 4px 0 20px;
}
.demo {
  width: 400px;
  border-left: 1px solid var(--rule);
  padding-left: 40px;
}
ul {
  list-style: none;
  padding: 0;
  margin: 12px 0;
}
@media (max-width: 700px) {
  .page {
    gap: 24px;
    padding: 20px 14px;
  }
  .demo,
  .who {
    width: 100%;
  }
  .demo {
    border-left: 0;
    padding-left: 0;
  }
}
.person {
  display: flex;
  width: 100%;
  justify-content: space-between;
  gap: 16px;
  border: 0;
  border-bottom: 1px solid var(--rule);
  background: none;
  padding: 9px 8px;
  font: 14px/20px var(--words);
  color: var(--ink);
  cursor: pointer;
}
.person:hover {
  background: var(--wash);
}
</style>
