<template>
  <section class="lines" aria-label="Lines of the plan">
    <h2 class="minor">Lines of the plan</h2>
    <button
      v-for="(entry, i) in lines"
      :key="entry.id"
      type="button"
      class="line"
      :class="{ on: i === current }"
      :aria-pressed="i === current"
      @click="emit('line', i)"
    >
      <MarkSign :mark="verdictMark(finding.lines[i]?.verdict ?? null)" />
      <span class="grow"
        ><b>{{ entry.name }}</b
        ><br /><span class="soft small"
          >{{ finding.lines[i]?.inspected }} of {{ entry.sampleSize }}{{ entry.stages ? ' at most' : '' }}{{ entry.isDecisive ? ' · decisive' : ''
          }}{{ entry.isRequired ? '' : ' · not required' }}{{ entry.stage ? ` · ${entry.stage}` : '' }}</span
        ></span
      >
      <span class="soft small">{{ kindWords[entry.kind] ?? entry.unit }}</span>
    </button>
    <div class="keys small soft">
      <p><kbd>Enter</kbd> next · <kbd>↑</kbd><kbd>↓</kbd> piece · <kbd>PgUp</kbd><kbd>PgDn</kbd> line</p>
      <p><kbd>O</kbd> conforming · <kbd>X</kbd> not · <kbd>Del</kbd> withdraw</p>
      <label><input v-model="direction" type="radio" value="down" /> down a line</label>
      <label><input v-model="direction" type="radio" value="across" /> across a piece</label>
    </div>
  </section>
</template>

<script setup lang="ts">
import type { Finding, InspectionLine } from '@nemawashi/contract'
import { verdictMark } from '../../format/format'
import MarkSign from '../../components/MarkSign.vue'
import type { Direction } from '../entry/cells'

/** The lines of the plan with how far each is, and the keys of the bench. */
defineProps<{
  lines: readonly InspectionLine[]
  finding: Pick<Finding, 'lines'> | { readonly lines: readonly Finding['lines'][number][] }
  current: number
}>()
const kindWords: Readonly<Record<string, string>> = { judged: 'O / X', coded: 'choose', counted: 'count', noted: 'note' }
const direction = defineModel<Direction>('direction', { required: true })
const emit = defineEmits<{ line: [index: number] }>()
</script>

<style scoped>
.lines {
  border-right: 1px solid var(--rule);
  overflow: auto;
  padding-top: 14px;
}
.lines h2 {
  padding: 0 16px 8px;
}
.line {
  display: flex;
  gap: 10px;
  align-items: center;
  width: 100%;
  border: 0;
  border-top: 1px solid var(--rule);
  background: none;
  color: inherit;
  font: inherit;
  text-align: left;
  padding: 8px 14px 8px 12px;
  border-left: 4px solid transparent;
  cursor: pointer;
}
.line.on {
  background: var(--sheet);
  border-left-color: var(--indigo);
}
.keys {
  border-top: 1px solid var(--rule);
  padding: 12px 16px;
}
.keys p {
  margin: 0 0 8px;
}
.keys label {
  margin-right: 10px;
}
@media (max-width: 1023px) {
  .lines {
    border-right: 0;
  }
  .keys {
    display: none;
  }
}
</style>
