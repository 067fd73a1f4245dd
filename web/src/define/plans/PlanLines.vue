<template>
  <div class="lines" :role="lines.length > 0 ? 'list' : undefined" :aria-label="lines.length > 0 ? 'Lines of the plan, in order' : undefined">
    <div
      v-for="(line, i) in lines"
      :key="line.characteristicId"
      role="listitem"
      class="line"
      :class="{ on: i === at, over: i === dragOver }"
      :draggable="!isFixed"
      @dragstart="dragged = i"
      @dragover.prevent="dragOver = i"
      @dragend="((dragOver = null), (dragged = null))"
      @drop.prevent="drop(i)"
    >
      <button type="button" class="pick" :aria-pressed="i === at" :data-line="i" @click="at = i" @keydown="moveByKey($event, i)">
        <span class="m soft">{{ i + 1 }}</span>
        <span class="grow"
          ><b>{{ line.name }}</b>
          <span class="soft small"
            >{{ line.code }} · {{ line.class }}{{ line.stage ? ` · ${line.stage}` : '' }}{{ line.isDecisive ? ' · decisive' : ''
            }}{{ line.isRequired ? '' : ' · not required' }}</span
          ></span
        >
        <span v-if="line.detached" class="marginal small" title="keeps its own limits">detached</span>
        <span v-if="line.targets.length > 0" class="soft small">{{ count(line.targets.length, 'part') }} with own limits</span>
        <ToleranceStrip v-if="line.kind === 'measured'" :limits="line.detached ?? line" />
        <span class="rule small">{{ describeSamplingRule(line.sampling) }}</span>
      </button>
      <template v-if="!isFixed">
        <button type="button" class="tool" :disabled="i === 0" :aria-label="`Move ${line.name} up`" @click="move(i, i - 1)">↑</button>
        <button type="button" class="tool" :disabled="i === lines.length - 1" :aria-label="`Move ${line.name} down`" @click="move(i, i + 1)">
          ↓
        </button>
        <TakeOut :name="line.name" @click="takeOut(i)" />
      </template>
    </div>
    <p v-if="lines.length === 0" class="soft">No line yet. Each line is one question: choose a characteristic below.</p>
  </div>
</template>

<script setup lang="ts">
import type { PlanLine } from '@nemawashi/contract'
import { describeSamplingRule } from '@nemawashi/core'
import { nextTick, ref } from 'vue'
import { count } from '../../format/format'
import ToleranceStrip from '../../components/ToleranceStrip.vue'
import TakeOut from '../../components/TakeOut.vue'

/** The lines of a plan in order: chosen, dragged, or moved with Alt and the arrows. */
const { isFixed } = defineProps<{ isFixed: boolean }>()
const lines = defineModel<PlanLine[]>({ required: true })
const at = defineModel<number>('at', { required: true })

function takeOut(i: number): void {
  lines.value.splice(i, 1)
  at.value = Math.max(0, Math.min(at.value, lines.value.length - 1))
}
function move(from: number, to: number): void {
  const [line] = lines.value.splice(from, 1)
  if (line) lines.value.splice(to, 0, line)
  at.value = to
}
async function moveByKey(event: KeyboardEvent, i: number): Promise<void> {
  const by = event.key === 'ArrowUp' ? -1 : event.key === 'ArrowDown' ? 1 : 0
  const to = i + by
  if (by === 0 || to < 0 || to >= lines.value.length) return
  event.preventDefault()
  if (event.altKey && !isFixed) move(i, to)
  await nextTick()
  document.querySelector<HTMLElement>(`[data-line="${to}"]`)?.focus()
}
const dragged = ref<number | null>(null)
const dragOver = ref<number | null>(null)
function drop(to: number): void {
  if (dragged.value !== null && dragged.value !== to) move(dragged.value, to)
  dragged.value = dragOver.value = null
}
</script>

<style scoped>
.line {
  display: flex;
  align-items: stretch;
  border-bottom: 1px solid var(--rule);
}
.line.on {
  background: var(--wash);
  box-shadow: inset 4px 0 0 var(--indigo);
}
.line.over {
  border-top: 2px solid var(--indigo);
}
.pick {
  flex: 1;
  min-width: 0;
  display: flex;
  gap: 12px;
  align-items: center;
  text-align: left;
  border: 0;
  background: none;
  color: inherit;
  font: inherit;
  padding: 7px 12px;
  cursor: pointer;
}
.rule {
  width: 256px;
  flex: none;
}
.tool {
  border: 0;
  background: none;
  color: var(--indigo);
  padding: 0 8px;
  cursor: pointer;
}
.tool:disabled {
  color: var(--rule);
}
</style>
