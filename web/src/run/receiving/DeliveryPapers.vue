<template>
  <section class="papers" data-test="papers">
    <div class="row">
      <h2 class="grow">Papers</h2>
      <template v-if="mayAdd">
        <v-select v-model="kind" :items="kinds" label="What it is" class="choice" data-field="paperKind" />
        <v-select v-if="delivery.lots.length > 1" v-model="lotId" :items="lots" label="Of" class="choice" data-field="paperLot" />
        <label class="pick"
          >Add a file<input type="file" accept="image/png,image/jpeg,application/pdf" multiple data-field="paper" :disabled="isBusy" @change="upload"
        /></label>
      </template>
    </div>
    <p v-if="problem" class="nonconforming small" role="alert">{{ problem }}</p>
    <DocumentShelf v-if="delivery.papers.length > 0" :ids="delivery.papers.map(({ documentId }) => documentId)">
      <template #after="{ document }"
        ><span class="small">{{ wordsOf(document.id) }}</span></template
      >
    </DocumentShelf>
    <p v-else class="soft small">None yet. A certificate or a delivery note (PDF, PNG, JPEG) is seen on the passport of its lots, too.</p>
  </section>
</template>

<script setup lang="ts">
import { type Delivery, type PaperKind, paperKinds, paperWords, run } from '@nemawashi/contract'
import { computed, ref } from 'vue'
import { asFailure, call } from '../../shell/api'
import { useSession } from '../../shell/session'
import { keepDocument } from '../../shell/uploads'
import DocumentShelf from '../../components/DocumentShelf.vue'
import { momentOf } from '../../format/format'

/** What came with a delivery on paper: certificates, delivery notes. They stay once they are put there. */
const { delivery } = defineProps<{ delivery: Delivery }>()
const emit = defineEmits<{ added: [delivery: Delivery] }>()
const mayAdd = useSession().may(run.addPaper)
const kind = ref<PaperKind>('certificate')
const kinds = paperKinds.map((value) => ({ value, title: paperWords[value] }))
const lotId = ref<string | null>(null)
const lots = computed(() => [
  { value: null, title: 'the whole delivery' },
  ...delivery.lots.map(({ id, code, supplierLot }) => ({ value: id, title: `${code}, their lot ${supplierLot}` })),
])
const isBusy = ref(false)
const problem = ref('')
async function upload(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  problem.value = ''
  isBusy.value = true
  for (const file of input.files ?? []) {
    try {
      const { id: documentId } = await keepDocument(file)
      const body = { documentId, kind: kind.value, lotId: lotId.value }
      emit('added', await call(run.addPaper, { params: { id: delivery.id }, body }))
    } catch (error) {
      problem.value = `${file.name}: ${asFailure(error).message}`
    }
  }
  isBusy.value = false
  input.value = ''
}
function wordsOf(documentId: string): string {
  const found = delivery.papers.find((paper) => paper.documentId === documentId)
  return found ? `${paperWords[found.kind]}${found.lotCode ? ` of ${found.lotCode}` : ''}, ${found.byName} ${momentOf(found.at)}` : ''
}
</script>

<style scoped>
.papers {
  border-top: 1px solid var(--rule);
  padding-top: 14px;
}
.choice {
  max-width: 220px;
}
.pick {
  color: var(--indigo);
  font-weight: 600;
  cursor: pointer;
  padding: 8px;
}
.pick:focus-within {
  outline: 2px solid var(--indigo);
}
.pick input {
  position: absolute;
  opacity: 0;
  width: 1px;
}
</style>
