<template>
  <p v-if="problems.length > 0" class="nonconforming" role="status" data-test="problem-count">
    {{ count(problems.length + more, 'cell') }} {{ problems.length + more === 1 ? 'is' : 'are' }} to be mended{{
      more > 0 ? `, the first ${problems.length} are shown` : ''
    }}.
    <button type="button" @click="toProblem">Go to the next</button>
  </p>
  <p v-else-if="isChecked" class="conforming"><MarkSign mark="conforming" /> Every cell is understood.</p>
  <div class="table" tabindex="0" aria-label="The rows of the file">
    <table class="plain">
      <thead>
        <tr>
          <th class="right">row</th>
          <th v-for="i in shownColumns" :key="i">
            <span class="small soft">{{ table.columns[i] || '(no head)' }}</span>
            <select v-model="matched[i]" :aria-label="`column ${table.columns[i]} is`" :data-column="i">
              <option :value="null">leave out</option>
              <option v-for="column in tableColumns" :key="column" :value="column">{{ column }}</option>
            </select>
          </th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="index in shownRows" :key="index">
          <td class="right m soft">{{ index + 1 }}</td>
          <td v-for="i in shownColumns" :key="i" :class="{ bad: problemAt(index, i), left: matched[i] === null }">
            <TypedInput
              :value="table.rows[index]?.[i] ?? ''"
              :aria-label="`row ${index + 1}, ${matched[i] ?? table.columns[i]}`"
              :title="problemAt(index, i)"
              :data-cell="`${index + 1} ${i}`"
              @taken="emit('mend', index, i, $event)"
            />
            <span v-if="problemAt(index, i)" class="small nonconforming why">{{ problemAt(index, i) }}</span>
          </td>
        </tr>
      </tbody>
    </table>
  </div>
  <p v-if="shownColumns.length < table.columns.length" class="small soft">
    {{ count(table.columns.length - shownColumns.length, 'column') }} without anything in
    {{ table.columns.length - shownColumns.length === 1 ? 'it' : 'them' }} {{ table.columns.length - shownColumns.length === 1 ? 'is' : 'are' }} not
    shown.
  </p>
  <p v-if="table.rows.length > shownRows.length" class="small soft">
    Rows with something to mend and the first ones are shown, {{ shownRows.length }} of {{ whole(table.rows.length) }}; all are checked.
  </p>
</template>

<script setup lang="ts">
import { tableColumns, type ReadTable, type TableColumn } from '@nemawashi/contract'
import { computed, nextTick, ref, watch } from 'vue'
import { count, whole } from '../../format/format'
import MarkSign from '../../components/MarkSign.vue'
import { columnsInUse, type PlacedProblem } from './importTable'
import TypedInput from '../../components/TypedInput.vue'

/** The rows of a file with what is wrong in them, to be mended cell by cell; the columns are matched in the head. */
const { table, problems } = defineProps<{ table: ReadTable; problems: readonly PlacedProblem[]; more: number; isChecked: boolean }>()
const matched = defineModel<(TableColumn | null)[]>('matched', { required: true })
const emit = defineEmits<{ mend: [row: number, column: number, text: string] }>()

const byPlace = computed(() => {
  const found = new Map<string, string>()
  for (const { row, column, message } of problems) found.set(`${row} ${column}`, [found.get(`${row} ${column}`), message].filter(Boolean).join(' '))
  return found
})
const problemAt = (index: number, column: number) => byPlace.value.get(`${index + 1} ${column}`)
const shownRows = computed(() => {
  const { length } = table.rows
  const shown = new Set<number>(Array.from({ length: Math.min(length, 60) }, (_, i) => i))
  for (const { row } of problems) if (shown.size < 200) shown.add(row - 1)
  return [...shown].sort((a, b) => a - b)
})
/** A column that was shown stays, also when its last cell is emptied. */
const shownColumns = ref<number[]>([])
let names: readonly string[] = []
watch(
  [() => table, () => problems],
  () => {
    const before = names === table.columns ? shownColumns.value : []
    names = table.columns
    shownColumns.value = [...new Set([...before, ...columnsInUse(table, problems)])].sort((a, b) => a - b)
  },
  { immediate: true },
)
async function toProblem(): Promise<void> {
  const focused = document.activeElement?.getAttribute('data-cell') ?? ''
  const places = [...byPlace.value.keys()].sort((a, b) => Number(a.split(' ')[0]) - Number(b.split(' ')[0]))
  const next = places[(places.indexOf(focused) + 1) % Math.max(1, places.length)]
  await nextTick()
  document.querySelector<HTMLElement>(`[data-cell="${next}"]`)?.focus()
}
</script>

<style scoped>
.table {
  overflow: auto;
  max-height: calc(100vh - 190px);
}
th select {
  display: block;
  border: 1px solid var(--rule);
  border-radius: 4px;
  background: var(--sheet);
  color: var(--ink);
}
td input {
  width: 100%;
  min-width: 92px;
  height: 28px;
  border: 1px solid transparent;
  background: none;
  color: var(--ink);
  padding: 0 4px;
  text-overflow: ellipsis;
}
td input:focus {
  border-color: var(--indigo);
}
.bad {
  background: var(--nonconforming-wash);
  min-width: 220px;
}
.why {
  display: block;
}
.left input {
  color: var(--soft);
  text-decoration: line-through;
}
button {
  border: 0;
  background: none;
  color: var(--indigo);
  font-weight: 600;
  cursor: pointer;
}
</style>
