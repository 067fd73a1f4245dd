<template>
  <div class="guide stack">
    <h1>What a file may look like</h1>
    <p class="soft">
      Choose a file: its columns are matched, every cell is checked, and nothing is written until you agree. Heads in other words (spec, LSL, UOM …)
      are understood where they are usual, and you can match the rest.
    </p>
    <table class="plain small" aria-label="An example">
      <thead>
        <tr>
          <th v-for="column in columns" :key="column">{{ column }}</th>
          <th>and what belongs to the kind</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in exampleRows" :key="row.code">
          <td v-for="column in columns" :key="column" :class="{ m: column === 'code' || column === 'tolerance' }">{{ row[column] }}</td>
          <td>
            <template v-for="(text, column) in ofKind(row)" :key="column"
              ><span class="soft">{{ column }}</span> {{ text }}&ensp;</template
            >
          </td>
        </tr>
      </tbody>
    </table>
    <p><a :href="csv" download="example.csv" data-test="example">This example as CSV</a></p>
    <dl>
      <template v-for="[column, words] in columnWords" :key="column"
        ><dt class="m">{{ column }}</dt>
        <dd>{{ words }}</dd></template
      >
    </dl>
  </div>
</template>

<script setup lang="ts">
import type { TableRow } from '@nemawashi/contract'
import { columnWords, exampleCsv, exampleRows } from './importExample'

/** What stands beside the choice of a file before one is chosen: an example to begin from. */
const columns = ['code', 'name', 'kind', 'tolerance', 'unit', 'resolution'] as const
const ofKind = (row: TableRow) => Object.fromEntries(Object.entries(row).filter(([column]) => ![...columns, 'method'].includes(column)))
const csv = `data:text/csv;charset=utf-8,${encodeURIComponent(`\uFEFF${exampleCsv()}`)}`
</script>

<style scoped>
.guide {
  padding: 20px 28px 40px;
  max-width: 900px;
}
p {
  margin: 0;
}
dl {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 4px 18px;
  margin: 8px 0 0;
}
dd {
  margin: 0;
}
</style>
