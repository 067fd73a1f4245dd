<template>
  <SheetSplit list-words="Steps" left="minmax(330px, 30%)">
    <template #list>
      <DefineNav current="import" />
      <div class="steps stack">
        <h2>Bring characteristics in</h2>
        <label class="drop" :class="{ over: isOver }" @dragover.prevent="isOver = true" @dragleave="isOver = false" @drop.prevent="drop">
          <b>{{ fileName || 'Choose a file, or drop it here' }}</b>
          <span class="small soft">CSV in UTF-8, XLSX, or the library’s own JSON; up to {{ whole(mostRows) }} rows</span>
          <input type="file" accept=".csv,.tsv,.txt,.xlsx,.json" data-field="file" @change="choose" />
        </label>
        <ErrorNote :failure="failure" />
        <template v-if="table">
          <p class="small" data-test="counts">{{ countsWords }}</p>
          <v-btn color="primary" :disabled="!canImport" :loading="isBusy" data-test="import" @click="take"
            >Import {{ count(table.rows.length, 'row') }}</v-btn
          >
          <p v-if="!canImport && !isBusy" class="small soft">
            Nothing is written until every cell is mended: change it here, or in the file and choose it again.
          </p>
        </template>
        <section v-if="done" class="done" data-test="done">
          <p><b>Imported:</b> {{ count(done.created, 'new draft') }}, {{ count(done.revised, 'revised draft') }}, {{ done.unchanged }} unchanged.</p>
          <v-btn variant="outlined" size="small" data-test="undo-import" @click="undo">Take this import back</v-btn>
        </section>
        <section>
          <h3>Take the library out</h3>
          <p class="small">
            <a href="/api/library/export?format=csv">CSV</a> · <a href="/api/library/export?format=xlsx">XLSX</a> ·
            <a href="/api/library/export?format=json">JSON</a> (<a href="/api/library/schema">schema</a>). What goes out comes in again unchanged.
          </p>
        </section>
      </div>
    </template>
    <div v-if="table" class="sheet stack">
      <h1>{{ fileName }}</h1>
      <p v-if="problems.length > 0" class="nonconforming" role="status" data-test="problem-count">
        {{ count(problems.length + more, 'cell') }} {{ problems.length + more === 1 ? 'is' : 'are' }} to be mended{{
          more > 0 ? `, the first ${problems.length} are shown` : ''
        }}.
        <button v-if="problems.length > 0" type="button" @click="toProblem">Go to the next</button>
      </p>
      <p v-else-if="check" class="conforming"><MarkSign mark="conforming" /> Every cell is understood.</p>
      <div class="table" tabindex="0" aria-label="The rows of the file">
        <table class="plain">
          <thead>
            <tr>
              <th class="right">row</th>
              <th v-for="(head, i) in table.columns" :key="i">
                <span class="small soft">{{ head || '(no head)' }}</span>
                <select v-model="matched[i]" :aria-label="`column ${head} is`" :data-column="i">
                  <option :value="null">leave out</option>
                  <option v-for="column in tableColumns" :key="column" :value="column">{{ column }}</option>
                </select>
              </th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="index in shownRows" :key="index">
              <td class="right m soft">{{ index + 1 }}</td>
              <td v-for="(_, i) in table.columns" :key="i" :class="{ bad: problemAt(index, i), left: matched[i] === null }">
                <input
                  v-model="(table.rows[index] as string[])[i]"
                  :aria-label="`row ${index + 1}, ${matched[i] ?? table.columns[i]}`"
                  :title="problemAt(index, i)"
                  :data-cell="`${index + 1} ${i}`"
                  @change="look"
                />
                <span v-if="problemAt(index, i)" class="small nonconforming why">{{ problemAt(index, i) }}</span>
              </td>
            </tr>
          </tbody>
        </table>
      </div>
      <p v-if="table.rows.length > shownRows.length" class="small soft">
        Rows with something to mend and the first ones are shown, {{ shownRows.length }} of {{ whole(table.rows.length) }}; all are checked.
      </p>
    </div>
    <ImportGuide v-else />
  </SheetSplit>
</template>

<script setup lang="ts">
import { endpoints, mostRows, tableColumns, type ImportCheck, type ReadTable, type TableColumn } from '@nemawashi/contract'
import { computed, nextTick, ref, watch } from 'vue'
import { asFailure, call, type Failure } from '../frame/api'
import { fileContent } from '../frame/fileContent'
import { useCrumbs } from '../frame/crumbs'
import { notify } from '../frame/notify'
import ErrorNote from '../pieces/ErrorNote.vue'
import { count, whole } from '../pieces/format'
import MarkSign from '../pieces/MarkSign.vue'
import SheetSplit from '../pieces/SheetSplit.vue'
import DefineNav from './DefineNav.vue'
import ImportGuide from './ImportGuide.vue'
import { guessColumns, rowsOf } from './importTable'

