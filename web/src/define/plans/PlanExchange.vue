<template>
  <v-menu>
    <template #activator="{ props: menu }"><v-btn v-bind="menu" variant="text" size="small" data-test="plans-file">File</v-btn></template>
    <v-list density="compact">
      <v-list-item title="Export all as JSON" href="/api/v1/plan-exchange/export?format=json" download />
      <v-list-item title="Export all as XLSX" href="/api/v1/plan-exchange/export?format=xlsx" download />
      <v-list-item v-if="isEngineer" title="Import plans" data-test="import-plans" @click="isOpen = true" />
    </v-list>
  </v-menu>
  <v-dialog v-model="isOpen" width="640" aria-label="Plans to and from files">
    <v-card title="Import plans">
      <v-card-text>
        <p class="soft">JSON or XLSX as they are exported here. Nothing is written until every line is free of errors; what comes in are drafts.</p>
        <input type="file" accept=".json,.xlsx,.csv" aria-label="File with plans" data-field="planFile" @change="choose" />
        <ErrorNote :failure="failure" />
        <template v-if="outcome">
          <ul v-if="outcome.problems.length > 0" class="problems" data-test="plan-problems">
            <li v-for="(problem, i) in outcome.problems" :key="i">
              <b>{{ problem.where }}</b> {{ problem.message }}
            </li>
          </ul>
          <table v-if="outcome.plans.length > 0" class="plain" aria-label="Plans in the file">
            <tbody>
              <tr v-for="plan in outcome.plans" :key="plan.code">
                <td class="m">{{ plan.code }}</td>
                <td>{{ plan.name }}</td>
                <td class="right">{{ count(plan.lines, 'line') }}</td>
                <td :class="{ soft: plan.outcome === 'unchanged' }">{{ outcomeWords[plan.outcome] }}</td>
              </tr>
            </tbody>
          </table>
        </template>
      </v-card-text>
      <v-card-actions
        ><v-btn @click="isOpen = false">Cancel</v-btn
        ><v-btn color="primary" variant="flat" :disabled="!mayImport" :loading="isBusy" data-test="import-plans-now" @click="send(false)"
          >Import</v-btn
        ></v-card-actions
      >
    </v-card>
  </v-dialog>
</template>

<script setup lang="ts">
import { type PlanImport, define } from '@nemawashi/contract'
import { computed, ref, watch } from 'vue'
import { asFailure, call, type Failure } from '../../shell/api'
import { fileContent } from '../../shell/fileContent'
import { notify } from '../../shell/notify'
import { useSession } from '../../shell/session'
import ErrorNote from '../../components/ErrorNote.vue'
import { count } from '../../format/format'

/** Plans out to files and back in: a trial shows what would come of it and every line that stands in the way. */
const emit = defineEmits<{ imported: [] }>()
const { isEngineer } = useSession()
const isOpen = ref(false)
const isBusy = ref(false)
const failure = ref<Failure | null>(null)
const outcome = ref<PlanImport | null>(null)
const file = ref<{ name: string; content: string } | null>(null)
const outcomeWords = { created: 'new', revised: 'gets a draft', unchanged: 'unchanged' } as const
const mayImport = computed(
  () => outcome.value !== null && outcome.value.problems.length === 0 && outcome.value.plans.some((plan) => plan.outcome !== 'unchanged'),
)
watch(isOpen, () => {
  file.value = outcome.value = failure.value = null
})

async function choose({ target }: Event): Promise<void> {
  const [chosen] = (target as HTMLInputElement).files ?? []
  if (!chosen) return
  outcome.value = failure.value = null
  try {
    file.value = { name: chosen.name, content: await fileContent(chosen) }
    await send(true)
  } catch (error) {
    failure.value = asFailure(error)
  }
}
async function send(isTrial: boolean): Promise<void> {
  if (!file.value) return
  isBusy.value = true
  failure.value = null
  try {
    outcome.value = await call(define.importPlans, { body: { ...file.value, isTrial } })
    if (isTrial) return
    isOpen.value = false
    const { importId: id, plans } = outcome.value
    const words = `${count(plans.filter((plan) => plan.outcome !== 'unchanged').length, 'plan')} imported as drafts.`
    notify(words, id === null ? null : { words: 'Undo import', run: () => undoImport(id) })
    emit('imported')
  } catch (error) {
    failure.value = asFailure(error)
  } finally {
    isBusy.value = false
  }
}
async function undoImport(id: string): Promise<void> {
  const { removed } = await call(define.undoPlanImport, { params: { id } })
  notify(`The import is undone: ${count(removed, 'plan')} as before.`)
  emit('imported')
}
</script>

<style scoped>
.problems {
  margin: 12px 0;
  padding-left: 18px;
  color: var(--nonconforming);
}
table {
  margin-top: 12px;
  width: 100%;
}
</style>
