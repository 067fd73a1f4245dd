<template>
  <div class="today">
    <section class="work" aria-label="Work">
      <h1>{{ date }}</h1>
      <p v-if="today" class="soft" data-test="summary">
        <router-link to="/record?tab=open">{{ count(today.started + today.toDo, 'inspection') }}</router-link> for the bench,
        <router-link to="/record?tab=done">{{ today.finishedToday }}</router-link> finished today,
        <router-link to="/record?tab=done&verdict=notAcceptable">{{ today.notAcceptableToday }}</router-link> of them not acceptable.
      </p>
      <p v-else class="soft">…</p>
      <ErrorNote :failure="failure" />
      <SignInChanges />
      <FirstSteps v-if="mayBegin" />
      <template v-for="group in groups" :key="group.title">
        <h2>
          {{ group.title }}
          <router-link class="total" :to="group.all" :aria-label="`All ${group.total}: ${group.title}`">{{ group.total }}</router-link>
        </h2>
        <p v-if="group.entries.length === 0" class="soft none">{{ group.empty }}</p>
        <router-link v-for="entry in group.entries" :key="entry.id" class="entry" :to="entry.to" @click="void entry.follow?.()">
          <span class="m soft when">{{ entry.when }}</span>
          <span class="grow"
            ><b>{{ entry.title }}</b
            >{{ entry.about ? ` · ${entry.about}` : '' }}<br /><span class="m soft small">{{ entry.detail }}</span></span
          >
          <span v-if="entry.done !== null" class="progress"><span :style="{ width: `${100 * entry.done}%` }" /></span>
          <span v-else class="sample" :class="entry.tone"><MarkSign v-if="entry.mark" :mark="entry.mark" /> {{ entry.state }}</span>
        </router-link>
        <router-link v-if="group.total > group.entries.length" class="small" :to="group.all">all {{ group.total }}</router-link>
      </template>
    </section>
    <aside v-if="today" aria-label="What needs eyes">
      <h3>Waits for a decision</h3>
      <router-link to="/record?tab=deciding" class="big"
        ><b class="m">{{ today.waitingForDecision }}</b> {{ today.waitingForDecision === 1 ? 'inspection' : 'inspections' }}</router-link
      >
      <hr />
      <h3>Lots held, by how long</h3>
      <div v-for="age in today.heldByAge" :key="age.fromDays" class="age">
        <span class="soft">{{ ageWords(age) }}</span><span class="bar"><span :style="{ width: `${(100 * age.lots) / maxHeld}%` }" /></span
        ><router-link
          class="m"
          :to="{
            path: '/contain',
            query: { fromDays: String(age.fromDays), ...(age.untilDays === null ? {} : { untilDays: String(age.untilDays) }) },
          }"
          :aria-label="`${age.lots} lots held ${ageWords(age)}`"
          >{{ age.lots }}</router-link
        >
      </div>
      <hr />
      <h3>Inspections not acceptable, of 100</h3>
      <svg
        v-if="months.length > 1"
        viewBox="0 0 300 110"
        class="line"
        role="img"
        :aria-label="`By month: ${months.map((month) => `${month.month} ${month.share.toFixed(1)}`).join(', ')}`"
      >
        <line x1="30" x2="296" y1="86" y2="86" />
        <line x1="30" x2="296" y1="16" y2="16" />
        <text x="26" y="90" text-anchor="end">0</text>
        <text x="26" y="20" text-anchor="end">{{ maxShare }}</text>
        <polyline :points="months.map((month, i) => `${x(i)},${86 - (70 * month.share) / maxShare}`).join(' ')" />
        <circle :cx="x(months.length - 1)" :cy="86 - (70 * (months.at(-1)?.share ?? 0)) / maxShare" r="4" />
        <text x="30" y="104">{{ monthName(months[0]?.month) }}</text>
        <text x="296" y="104" text-anchor="end">{{ monthName(months.at(-1)?.month) }}</text>
      </svg>
      <p class="soft">
        {{
          months.length === 0
            ? 'No inspection was finished yet.'
            : `${(months.at(-1)?.share ?? 0).toFixed(1)} this month, from ${count(months.at(-1)?.decided ?? 0, 'inspection')}.`
        }}
      </p>
    </aside>
  </div>
</template>

<script setup lang="ts">
import { type Today, trace } from '@nemawashi/contract'
import { computed, ref } from 'vue'
import { asFailure, call, type Failure } from '../shell/api'
import { useCrumbs } from '../shell/crumbs'
import { plantZone } from '../shell/plantTime'
import { useSession } from '../shell/session'
import { useFresh } from '../shell/useFresh'
import ErrorNote from '../components/ErrorNote.vue'
import { count } from '../format/format'
import MarkSign from '../components/MarkSign.vue'
import SignInChanges from '../components/SignInChanges.vue'
import FirstSteps from './FirstSteps.vue'
import { groupsFor, type TodayGroup } from './todayGroups'