/** Characteristics from a file: columns matched, errors by row and cell, mended in place, imported all or none, and taken back. */
const { define } = endpoints
useCrumbs(() => [{ words: 'Define', to: '/define' }, { words: 'Characteristics', to: '/define/characteristics' }, { words: 'Import' }])
const fileName = ref('')
const table = ref<ReadTable | null>(null)
const matched = ref<(TableColumn | null)[]>([])
const check = ref<ImportCheck | null>(null)
const failure = ref<Failure | null>(null)
const done = ref<{ importId: string; created: number; revised: number; unchanged: number } | null>(null)
const isBusy = ref(false)
const isOver = ref(false)

async function read(file: File | undefined): Promise<void> {
  if (!file) return
  fileName.value = file.name
  table.value = check.value = failure.value = done.value = null
  isBusy.value = true
  try {
    const seen = await call(define.readTable, { body: { name: file.name, content: await fileContent(file) } })
    table.value = seen
    matched.value = guessColumns(seen.columns)
    await look()
  } catch (error) {
    failure.value = asFailure(error)
  } finally {
    isBusy.value = false
  }
}
const choose = (event: Event) => {
  const input = event.target as HTMLInputElement
  void read(input.files?.[0]).then(() => (input.value = ''))
}
const drop = (event: DragEvent) => {
  isOver.value = false
  void read(event.dataTransfer?.files[0])
}

let latest = 0
async function look(): Promise<void> {
  if (!table.value || table.value.rows.length === 0) return
  const mine = ++latest
  isBusy.value = true
  try {
    const seen = await call(define.checkImport, { body: { rows: rowsOf(table.value, matched.value) } })
    if (mine === latest) check.value = seen
  } catch (error) {
    if (mine === latest) failure.value = asFailure(error)
  } finally {
    if (mine === latest) isBusy.value = false
  }
}
watch(matched, look, { deep: true })

interface Placed {
  readonly row: number
  readonly column: number
  readonly message: string
}
/** Problems of the file itself and of what its cells say, by place. A problem of a column that the file lacks stands at the code. */
const problems = computed<Placed[]>(() => {
  const ofFile = (table.value?.problems ?? []).filter((problem) => problem.isError)
  const ofCells = (check.value?.problems ?? []).map(({ row, column, message }) => {
    const at = matched.value.indexOf(column)
    return at >= 0 ? { row, column: at, message } : { row, column: Math.max(0, matched.value.indexOf('code')), message: `${column}: ${message}` }
  })
  return [...ofFile, ...ofCells]
})
const more = computed(() => check.value?.more ?? 0)
const byPlace = computed(() => {
  const found = new Map<string, string>()
  for (const { row, column, message } of problems.value)
    found.set(`${row} ${column}`, [found.get(`${row} ${column}`), message].filter(Boolean).join(' '))
  return found
})
const problemAt = (index: number, column: number) => byPlace.value.get(`${index + 1} ${column}`)
const shownRows = computed(() => {
  const length = table.value?.rows.length ?? 0
  const shown = new Set<number>(Array.from({ length: Math.min(length, 60) }, (_, i) => i))
  for (const { row } of problems.value) if (shown.size < 200) shown.add(row - 1)
  return [...shown].sort((a, b) => a - b)
})
const canImport = computed(() => !isBusy.value && check.value !== null && problems.value.length === 0)
const countsWords = computed(() => {
  if (!check.value) return 'Being checked …'
  const { created, revised, unchanged } = check.value
  return `${count(created, 'new characteristic')}, ${revised} with a new draft revision, ${unchanged} as they are.`
})
async function toProblem(): Promise<void> {
  const focused = document.activeElement?.getAttribute('data-cell') ?? ''
  const places = [...byPlace.value.keys()].sort((a, b) => Number(a.split(' ')[0]) - Number(b.split(' ')[0]))
  const next = places[(places.indexOf(focused) + 1) % Math.max(1, places.length)]
  await nextTick()
  document.querySelector<HTMLElement>(`[data-cell="${next}"]`)?.focus()
}

async function take(): Promise<void> {
  if (!table.value) return
  isBusy.value = true
  try {
    done.value = await call(define.importCharacteristics, { body: { rows: rowsOf(table.value, matched.value) } })
    notify(`Imported ${fileName.value}: ${count(done.value.created + done.value.revised, 'draft')}.`)
    table.value = null
  } catch (error) {
    failure.value = asFailure(error)
  } finally {
    isBusy.value = false
  }
}
async function undo(): Promise<void> {
  if (!done.value) return
  try {
    const { removed } = await call(define.undoImport, { params: { id: done.value.importId } })
    notify(`Taken back: ${count(removed, 'draft')}.`)
    done.value = null
    fileName.value = ''
  } catch (error) {
    failure.value = asFailure(error)
  }
}
</script>

<style scoped>
.steps {
  padding: 14px 16px 24px;
  overflow: auto;
}
.drop {
  display: grid;
  gap: 4px;
  border: 2px dashed var(--rule);
  border-radius: 4px;
  padding: 18px 14px;
  cursor: pointer;
}
.drop.over,
.drop:focus-within {
  border-color: var(--indigo);
}
.drop input {
  position: absolute;
  opacity: 0;
  width: 1px;
}
.done {
  border-left: 4px solid var(--conforming);
  padding-left: 12px;
}
.sheet {
  padding: 20px 24px 40px;
}
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
