<template>
  <div class="page stack">
    <h1>Your sessions</h1>
    <p class="soft">Everywhere you are signed in. End one that you do not know, and change your password. A new password ends all but this one.</p>
    <ErrorNote :failure="failure ?? saver.failure.value" />
    <table v-if="data" class="plain">
      <thead>
        <tr>
          <th>Browser</th>
          <th>Since</th>
          <th>Until</th>
          <th><span class="sr-only">end it</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="session in data.sessions" :key="session.id">
          <td>{{ browserWords(session.agent) }}</td>
          <td class="m">{{ momentOf(session.createdAt) }}</td>
          <td class="m">{{ momentOf(session.expiresAt) }}</td>
          <td class="right">
            <span v-if="session.isThis" class="soft">this one</span>
            <v-btn v-else size="small" variant="outlined" :loading="saver.isBusy.value" data-test="end-session" @click="end(session.id)"
              >End it</v-btn
            >
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<script setup lang="ts">
import { endpoints } from '@nemawashi/contract'
import { call } from '../frame/api'
import { useCrumbs } from '../frame/crumbs'
import { useThing } from '../frame/queries'
import ErrorNote from '../pieces/ErrorNote.vue'
import { momentOf } from '../pieces/format'
import { useSaver } from '../pieces/useSaver'
import { browserWords } from './browserWords'

/** Where one is signed in, and an end to it. */
const { people } = endpoints
useCrumbs(() => [{ words: 'People', to: '/people' }, { words: 'Your sessions' }])
const saver = useSaver()
const { data, failure, reload } = useThing(people.listSessions, () => ({}))
async function end(id: string): Promise<void> {
  await saver.save(async () => {
    await call(people.endSession, { params: { id } })
    await reload()
  })
}
</script>

<style scoped>
.page {
  padding: 20px 28px 40px;
  max-width: 820px;
}
p {
  margin: 0;
}
</style>