/** The first page of the day: what the person's role looks at first, and what is held. */
const session = useSession()
const mayBegin = session.has('administrator', 'qualityEngineer')
useCrumbs(() => [{ words: 'Today' }])
const date = new Intl.DateTimeFormat('en-GB', { weekday: 'long', day: 'numeric', month: 'long', timeZone: plantZone.value }).format(new Date())
/** `today`, `1–2 days`, `7 days +`. */
const ageWords = ({ fromDays, untilDays }: Today['heldByAge'][number]) =>
  fromDays === 0 ? 'under a day' : untilDays === null ? `${fromDays} days +` : `${fromDays}–${untilDays - 1} days`
const today = ref<Today | null>(null)
const failure = ref<Failure | null>(null)
const groups = ref<TodayGroup[]>([])
const maxHeld = computed(() => Math.max(1, ...(today.value?.heldByAge.map((age) => age.lots) ?? [])))
const months = computed(() =>
  (today.value?.notAcceptedByMonth ?? []).map((month) => ({ ...month, share: (100 * month.notAcceptable) / month.decided })),
)
const maxShare = computed(() => Math.max(5, Math.ceil(Math.max(0, ...months.value.map((month) => month.share)) / 5) * 5))
const x = (i: number) => 34 + (258 * i) / Math.max(1, months.value.length - 1)
const monthName = (month: string | undefined) =>
  month ? new Intl.DateTimeFormat('en-GB', { month: 'short', timeZone: 'UTC' }).format(new Date(`${month}-15`)) : ''

async function load(): Promise<void> {
  try {
    today.value = await call(trace.getToday, {})
    groups.value = await groupsFor(session.person?.roles ?? [])
    failure.value = null
  } catch (error) {
    failure.value = asFailure(error)
  }
}
void load()
useFresh(load)
</script>

<style scoped>
.today {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 360px;
  min-height: 100%;
}
.work {
  background: var(--sheet);
  border-right: 1px solid var(--rule);
  padding: 20px 26px 40px;
}
.work > p {
  margin: 2px 0 0;
}
.work h2 {
  margin-top: 22px;
  padding-bottom: 6px;
  border-bottom: 1px solid var(--rule);
}
.total {
  color: var(--soft);
}
.work .none {
  padding: 8px 0;
}
.entry {
  display: flex;
  gap: 16px;
  align-items: center;
  padding: 6px 0;
  border-bottom: 1px solid color-mix(in srgb, var(--rule) 55%, transparent);
  color: inherit;
  text-decoration: none;
}
.entry:hover {
  background: color-mix(in srgb, var(--wash) 60%, transparent);
}
.entry > .when {
  width: 140px;
  white-space: nowrap;
  flex: none;
}
.sample,
.progress {
  width: 170px;
  flex: none;
}
.progress {
  height: 9px;
  border: 1px solid var(--rule);
}
.progress span {
  display: block;
  height: 100%;
  background: var(--indigo);
}
aside {
  padding: 20px 24px;
  display: flex;
  flex-direction: column;
  gap: 8px;
}
hr {
  border: 0;
  border-top: 1px solid var(--rule);
  width: 100%;
  margin: 10px 0;
}
.big {
  color: var(--hold);
  text-decoration: none;
}
.big b {
  font-size: 24px;
  margin-right: 4px;
}
.age {
  display: grid;
  grid-template-columns: 80px 1fr 40px;
  gap: 10px;
  align-items: center;
}
.age b {
  text-align: right;
}
.bar span {
  display: block;
  height: 12px;
  background: var(--hold);
}
.line {
  width: 100%;
}
.line line {
  stroke: var(--rule);
}
.line polyline {
  fill: none;
  stroke: var(--indigo);
  stroke-width: 2;
}
.line circle {
  fill: var(--paper);
  stroke: var(--indigo);
  stroke-width: 2;
}
.line text {
  font: 12px var(--mono);
  fill: var(--soft);
}
@media (max-width: 1023px) {
  .today {
    grid-template-columns: 1fr;
  }
}
@media (max-width: 700px) {
  .entry {
    flex-wrap: wrap;
    min-height: 44px;
    gap: 4px 12px;
  }
  .entry > .when {
    width: auto;
  }
  .entry > .grow {
    flex-basis: 100%;
    order: -1;
  }
  .work {
    padding: 14px 14px 30px;
  }
}
</style>
