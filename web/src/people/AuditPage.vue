<template>
  <div class="page">
    <div class="prove row">
      <v-btn color="primary" :loading="isProving" data-test="prove" @click="prove">Prove the chain</v-btn>
      <ErrorNote :failure="failure" />
      <ReasoningLine
        v-if="result"
        :verdict="result.isWhole ? 'acceptable' : 'notAcceptable'"
        :reasoning="
          result.isWhole ? `${whole(result.entries)} entries recomputed, each follows the one before; every lot adds up` : result.breaks.join('; ')
        "
        data-test="proof"
      />
    </div>
    <DataList name="audit" :endpoint="people.listAudit" :columns="columns" title="Audit chain" :to="() => route.fullPath" />
  </div>
</template>

<script setup lang="ts">
import { endpoints } from '@nemawashi/contract'
import { ref } from 'vue'
import { useRoute } from 'vue-router'
import { asFailure, call, type Failure } from '../frame/api'
import { useCrumbs } from '../frame/crumbs'
import DataList from '../pieces/DataList.vue'
import type { ListColumn } from '../pieces/listColumn'
import ErrorNote from '../pieces/ErrorNote.vue'
import { momentOf, whole } from '../pieces/format'
import ReasoningLine from '../pieces/ReasoningLine.vue'

const { people } = endpoints
const route = useRoute()
useCrumbs(() => [{ words: 'People', to: '/people' }, { words: 'Audit chain' }])
const isProving = ref(false)
const failure = ref<Failure | null>(null)
const result = ref<{ entries: number; isWhole: boolean; breaks: string[] } | null>(null)
const columns: ListColumn[] = [
  { key: 'id', title: 'Entry', isMono: true },
  { key: 'at', title: 'When', format: (value: string) => momentOf(value) },
  { key: 'personName', title: 'Who' },
  { key: 'action', title: 'Did' },
  { key: 'subject', title: 'To' },
  { key: 'why', title: 'Why' },
]
async function prove(): Promise<void> {
  isProving.value = true
  failure.value = null
  try {
    result.value = await call(people.verifyAudit, {})
  } catch (error) {
    failure.value = asFailure(error)
  } finally {
    isProving.value = false
  }
}
</script>

<style scoped>
.page {
  height: 100%;
  display: flex;
  flex-direction: column;
}
.page > .list {
  flex: 1;
  min-height: 0;
}
.prove {
  padding: 14px 16px 0;
}
</style>
