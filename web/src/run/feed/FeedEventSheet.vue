<template>
  <div v-if="event" class="sheet stack">
    <h1>
      {{ feedKindWords[event.kind] }} <span class="soft m">· {{ event.key }}</span>
    </h1>
    <p class="soft">
      Received {{ momentOf(event.receivedAt) }}{{ event.takenAt ? `, taken ${momentOf(event.takenAt)}` : '' }}
      <template v-if="wayTo"
        >as <router-link :to="wayTo">{{ event.subjectCode }}</router-link></template
      >
    </p>
    <p v-if="event.state === 'aside'" class="aside" data-test="wrong"><b class="nonconforming">Kept aside.</b> {{ wrongWords(event) }}</p>
    <p v-if="event.state === 'dismissed'"><b>Left out:</b> {{ event.reason }}</p>
    <v-textarea
      v-model="text"
      :readonly="!mayMend"
      auto-grow
      rows="8"
      class="mono"
      label="What it says (JSON)"
      :error-messages="parsed === null && text !== '' ? 'this is not JSON' : ''"
      data-field="body"
    />
    <details v-if="event.sent">
      <summary>As it was sent</summary>
      <pre class="m small">{{ written(event.sent) }}</pre>
    </details>
    <ErrorNote :failure="saver.failure.value" />
    <div v-if="mayMend" class="row">
      <v-btn color="primary" :loading="saver.isBusy.value" data-test="again" @click="again">{{
        isMended ? 'Play it again, mended' : 'Play it again'
      }}</v-btn>
      <v-btn variant="text" data-test="dismiss" @click="dismiss">Leave it out</v-btn>
    </div>
  </div>
  <EmptyState v-else title="Event" :text="failure?.message ?? 'Loading …'" />
</template>

<script setup lang="ts">
import { run } from '@nemawashi/contract'
import { computed, ref, watch } from 'vue'
import { call } from '../../shell/api'
import { ask } from '../../shell/ask'
import { notify } from '../../shell/notify'
import { useThing } from '../../shell/queries'
import { useSession } from '../../shell/session'
import { useUnsaved } from '../../shell/unsaved'
import EmptyState from '../../components/EmptyState.vue'
import ErrorNote from '../../components/ErrorNote.vue'
import { momentOf } from '../../format/format'
import { useSaver } from '../../composables/useSaver'
import { feedKindWords, wayToSubject, wrongWords } from './feedWords'

/** An event of the feed: what it says, what came of it or what is wrong with it, and mending and playing it again. */
const { id } = defineProps<{ id: string }>()
const emit = defineEmits<{ changed: [] }>()
const isAllowed = useSession().may(run.playAgain)
const saver = useSaver()
const { data: event, failure, put } = useThing(run.getFeedEvent, () => ({ params: { id } }))
const mayMend = computed(() => isAllowed.value && event.value?.state === 'aside')
const wayTo = computed(() => (event.value ? wayToSubject(event.value) : null))

const written = (body: object) => JSON.stringify(body, null, 2)
const text = ref('')
const before = computed(() => (event.value ? written(event.value.body) : ''))
watch(before, (words) => (text.value = words), { immediate: true })
const isMended = computed(() => text.value !== before.value)
const parsed = computed((): Record<string, unknown> | null => {
  try {
    const value: unknown = JSON.parse(text.value)
    return typeof value === 'object' && value !== null && !Array.isArray(value) ? (value as Record<string, unknown>) : null
  } catch {
    return null
  }
})
useUnsaved(
  () => isMended.value && mayMend.value,
  () => `what was mended on ${event.value?.key ?? 'the event'}`,
)

async function again(): Promise<void> {
  const now = event.value
  const body = parsed.value
  if (!now || body === null) return
  await saver.save(async () => {
    const played = await call(run.playAgain, { params: { id }, body: { version: now.version, body: isMended.value ? body : null } })
    put(played)
    emit('changed')
    notify(played.state === 'taken' ? `Taken: ${played.subjectCode ?? ''}.` : 'It is still kept aside.')
  })
}
async function dismiss(): Promise<void> {
  const now = event.value
  if (!now) return
  const text = 'Nothing is done of what it tells. It stays to be read, with your reason.'
  const reason = await ask({ title: `Leave ${now.key} out?`, text, yes: 'Leave it out', needsReason: true })
  if (reason === null) return
  await saver.save(async () => {
    put(await call(run.dismissEvent, { params: { id }, body: { version: now.version, reason } }))
    emit('changed')
  })
}
</script>

<style scoped>
.sheet {
  padding: 20px 28px 40px;
}
.sheet p {
  margin: 0;
}
.aside {
  border-left: 4px solid var(--nonconforming);
  padding: 6px 12px;
  background: var(--paper);
}
:deep(.mono textarea) {
  font-family: var(--mono);
  font-size: 13px;
}
pre {
  white-space: pre-wrap;
}
</style>
