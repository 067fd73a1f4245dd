<template>
  <div ref="box" class="grid" tabindex="0" role="region" aria-label="Readings">
    <table aria-label="Readings: pieces down, lines across">
      <thead>
        <tr>
          <th class="piece">piece</th>
          <th v-for="(line, i) in lines" :key="line.id" :class="{ on: i === at.line }">
            {{ line.name }}<span v-if="line.unit" class="soft">, {{ line.unit }}</span>
          </th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="piece in shownPieces" :key="piece" :class="{ on: piece === at.piece }">
          <td class="piece m soft">{{ piece }}</td>
          <BenchCell
            v-for="(line, i) in lines"
            :key="line.id"
            :line="line"
            :answer="cells.get(cellKey(line.id, piece)) ?? null"
            :refused="refused.find((reading) => reading.lineId === line.id && reading.piece === piece)?.value ?? null"
            :is-asked="piece <= (asked[i] ?? 0)"
            :is-here="i === at.line && piece === at.piece"
            @click="piece <= (asked[i] ?? 0) && emit('go', { line: i, piece })"
          />
        </tr>
      </tbody>
    </table>
    <p v-if="most > shownPieces.length" class="soft small">
      Pieces {{ shownPieces[0] }} to {{ shownPieces.at(-1) }} of {{ most }}; the rest follows as you go.
    </p>
  </div>
</template>

<script setup lang="ts">
import type { InspectionLine } from '@nemawashi/contract'
import { computed, nextTick, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import BenchCell from './BenchCell.vue'
import { askedPieces, cellKey, type CellPlace, type Cells } from '../entry/cells'
import type { WaitingReading } from '../entry/outbox'

/** Pieces down, lines across. Large samples show the pieces around the current one, so that typing stays instant. */
const {
  lines,
  cells,
  at,
  refused = [],
} = defineProps<{ lines: readonly InspectionLine[]; cells: Cells; at: CellPlace; refused?: readonly WaitingReading[] }>()
const emit = defineEmits<{ go: [place: CellPlace] }>()
const box = ref<HTMLElement>()
const windowSize = 150

const asked = computed(() => lines.map((line) => askedPieces(line, cells)))
const most = computed(() => Math.max(0, ...asked.value))
const firstShown = computed(() => Math.max(1, Math.min(most.value - windowSize + 1, Math.floor((at.piece - 1) / 50) * 50 - 49)))
const shownPieces = computed(() => Array.from({ length: Math.min(windowSize, most.value) }, (_, i) => Math.max(1, firstShown.value) + i))
async function showHere(): Promise<void> {
  await nextTick()
  box.value?.querySelector('td.here')?.scrollIntoView({ block: 'nearest', inline: 'nearest' })
}
watch(() => [at.piece, at.line], showHere)
// Pictures above arrive later and take height away; the cell stays in sight.
const watcher = typeof ResizeObserver === 'undefined' ? null : new ResizeObserver(() => void showHere())
onMounted(() => box.value && watcher?.observe(box.value))
onBeforeUnmount(() => watcher?.disconnect())
</script>

<style scoped>
.grid {
  overflow: auto;
  flex: 1;
  min-height: 120px;
}
table {
  border-collapse: collapse;
  width: 100%;
}
th {
  position: sticky;
  top: 0;
  background: var(--sheet);
  font: 600 12.5px/16px var(--words);
  color: var(--soft);
  text-align: left;
  padding: 6px 10px;
  border-bottom: 1px solid var(--rule);
  z-index: 1;
}
th.on {
  color: var(--indigo);
}
.piece {
  width: 52px;
  text-align: right;
  padding-right: 10px;
}
tr.on td {
  background: color-mix(in srgb, var(--wash) 60%, transparent);
}
</style>
