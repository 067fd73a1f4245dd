<template>
  <v-dialog :model-value="session.interrupted !== null" width="420" persistent>
    <v-card title="Your session has ended">
      <v-card-text>
        <form id="again" class="stack" @submit.prevent="signIn">
          <p class="soft">Everything you typed is kept. Sign in and the work goes on where it was.</p>
          <ErrorNote :failure="failure" />
          <v-text-field :model-value="session.interrupted" label="Sign-in name" name="username" readonly />
          <v-text-field v-model="password" label="Password" name="password-again" type="password" autocomplete="current-password" autofocus />
        </form>
      </v-card-text>
      <v-card-actions><v-btn form="again" type="submit" color="primary" variant="flat" :loading="isBusy">Sign in and go on</v-btn></v-card-actions>
    </v-card>
  </v-dialog>
</template>

<script setup lang="ts">
import { ref } from 'vue'
import { useSession } from '../frame/session'
import ErrorNote from '../pieces/ErrorNote.vue'
import { useSaver } from '../pieces/useSaver'

const session = useSession()
const password = ref('')
const { isBusy, failure, save } = useSaver()

async function signIn(): Promise<void> {
  await save(() => session.signIn(session.interrupted ?? '', password.value))
  password.value = ''
}
</script>
