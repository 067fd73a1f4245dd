<template>
  <div class="page stack">
    <h1>{{ isPassword ? 'Choose a password of your own' : 'Set up your second factor' }}</h1>
    <template v-if="isPassword">
      <p>Somebody else chose the password that you signed in with, and may know it. What you sign is signed with your own.</p>
      <form class="stack" @submit.prevent="change">
        <ErrorNote :failure="saver.note.value" />
        <PasswordField
          v-model="current"
          label="The password that you were given"
          is-first
          :error-messages="saver.fieldErrors.value['current']"
          field="current"
        />
        <PasswordField
          v-model="next"
          label="Your own password, at least 12 characters"
          is-new
          :own="session.ownNames"
          :error-messages="saver.fieldErrors.value['next']"
          field="next"
        />
        <div class="row"><v-btn type="submit" color="primary" :loading="saver.isBusy.value">Take this one</v-btn></div>
      </form>
    </template>
    <template v-else>
      <p>This plant asks for a one-time code besides the password. It comes from an app on a telephone; nothing is sent anywhere.</p>
      <SecondFactorSetUp is-owed @done="session.load()" />
    </template>
    <p class="soft small">
      {{ session.person?.name }} is signed in. <button class="out" type="button" data-test="owed-out" @click="session.signOut()">Sign out</button>
    </p>
  </div>
</template>

<script setup lang="ts">
import { people } from '@nemawashi/contract'
import { computed, ref } from 'vue'
import { call } from '../shell/api'
import { notify } from '../shell/notify'
import { useSession } from '../shell/session'
import ErrorNote from '../components/ErrorNote.vue'
import { useSaver } from '../composables/useSaver'
import PasswordField from './PasswordField.vue'
import SecondFactorSetUp from './SecondFactorSetUp.vue'

/** What somebody has to do before anything else, in the place of every page. */
const session = useSession()
const saver = useSaver()
const current = ref('')
const next = ref('')
const isPassword = computed(() => session.owes === 'password')

async function change(): Promise<void> {
  const isDone = await saver.save(async () => {
    await call(people.changePassword, { body: { current: current.value, next: next.value } })
    await session.load()
  })
  if (!isDone) return
  current.value = next.value = ''
  notify('The password is yours.')
}
</script>

<style scoped>
.page {
  max-width: 620px;
  margin: 8vh auto 0;
  padding: 20px;
}
p {
  margin: 0;
}
.out {
  border: 0;
  background: none;
  color: var(--indigo);
  font: 600 13px var(--words);
  cursor: pointer;
}
</style>
