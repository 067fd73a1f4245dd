<template>
  <div class="planning">
    <RecordNav current="/record/planning" />
    <ErrorNote :failure="refused ?? failure" />
    <p class="sr-only" aria-live="assertive">{{ told }}</p>
    <div v-if="board" class="board">
      <section class="shelf" aria-label="Planned for nobody" @dragover.prevent @drop.prevent="drop({ personId: null, day: null })">
        <h1>
          Planned for nobody
          <router-link class="m" :to="{ path: '/record', query: { tab: 'open', assignedTo: '-' } }">{{ board.unplannedTotal }}</router-link>
        </h1>
        <input v-model="words" type="search" class="filter" aria-label="Filter what is planned for nobody" placeholder="Filter" />
        <PlanningCard v-for="card in board.unplanned" :key="card.id" :card="card" :is-held="held?.id === card.id" v-on="movesOf(card)" />
        <p v-if="board.unplanned.length === 0" class="soft small">
          {{ words ? `Nothing matches "${words}".` : 'Everything open is planned for somebody.' }}
        </p>
        <p v-else-if="board.unplanned.length < board.unplannedTotal && !words" class="soft small">
          The first {{ board.unplanned.length }} by due; filter to find others.
        </p>
      </section>
      <table>
        <thead>
          <tr>
            <th>
              <span class="row"
                ><button aria-label="Days before" @click="page(-1)">←</button><button aria-label="Days after" @click="page(1)">→</button>
                <button v-if="from" @click="from = null">today</button></span
              >
            </th>
            <th v-for="day in board.days" :key="day" :class="{ today: day === board.today }">{{ weekday(day) }} {{ dayWords(day) }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="person in board.people" :key="person.id">
            <th scope="row">
              <b>{{ person.name }}</b>
              <span v-if="undated(person.id).length > 0" class="soft small">{{ count(undated(person.id).length, 'inspection') }} without a day</span>
              <PlanningCard v-for="card in undated(person.id)" :key="card.id" :card="card" :is-held="held?.id === card.id" v-on="movesOf(card)" />
            </th>
            <td
              v-for="day in board.days"
              :key="day"
              :class="{ target: target?.personId === person.id && target.day === day }"
              :data-cell="`${person.name} ${day}`"
              @dragover.prevent="target = { personId: person.id, day }"
              @drop.prevent="drop({ personId: person.id, day })"
              @click="held && drop({ personId: person.id, day })"
            >
              <router-link
                v-if="cellOf(person.id, day).length > 0"
                class="sum small"
                :class="{ over: sumOf(person.id, day) > person.dayMinutes }"
                :to="{ path: '/record', query: { tab: 'open', assignedTo: person.id, [day === board.today ? 'dayUntil' : 'day']: day } }"
                ><span class="sr-only">{{ person.name }}, {{ dayWords(day) }}: {{ count(cellOf(person.id, day).length, 'inspection') }}, </span
                ><span class="bar"
                  ><span :style="{ width: `${Math.min(100, (100 * sumOf(person.id, day)) / Math.max(1, person.dayMinutes))}%` }"
                /></span>
                <span class="m">{{ sumOf(person.id, day) }} / {{ person.dayMinutes }} min</span></router-link
              >
              <PlanningCard
                v-for="card in cellOf(person.id, day)"
                :key="card.id"
                :card="card"
                :today="board.today"
                :is-held="held?.id === card.id"
                v-on="movesOf(card)"
              />
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <EmptyState v-else title="Planning" :text="isLoading ? 'Loading …' : 'Nothing here.'" />
  </div>
</template>

<script setup lang="ts">
import { type PlannedInspection, record } from '@nemawashi/contract'
import { computed, ref, shallowRef, watch } from 'vue'
import { useCrumbs } from '../../shell/crumbs'
import { useKeys } from '../../shell/keys'
import { useThing } from '../../shell/queries'
import EmptyState from '../../components/EmptyState.vue'
import ErrorNote from '../../components/ErrorNote.vue'
import { count, dayWords } from '../../format/format'
import { pageAfter } from './boardMoves'
import PlanningCard from './PlanningCard.vue'
import RecordNav from '../RecordNav.vue'
import { useCardMoves } from './useCardMoves'

/** Who does what on which day: cards that are dragged, or picked up with Space and moved with the arrows. */
useCrumbs(() => [{ words: 'Record', to: '/record' }, { words: 'Planning' }])
const words = ref('')
const from = ref<string | null>(null)
const asked = computed(() => ({
  ...(from.value === null ? {} : { from: from.value }),
  ...(words.value.trim() === '' ? {} : { q: words.value.trim() }),
}))
const { data, failure, isLoading, reload } = useThing(record.getPlanning, () => ({ query: asked.value }))
/** The board that was there stays while the next one is on its way. */
const board = shallowRef<typeof data.value>()
watch(data, (now) => now && (board.value = now), { immediate: true })

const weekday = (day: string) => new Intl.DateTimeFormat('en-GB', { weekday: 'short', timeZone: 'UTC' }).format(new Date(`${day}T12:00:00Z`))
const page = (by: 1 | -1) => (from.value = pageAfter(by, board.value?.days ?? []))

const planned = computed(() => board.value?.planned ?? [])
const undated = (personId: string) => planned.value.filter((card) => card.personId === personId && card.day === null)
/** What was left of earlier days stands in today's. */
const shownOn = ({ day }: PlannedInspection) =>
  day !== null && board.value && day < board.value.today && board.value.days.includes(board.value.today) ? board.value.today : day
const cellOf = (personId: string, day: string) => planned.value.filter((card) => card.personId === personId && shownOn(card) === day)
const sumOf = (personId: string, day: string) => cellOf(personId, day).reduce((sum, { minutes }) => sum + (minutes ?? 0), 0)

const { held, target, told, refused, drop, movesOf } = useCardMoves({ board, shownOn, reload })
useKeys([
  { key: 'Space', words: 'pick up the card, put it down' },
  { key: '←, →, ↑, ↓', words: 'with a card picked up: another day, another person' },
])
</script>

<style scoped>
.planning {
  height: 100%;
  display: flex;
  flex-direction: column;
  background: var(--paper);
}
.board {
  flex: 1;
  min-height: 0;
  display: flex;
}
.shelf {
  width: 270px;
  flex: none;
  overflow: auto;
  padding: 12px 14px 20px;
  border-right: 1px solid var(--rule);
}
.shelf h1 {
  font: 600 15px/20px var(--words);
}
.filter {
  width: 100%;
  height: 30px;
  border: 1px solid #8d8a80;
  border-radius: 4px;
  padding: 2px 8px;
  margin: 8px 0;
  background: var(--sheet);
  color: var(--ink);
  font: 14px var(--words);
}
table {
  flex: 1;
  border-collapse: collapse;
  table-layout: fixed;
  background: var(--sheet);
  display: table;
  height: min-content;
  width: 100%;
}
th,
td {
  border: 1px solid var(--rule);
  border-top: 0;
  vertical-align: top;
  padding: 6px;
  text-align: left;
}
thead th {
  font: 600 12.5px/18px var(--words);
  color: var(--soft);
  position: sticky;
  top: 0;
  background: var(--sheet);
  z-index: 1;
}
thead th.today {
  color: var(--indigo);
  box-shadow: inset 0 -2px 0 var(--indigo);
}
tbody th {
  font-weight: 400;
}
tbody th span {
  display: block;
}
td {
  height: 84px;
}
td.target {
  background: var(--wash);
  outline: 2px solid var(--indigo);
  outline-offset: -2px;
}
thead button {
  border: 0;
  background: none;
  color: var(--indigo);
  font: 600 13px var(--words);
  cursor: pointer;
  padding: 0 4px;
}
.sum {
  display: flex;
  align-items: center;
  gap: 6px;
  color: var(--soft);
  text-decoration: none;
  margin-bottom: 4px;
  white-space: nowrap;
}
.sum.over {
  color: var(--nonconforming);
  font-weight: 600;
}
.bar {
  flex: 1;
  height: 6px;
  border: 1px solid var(--rule);
}
.bar span {
  display: block;
  height: 100%;
  background: var(--indigo);
}
.over .bar span {
  background: var(--nonconforming);
}
@media (max-width: 900px) {
  .board {
    flex-direction: column;
    overflow: auto;
  }
  .shelf {
    width: auto;
    max-height: 40vh;
    border-right: 0;
    border-bottom: 1px solid var(--rule);
  }
  table {
    min-width: 760px;
  }
}
</style>
