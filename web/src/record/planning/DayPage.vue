<template>
  <div class="day">
    <RecordNav current="/record/day" />
    <div class="body">
      <header>
        <h1>My day</h1>
        <p class="soft" data-test="minutes">{{ isLoading ? 'Loading …' : minutesWords }}</p>
      </header>
      <ErrorNote :failure="failure" />
      <section v-for="group in groups" :key="group.own" :aria-label="group.title" :data-group="group.own">
        <h2>
          {{ group.title }}
          <router-link
            class="m"
            :to="{ path: '/record', query: { tab: 'open', own: group.own } }"
            :aria-label="`All ${group.total}: ${group.title}`"
            >{{ isLoading ? '…' : group.total }}</router-link
          >
        </h2>
        <p v-if="!isLoading && group.rows.length === 0" class="soft none">{{ group.empty }}</p>
        <article v-for="row in group.rows" :key="row.id" :data-code="row.code">
          <router-link class="open" :to="`/record/${row.id}`">
            <span class="m soft code">{{ row.code }}</span>
            <span class="grow"
              ><b>{{ row.planName }}</b> · {{ row.partCode || row.lotCode }} {{ row.partName }}<br /><span class="m soft small"
                >{{ lookedAt(row) }}{{ row.ofLot > 1 ? `, ${row.number} of ${row.ofLot}` : '' }} · {{ row.operationName }} · {{ sampleWords(row)
                }}{{ row.minutes === null ? '' : ` · ${row.minutes} min` }}</span
              ></span
            >
            <span class="small" :class="dueClass(row)">{{ dueWords(row) }}</span>
            <span class="small gate" :class="row.holds ? 'hold' : 'soft'">{{ row.holds ? 'pieces on hold' : row.isGate ? 'gate' : '' }}</span>
          </router-link>
          <v-btn
            v-if="group.own === 'begun'"
            variant="text"
            size="small"
            :aria-label="`Release task ${row.code}`"
            data-test="put-back"
            @click="back(row)"
            >Release task</v-btn
          >
          <v-btn v-else variant="outlined" color="primary" size="small" :aria-label="`Take ${row.code}`" data-test="take" @click="mine(row)"
            >Take</v-btn
          >
        </article>
      </section>
    </div>
  </div>
</template>

<script setup lang="ts">
import { type InspectionRow, type OwnGroup, ownGroups, record } from '@nemawashi/contract'
import { computed, ref } from 'vue'
import { useCrumbs } from '../../shell/crumbs'
import type { Failure } from '../../shell/api'
import { useThing } from '../../shell/queries'
import { useSession } from '../../shell/session'
import ErrorNote from '../../components/ErrorNote.vue'
import { count, lookedAt, sampleWords } from '../../format/format'
import RecordNav from '../RecordNav.vue'
import { dueWords } from './dueWords'
import { isLate } from '../../format/isLate'
import { useTaking } from '../queue/useTaking'

/** What I am at, what is planned for me, and what nobody has: each taken and put back with one press. */
useCrumbs(() => [{ words: 'Record', to: '/record' }, { words: 'My day' }])
const session = useSession()
const refused = ref<Failure | null>(null)
const said: Record<OwnGroup, { title: string; empty: string }> = {
  begun: { title: 'Taken or begun by me', empty: 'You have taken nothing. Take one below, or begin one in the queue.' },
  planned: { title: 'Planned for me', empty: 'Nothing more is planned for you up to today.' },
  free: { title: 'Nobody has these yet', empty: 'Everything that waits for the bench has somebody.' },
}
const lists = ownGroups.map((own) => ({
  own,
  ...useThing(record.listInspections, () => ({
    query: { own, sort: own === 'begun' ? 'openedAt' : 'dueAt', dir: 'asc' as const, limit: own === 'free' ? 25 : 100 },
  })),
}))
const rowsOf = (own: OwnGroup) => (lists.find((list) => list.own === own)?.data.value?.rows ?? []) as InspectionRow[]
const groups = computed(() =>
  lists.map(({ own, data }) => ({
    own,
    ...said[own],
    total: data.value?.total ?? 0,
    // Those without a time come after those with one.
    rows: [...rowsOf(own)].sort((a, b) => (a.dueAt ?? '9').localeCompare(b.dueAt ?? '9')),
  })),
)
const isLoading = computed(() => lists.some((list) => list.isLoading.value))
const failure = computed(() => refused.value ?? lists.find((list) => list.failure.value)?.failure.value ?? null)
const minutesWords = computed(() => {
  const own = [...rowsOf('begun'), ...rowsOf('planned')]
  const minutes = own.reduce((sum, row) => sum + (row.minutes ?? 0), 0)
  const unknown = own.filter((row) => row.minutes === null).length
  const blank = unknown === 0 ? '' : `, and ${count(unknown, 'inspection')} of unknown length`
  return `${count(own.length, 'inspection')}, ${minutes} of ${session.person?.dayMinutes ?? 0} minutes${blank}.`
})
const dueClass = (row: InspectionRow) => (isLate(row) ? 'nonconforming' : 'soft')
const { take, unassign } = useTaking((problem) => (refused.value = problem))
const reload = () => Promise.all(lists.map((list) => list.reload()))
async function mine(row: InspectionRow): Promise<void> {
  refused.value = null
  await take(row.id, row.code)
  await reload()
}
async function back(row: InspectionRow): Promise<void> {
  refused.value = null
  await unassign(row.id, row.code)
  await reload()
}
</script>

<style scoped>
.day {
  min-height: 100%;
  background: var(--sheet);
}
.body {
  padding: 14px 26px 40px;
  max-width: 1080px;
}
header p {
  margin: 2px 0 0;
}
h2 {
  margin-top: 20px;
  padding-bottom: 6px;
  border-bottom: 1px solid var(--rule);
}
article {
  display: flex;
  align-items: center;
  gap: 12px;
  border-bottom: 1px solid color-mix(in srgb, var(--rule) 55%, transparent);
}
.open {
  flex: 1;
  display: flex;
  gap: 16px;
  align-items: center;
  padding: 6px 0;
  color: inherit;
  text-decoration: none;
  min-width: 0;
}
.open:hover {
  background: color-mix(in srgb, var(--wash) 60%, transparent);
}
.code {
  width: 84px;
  flex: none;
}
.gate {
  width: 96px;
}
article .v-btn {
  width: 96px;
}
.none {
  padding: 8px 0;
  margin: 0;
}
@media (max-width: 700px) {
  .body {
    padding: 12px 14px;
  }
  .code,
  .gate {
    display: none;
  }
}
</style>
