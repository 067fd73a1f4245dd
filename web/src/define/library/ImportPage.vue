<template>
  <SheetSplit list-words="Steps" left="minmax(330px, 30%)">
    <template #nav><DefineNav current="import" /></template>
    <template #list>
      <div class="steps stack">
        <h2>Bring characteristics in</h2>
        <label class="drop" :class="{ over: isOver }" @dragover.prevent="isOver = true" @dragleave="isOver = false" @drop.prevent="drop">
          <b>{{ fileName || 'Choose a file, or drop it here' }}</b>
          <span class="small soft">CSV in UTF-8, XLSX, or the library’s own JSON; up to {{ whole(maxRows) }} rows</span>
          <input type="file" accept=".csv,.tsv,.txt,.xlsx,.json" data-field="file" @change="choose" />
        </label>
        <ErrorNote :failure="failure" />
        <template v-if="step">
          <v-progress-linear :model-value="(100 * step.done) / step.total" :aria-label="stepWords" rounded height="6" />
          <p class="small soft" data-test="progress">{{ stepWords }}</p>
        </template>
        <template v-if="table">
          <p class="small" data-test="counts">{{ countsWords }}</p>
          <ul v-if="check && check.missing.length > 0" class="missing small" data-test="missing">
            <li v-for="(each, i) in check.missing.slice(0, 8)" :key="i">Row {{ each.row }}: {{ each.message }}</li>
            <li v-if="check.missing.length > 8" class="soft">and {{ check.missing.length - 8 }} more</li>
          </ul>
          <v-btn color="primary" :disabled="!canImport" :loading="isBusy" data-test="import" @click="take"
            >Import {{ count(table.rows.length, 'row') }}</v-btn
          >
          <p v-if="isUnchanged" class="small soft">Everything in the file stands in the library already; there is nothing to import.</p>
          <p v-else-if="!canImport && !isBusy" class="small soft">
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
            <a href="/api/v1/library/export?format=csv">CSV</a> · <a href="/api/v1/library/export?format=xlsx">XLSX</a> ·
            <a href="/api/v1/library/export?format=json">JSON</a> ·
            <a href="/api/v1/library/export?format=json&amp;with=documents" data-test="with-documents">JSON with documents</a> (<a
              href="/api/v1/library/schema"
              >schema</a
            >). What goes out comes in again unchanged.
          </p>
        </section>
      </div>
    </template>
    <div v-if="table" class="sheet stack">
      <h1>{{ fileName }}</h1>
      <ImportTable v-model:matched="matched" :table="table" :problems="problems" :more="check?.more ?? 0" :is-checked="check !== null" @mend="mend" />
    </div>
    <ImportGuide v-else />
  </SheetSplit>
</template>

<script setup lang="ts">
import { type FileDocument, type ImportCheck, type LibraryFile, type ReadTable, type TableColumn, define, maxRows } from '@nemawashi/contract'
import { computed, ref, watch } from 'vue'
import { asFailure, call, newKey, type Failure } from '../../shell/api'
import { fileContent } from '../../shell/fileContent'
import { useCrumbs } from '../../shell/crumbs'
import { notify } from '../../shell/notify'
import { useProgress } from '../../shell/useProgress'
import { useLatest } from '../../shell/useLatest'
import ErrorNote from '../../components/ErrorNote.vue'
import { count, whole } from '../../format/format'
import SheetSplit from '../../components/SheetSplit.vue'
import DefineNav from '../DefineNav.vue'
import ImportGuide from './ImportGuide.vue'
import ImportTable from './ImportTable.vue'
import { guessColumns, mended, problemsIn, rowsOf } from './importTable'

/** Characteristics from a file: columns matched, errors by row and cell, mended in place, imported all or none, and taken back. */
useCrumbs(() => [{ words: 'Define', to: '/define' }, { words: 'Characteristics', to: '/define/characteristics' }, { words: 'Import' }])
const fileName = ref('')
const table = ref<ReadTable | null>(null)
const matched = ref<(TableColumn | null)[]>([])
const check = ref<ImportCheck | null>(null)
const failure = ref<Failure | null>(null)
const done = ref<{ importId: string; created: number; revised: number; unchanged: number } | null>(null)
const isBusy = ref(false)
const isOver = ref(false)
const { step, follow, unfollow } = useProgress()
const doing = ref('')
const stepWords = computed(() => (step.value ? `${doing.value}: ${whole(step.value.done)} of ${whole(step.value.total)}` : ''))
/** Documents that the file carries, sent along when its rows are agreed to. */
let documents: FileDocument[] = []

async function read(file: File | undefined): Promise<void> {
  if (!file) return
  fileName.value = file.name
  table.value = check.value = failure.value = done.value = null
  isBusy.value = true
  try {
    const seen = await call(define.readTable, { body: { name: file.name, content: await fileContent(file) } })
    documents = seen.carried.length > 0 ? (JSON.parse(await file.text()) as LibraryFile).documents : []
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

const { ask } = useLatest()
async function look(): Promise<void> {
  if (!table.value || table.value.rows.length === 0) return
  const body = { rows: rowsOf(table.value, matched.value), carried: table.value.carried }
  isBusy.value = true
  const key = newKey()
  doing.value = 'Read'
  follow(key)
  try {
    const seen = await ask((signal) => call(define.checkImport, { body }, { key, signal }))
    if (seen === null) return
    check.value = seen
  } catch (error) {
    failure.value = asFailure(error)
  }
  isBusy.value = false
  unfollow()
}
watch(matched, look, { deep: true })

const problems = computed(() => (table.value ? problemsIn(table.value, check.value, matched.value) : []))
function mend(row: number, column: number, text: string): void {
  if (!table.value) return
  table.value = mended(table.value, row, column, text)
  void look()
}
const isUnchanged = computed(() => check.value !== null && problems.value.length === 0 && check.value.created + check.value.revised === 0)
const canImport = computed(() => !isBusy.value && check.value !== null && problems.value.length === 0 && !isUnchanged.value)
const countsWords = computed(() => {
  if (!check.value) return 'Being checked …'
  const { created, revised, unchanged } = check.value
  return `${count(created, 'new characteristic')}, ${revised} with a new draft revision, ${unchanged} as they are.`
})
async function take(): Promise<void> {
  if (!table.value) return
  isBusy.value = true
  const key = newKey()
  doing.value = 'Read and written'
  follow(key)
  try {
    done.value = await call(define.importCharacteristics, { body: { rows: rowsOf(table.value, matched.value), documents } }, { key })
    notify(`Imported ${fileName.value}: ${count(done.value.created + done.value.revised, 'draft')}.`)
    table.value = null
  } catch (error) {
    failure.value = asFailure(error)
  } finally {
    isBusy.value = false
    unfollow()
  }
}
async function undo(): Promise<void> {
  if (!done.value) return
  try {
    const { removed } = await call(define.undoImport, { params: { id: done.value.importId } })
    notify(`Import undone: ${count(removed, 'draft')}.`)
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
.missing {
  border-left: 4px solid var(--marginal);
  padding-left: 12px;
  list-style: none;
}
.done {
  border-left: 4px solid var(--conforming);
  padding-left: 12px;
}
.sheet {
  padding: 20px 24px 40px;
}
</style>
