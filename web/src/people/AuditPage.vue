<template>
  <SheetSplit print="list" list-words="Audit chain" left="minmax(520px, 62%)">
    <template #list>
      <div class="prove row">
        <v-btn color="primary" variant="outlined" size="small" :loading="isProving" data-test="prove" @click="prove">Prove the chain</v-btn>
        <span v-if="step" class="num" role="status" data-test="proving">{{ whole(step.done) }} of {{ whole(step.total) }} entries read</span>
        <ErrorNote :failure="failure" />
        <ReasoningLine v-if="result" :verdict="result.isWhole ? 'acceptable' : 'notAcceptable'" :reasoning="proofWords" data-test="proof" />
      </div>
      <DataList
        name="audit"
        :endpoint="people.listAudit"
        :columns="columns"
        title="Audit chain"
        :selected-id="route.query['entry'] ? String(route.query['entry']) : null"
        :query="narrowed"
        empty-text="Nothing was changed yet."
        :to="(row: AuditEntry) => ({ path: '/people/audit', query: { ...route.query, entry: row.id } })"
        @rows="rows = $event as AuditEntry[]"
      >
        <template #head><a class="small" :href="pdf" target="_blank" data-test="audit-pdf">PDF</a></template>
        <template #narrow>
          <div class="narrow">
            <PickOne v-model="personId" :endpoint="people.listPeople" label="Who" is-clearable field="audit-person" />
            <v-select v-model="subject" :items="words?.subjects ?? []" label="Kind of thing" clearable data-field="audit-subject" />
            <v-select v-model="action" :items="words?.actions ?? []" label="What was done" clearable data-field="audit-action" />
            <DayField v-model="first" label="From" field="audit-from" />
            <DayField v-model="last" label="To, that day too" :min="from" field="audit-until" />
            <label class="small"><input v-model="isAll" type="checkbox" data-field="audit-all" /> signing in and out too</label>
          </div>
        </template>
        <template #subjectName="{ row }"
          ><span class="soft small">{{ row.subject }}</span> {{ row.subjectName ?? '' }}</template
        >
      </DataList>
    </template>
    <div v-if="entry" class="sheet stack" data-test="entry">
      <h1>Entry {{ entry.id }}</h1>
      <p>
        <b>{{ entry.personName ?? 'The server' }}</b> {{ entry.action }} {{ entry.subject }}
        <router-link v-if="page" :to="page" data-test="to-subject">{{ entry.subjectName ?? 'open it' }}</router-link>
        <template v-else>{{ entry.subjectName }}</template>
        · <span class="m">{{ momentOf(entry.at) }}</span>
      </p>
      <p v-if="entry.why">Because: {{ entry.why }}</p>
      <table v-if="changes.length > 0" class="plain" aria-label="What differs, field by field">
        <thead>
          <tr>
            <th>Field</th>
            <th v-if="entry.before !== null">Before</th>
            <th>{{ entry.before === null ? 'Said' : 'After' }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="change in changes" :key="change.field">
            <td>{{ change.field }}</td>
            <td v-if="entry.before !== null" class="value">{{ change.before }}</td>
            <td class="value">{{ change.after }}</td>
          </tr>
        </tbody>
      </table>
      <p v-else class="soft">Nothing more is said of it.</p>
      <router-link v-if="entry.subjectId" :to="{ path: '/people/audit', query: { subjectId: entry.subjectId } }" data-test="same-thing"
        >Everything that was done to it</router-link
      >
    </div>
    <EmptyState
      v-else
      title="Who did what to which thing"
      text="Choose an entry to see the difference field by field, and to open the thing itself."
    />
  </SheetSplit>
</template>

<script setup lang="ts">
import { dayBeside } from '@nemawashi/core'
import { type AuditEntry, addressOf, people } from '@nemawashi/contract'
import { computed, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { asFailure, call, newKey, type Failure } from '../shell/api'
import { useProgress } from '../shell/useProgress'
import { useCrumbs } from '../shell/crumbs'
import { startOfPlantDay } from '../shell/plantTime'
import { useThing } from '../shell/queries'
import DataList from '../components/DataList.vue'
import DayField from '../components/DayField.vue'
import EmptyState from '../components/EmptyState.vue'
import type { ListColumn } from '../components/listColumn'
import ErrorNote from '../components/ErrorNote.vue'
import { momentOf, whole } from '../format/format'
import PickOne from '../components/PickOne.vue'
import ReasoningLine from '../components/ReasoningLine.vue'
import SheetSplit from '../components/SheetSplit.vue'
import { useDayFilter } from '../composables/useDayFilter'
import { differences, pageOf } from './auditWords'

/** The audit chain: who did what to which thing, what differed, filtered by person, thing, kind and time; and its proof. */
const route = useRoute()
const router = useRouter()
useCrumbs(() => [{ words: 'People', to: '/people' }, { words: 'Audit chain' }])
const isProving = ref(false)
const { step, follow, unfollow } = useProgress()
const failure = ref<Failure | null>(null)
const result = ref<{ entries: number; isWhole: boolean; breaks: string[]; head: { seq: number; hash: string } } | null>(null)
const { data: words } = useThing(people.listAuditWords, () => ({}))
const rows = ref<AuditEntry[]>([])
const columns: ListColumn[] = [
  { key: 'id', title: 'Entry', isMono: true, isHidden: true },
  { key: 'at', title: 'When', format: (value: string) => momentOf(value) },
  { key: 'personName', title: 'Who' },
  { key: 'action', title: 'Did' },
  { key: 'subjectName', title: 'To' },
  { key: 'why', title: 'Because', isHidden: true },
]

/** A filter that stands in the address. */
function filter(name: string) {
  return computed({
    get: () => (typeof route.query[name] === 'string' ? route.query[name] : null),
    set: (value: string | null) => void router.replace({ query: { ...route.query, [name]: value || undefined } }),
  })
}
const [personId, subject, action, from, until, work, subjectId] = ['personId', 'subject', 'action', 'from', 'until', 'work', 'subjectId'].map(
  filter,
) as [
  ReturnType<typeof filter>,
  ReturnType<typeof filter>,
  ReturnType<typeof filter>,
  ReturnType<typeof filter>,
  ReturnType<typeof filter>,
  ReturnType<typeof filter>,
  ReturnType<typeof filter>,
]
const isAll = computed({ get: () => work.value === 'all', set: (value) => (work.value = value ? 'all' : null) })
const [first, last] = [useDayFilter(from), useDayFilter(until)]
const narrowed = computed(() => ({
  personId: personId.value ?? undefined,
  subject: subject.value ?? undefined,
  action: action.value ?? undefined,
  subjectId: subjectId.value ?? undefined,
  from: from.value ? startOfPlantDay(from.value) : undefined,
  until: until.value ? startOfPlantDay(dayBeside(until.value, 1)) : undefined,
  work: work.value ?? undefined,
}))
const pdf = computed(() => addressOf(people.getAuditPdf, { query: { ...narrowed.value, q: route.query['q'] } }))
const entry = computed(() => rows.value.find(({ id }) => id === route.query['entry']) ?? null)
const page = computed(() => (entry.value ? pageOf(entry.value.subject, entry.value.subjectId) : null))
const changes = computed(() => (entry.value ? differences(entry.value.before, entry.value.after) : []))
const proofWords = computed(() =>
  result.value?.isWhole
    ? `${whole(result.value.entries)} entries recomputed up to ${result.value.head.seq}:${result.value.head.hash.slice(0, 16)}; every row is as it was written, every lot adds up`
    : (result.value?.breaks.join('; ') ?? ''),
)
async function prove(): Promise<void> {
  isProving.value = true
  failure.value = null
  const key = newKey()
  follow(key)
  try {
    result.value = await call(people.verifyAudit, { query: { progress: key } })
  } catch (error) {
    failure.value = asFailure(error)
  } finally {
    isProving.value = false
    unfollow()
  }
}
</script>

<style scoped>
.prove {
  padding: 12px 16px 0;
}
.narrow {
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: 6px 10px;
  padding: 0 16px 6px;
  align-items: center;
}
.sheet {
  padding: 20px 28px 40px;
}
.sheet p {
  margin: 0;
}
.value {
  white-space: pre-wrap;
  overflow-wrap: anywhere;
}
</style>
