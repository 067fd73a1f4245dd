<template>
  <div class="list">
    <header>
      <component :is="isMain ? 'h1' : 'h2'" v-if="title" class="title">{{ title }}</component>
      <slot name="head" />
    </header>
    <div class="tools">
      <input v-model="words" type="search" class="filter" :aria-label="`Filter ${title}`" placeholder="Filter" />
      <v-menu :close-on-content-click="false">
        <template #activator="{ props: menu }"><button v-bind="menu" class="tool" data-test="columns">Columns</button></template>
        <v-list density="compact">
          <v-list-item v-for="column in columns" :key="column.key"
            ><v-checkbox v-model="chosen" :value="column.key" :label="column.title"
          /></v-list-item>
        </v-list>
      </v-menu>
      <a class="tool" :href="csvAddress" download>CSV</a>
      <span class="soft count" aria-live="polite">{{ status === 'loading' && rows.length === 0 ? '…' : whole(total) }}</span>
    </div>
    <slot name="narrow" />
    <div ref="scroller" class="scroller" tabindex="-1" @scroll.passive="onScroll">
      <table>
        <thead>
          <tr>
            <th
              v-for="column in shown"
              :key="column.key"
              :class="{ right: column.isNumber, wide: column.isWide }"
              :aria-sort="sorted.sort === column.key ? (sorted.dir === 'asc' ? 'ascending' : 'descending') : undefined"
            >
              <button @click="sortBy(column.key)">
                {{ column.title }}<span aria-hidden="true">{{ sorted.sort === column.key ? (sorted.dir === 'asc' ? ' ↑' : ' ↓') : '' }}</span>
              </button>
            </th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in rows" :key="row.id" :class="{ on: row.id === selectedId }" :data-id="row.id" @click="open(row)">
            <td
              v-for="(column, i) in shown"
              :key="column.key"
              :class="{ right: column.isNumber, m: column.isMono || column.isNumber, wide: column.isWide }"
            >
              <router-link v-if="i === 0" :to="to(row)" :aria-current="row.id === selectedId ? 'true' : undefined" @click.stop>
                <slot :name="slotOf(column)" :row="row">{{ cell(column, row) }}</slot>
              </router-link>
              <slot v-else :name="slotOf(column)" :row="row">{{ cell(column, row) }}</slot>
            </td>
          </tr>
        </tbody>
      </table>
      <p v-if="status === 'ready' && rows.length === 0" class="soft none">
        {{ words ? `Nothing matches "${words}".` : $slots['narrow'] && isNarrowed ? 'Nothing of this kind.' : emptyText }}
      </p>
      <p v-if="status === 'loading'" class="soft none">Loading …</p>
      <ErrorNote :failure="failure"><v-btn variant="text" @click="load(false)">Try again</v-btn></ErrorNote>
      <button v-if="next && status === 'ready'" class="tool more" @click="load(true)">More</button>
    </div>
  </div>
</template>

<script setup lang="ts" generic="Row extends { id: string }">
import { addressOf, type ListEndpoint } from '@nemawashi/contract'
import { computed, nextTick, ref, watch } from 'vue'
import { useRoute, useRouter, type RouteLocationRaw } from 'vue-router'
import { useKeys } from '../shell/keys'
import ErrorNote from './ErrorNote.vue'
import { whole, figureOf } from '../format/format'
import type { ListColumn } from './listColumn'
import { useListPages } from '../composables/useListPages'

/** A list of the server: filter, sorting, choice of columns, count, CSV, and stepping with J and K. Paged by key, loaded as it is scrolled. */
const {
  endpoint,
  name,
  columns,
  to,
  title,
  selectedId = null,
  query = {},
  emptyText = 'Nothing here yet.',
  isMain = false,
  firstSort,
} = defineProps<{
  endpoint: ListEndpoint<Row>
  name: string
  columns: readonly ListColumn[]
  to: (row: Row) => RouteLocationRaw
  title?: string
  selectedId?: string | null
  query?: Record<string, string | undefined>
  emptyText?: string
  /** Where the list is the whole page, its title is the page's. */
  isMain?: boolean
  /** The column that it is sorted by, upwards, until somebody sorts it otherwise; without it as the server does. */
  firstSort?: string | undefined
}>()

/** A cell may be drawn by the page, by the name of its column; it has the row as the endpoint gives it. */
type Cells = { [Name in keyof Row & string]?: (props: { row: Row }) => unknown }
defineSlots<{ head?: () => unknown; narrow?: () => unknown } & Cells>()
const slotOf = ({ key }: ListColumn) => key as keyof Row & string

const route = useRoute()
const router = useRouter()
const scroller = ref<HTMLElement>()

const words = ref(typeof route.query['q'] === 'string' ? route.query['q'] : '')
const sort = ref(typeof route.query['sort'] === 'string' ? route.query['sort'] : undefined)
const dir = ref<'asc' | 'desc'>(route.query['dir'] === 'desc' ? 'desc' : 'asc')

const stored = localStorage.getItem(`columns ${name}`)
const chosen = ref<string[]>(stored ? (JSON.parse(stored) as string[]) : columns.filter((column) => !column.isHidden).map((column) => column.key))
watch(chosen, (value) => localStorage.setItem(`columns ${name}`, JSON.stringify(value)))
const shown = computed(() => {
  const wanted = columns.filter((column) => chosen.value.includes(column.key))
  return wanted.length > 0 ? wanted : columns.slice(0, 1)
})

