<template>
  <div class="targets">
    <h3>Parts with limits of their own</h3>
    <p v-if="targets.length === 0" class="small soft">None: every part that the plan serves is judged by the limits above.</p>
    <table v-else class="plain">
      <thead>
        <tr>
          <th>part</th>
          <th class="right">lower</th>
          <th class="right">nominal</th>
          <th class="right">upper</th>
          <th><span class="sr-only">as written</span></th>
          <th><span class="sr-only">take it out</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(target, i) in targets" :key="target.partId" :data-target="target.partCode">
          <td class="m">{{ target.partCode }}</td>
          <td v-for="side in sides" :key="side" class="right">
            <input
              :value="target[side] ?? ''"
              class="m"
              inputmode="decimal"
              :readonly="isFixed"
              :aria-label="`${side} of ${target.partCode}`"
              @input="set(i, { [side]: ($event.target as HTMLInputElement).value })"
            />
          </td>
          <td><ToleranceStrip v-if="limitsOf(target)" :limits="limitsOf(target)!" /></td>
          <td>
            <TakeOut v-if="!isFixed" :name="target.partCode" @click="targets = targets.filter((_, at) => at !== i)" />
          </td>
        </tr>
      </tbody>
    </table>
    <PickOne
      v-if="!isFixed"
      v-model="added"
      :endpoint="define.parts.list"
      label="Own limits for a part"
      field="target"
      :filter="isFree"
      @chosen="add"
    />
  </div>
</template>

<script setup lang="ts">
import { type PlanLine, define } from '@nemawashi/contract'
import { parseDecimal, type Limits } from '@nemawashi/core'
import { nextTick, ref } from 'vue'
import PickOne from '../../components/PickOne.vue'
import ToleranceStrip from '../../components/ToleranceStrip.vue'
import TakeOut from '../../components/TakeOut.vue'

/** Target and limits by part or variant, for a plan that serves many; what is not listed is judged by the line's own limits. */
type Target = PlanLine['targets'][number]
const { isFixed, start } = defineProps<{ isFixed: boolean; start: Limits }>()
const targets = defineModel<Target[]>({ required: true })
const added = ref<string | null>(null)
const sides = ['lower', 'nominal', 'upper'] as const
const isFree = (row: { id: string }) => !targets.value.some((target) => target.partId === row.id)

async function add(row: { id: string; [key: string]: unknown } | null): Promise<void> {
  if (!row) return
  const { nominal, lower, upper } = start
  targets.value = [...targets.value, { partId: row.id, partCode: String(row['code']), nominal, lower, upper }]
  await nextTick()
  added.value = null
}
function set(at: number, change: Partial<Target>): void {
  targets.value = targets.value.map((target, i) => (i === at ? { ...target, ...change } : target))
}
/** What can be drawn of a target while it is typed; null where it cannot. */
function limitsOf({ nominal, lower, upper }: Target): Limits | null {
  const decimal = (text: string | null) => (text === null || text.trim() === '' ? null : parseDecimal(text))
  try {
    return { nominal: decimal(nominal), lower: decimal(lower), upper: decimal(upper) }
  } catch {
    return null
  }
}
</script>

<style scoped>
.targets {
  margin: 6px 0 10px;
  max-width: 620px;
}
h3 {
  margin: 0 0 4px;
}
table {
  margin-bottom: 10px;
}
input {
  width: 92px;
  height: 32px;
  text-align: right;
  border: 1px solid var(--rule);
  border-radius: 4px;
  background: var(--sheet);
  color: var(--ink);
  padding: 0 8px;
}
</style>