const sorted = computed(() => (sort.value ? { sort: sort.value, dir: dir.value } : firstSort ? { sort: firstSort, dir: 'asc' as const } : {}))
const listQuery = computed(() => ({ ...query, q: words.value.trim() || undefined, ...sorted.value }))
const isNarrowed = computed(() => Object.values(query).some((value) => value !== undefined))
const csvAddress = computed(() => addressOf(endpoint, { query: listQuery.value }, '.csv'))

const { rows, total, next, status, failure, load } = useListPages<Row>(() => endpoint, listQuery)
const emit = defineEmits<{ rows: [rows: Row[]] }>()
watch(rows, (value) => emit('rows', value), { immediate: rows.value.length > 0 })
defineExpose({
  reload: () => load(false),
  /** Asks again for what is at the top; whoever has scrolled on keeps what they read. */
  refresh: () => (scroller.value?.scrollTop === 0 && status.value === 'ready' ? load(false, true) : undefined),
})

watch(listQuery, ({ q }) => void router.replace({ query: { ...route.query, q, sort: sort.value, dir: sort.value ? dir.value : undefined } }), {
  deep: true,
})

function sortBy(key: string): void {
  dir.value = sorted.value.sort === key && sorted.value.dir === 'asc' ? 'desc' : 'asc'
  sort.value = key
}
function cell(column: ListColumn, row: Row): string {
  const value = (row as Record<string, unknown>)[column.key]
  // A column is written for the rows of its list; which those are, the list does not know.
  if (column.format) return column.format(value as never, row as never)
  if (column.isQuantity && typeof value === 'number') return figureOf(value, String((row as Record<string, unknown>)['unit']))
  return value === null || value === undefined ? '' : typeof value === 'number' ? whole(value) : String(value)
}
function onScroll(): void {
  const box = scroller.value
  if (box && next.value && status.value === 'ready' && box.scrollTop + box.clientHeight > box.scrollHeight - 300) void load(true)
}
async function open(row: Row): Promise<void> {
  await router.push(to(row))
}
async function step(by: number): Promise<void> {
  const at = rows.value.findIndex((row) => row.id === selectedId)
  const row = rows.value[Math.max(0, Math.min(rows.value.length - 1, at + by))]
  if (!row) return
  await open(row)
  await nextTick()
  scroller.value?.querySelector(`[data-id="${row.id}"]`)?.scrollIntoView({ block: 'nearest' })
}
useKeys([
  { key: 'J', words: 'next in the list', run: () => void step(1) },
  { key: 'K', words: 'previous in the list', run: () => void step(-1) },
])
</script>

<style scoped>
.list {
  display: flex;
  flex-direction: column;
  min-height: 0;
  height: 100%;
}
header {
  display: flex;
  align-items: center;
  gap: 4px;
  padding: 12px 16px 6px;
}
.title {
  margin-right: auto;
}
.tools {
  display: flex;
  gap: 4px;
  align-items: center;
  padding: 0 16px 8px;
}
.filter {
  flex: 1;
  min-width: 80px;
  height: 30px;
  border: 1px solid #8d8a80;
  border-radius: 4px;
  padding: 2px 8px;
  background: var(--sheet);
  color: var(--ink);
  font: 14px var(--words);
}
.filter::placeholder {
  color: var(--soft);
  opacity: 1;
}
.tool {
  border: 0;
  background: none;
  color: var(--indigo);
  font: 600 13px/28px var(--words);
  padding: 0 6px;
  cursor: pointer;
  text-decoration: none;
}
.tool:hover {
  text-decoration: underline;
}
.count {
  font: 13px var(--mono);
  min-width: 2ch;
  text-align: right;
}
@media (max-width: 640px) {
  .wide {
    display: none;
  }
}
.scroller {
  overflow: auto;
  flex: 1;
  min-height: 0;
}
table {
  border-collapse: collapse;
  width: 100%;
}
thead th {
  position: sticky;
  top: 0;
  background: var(--paper);
  text-align: left;
  border-bottom: 1px solid var(--rule);
  padding: 0 8px;
  z-index: 1;
  white-space: nowrap;
}
th:first-child,
td:first-child {
  padding-left: 16px;
}
th:last-child,
td:last-child {
  padding-right: 14px;
}
th button {
  border: 0;
  background: none;
  font: 600 12.5px/26px var(--words);
  color: var(--soft);
  cursor: pointer;
  padding: 0;
}
td {
  padding: 0 8px;
  height: 32px;
  border-bottom: 1px solid color-mix(in srgb, var(--rule) 55%, transparent);
  max-width: 176px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
td a {
  color: inherit;
  text-decoration: none;
  font-weight: 600;
}
tbody tr {
  cursor: pointer;
}
tbody tr:hover {
  background: color-mix(in srgb, var(--wash) 55%, transparent);
}
tr.on {
  background: var(--wash);
  box-shadow: inset 4px 0 0 var(--indigo);
}
.right {
  text-align: right;
}
.none {
  padding: 16px;
}
.more {
  display: block;
  margin: 8px auto;
}
</style>
