<template>
  <section class="evidence-part" aria-label="Faults, remarks and pictures">
    <EvidenceList :evidence="evidence">
      <template #default="{ entry }"
        ><button v-if="mayRecord" type="button" class="link" :data-test="`withdraw-${entry.id}`" @click="withdraw(entry.id)">
          Withdraw
        </button></template
      >
    </EvidenceList>
    <button v-if="mayRecord && !isOpen" type="button" class="link small" data-test="say-more" @click="begin">
      Fault, remark or picture of piece {{ piece }} … <kbd>Shift E</kbd>
    </button>
    <form v-if="isOpen" class="stack small" @submit.prevent="save" @keydown.esc.capture="leave">
      <div class="row top fields">
        <v-text-field
          v-model.number="ofPiece"
          type="number"
          min="1"
          label="Piece"
          :error-messages="errors['piece']"
          data-field="evidence-piece"
          class="narrow"
        />
        <v-autocomplete
          ref="first"
          v-model="faultCode"
          :items="faults"
          label="Fault code"
          clearable
          :error-messages="errors['faultCode']"
          data-field="evidence-fault"
        />
        <v-text-field
          v-if="faultCode !== null"
          v-model.number="count"
          type="number"
          min="1"
          label="How many"
          :error-messages="errors['count']"
          data-field="evidence-count"
          class="narrow"
        />
        <v-text-field v-model="words" label="Remark" maxlength="1000" :error-messages="errors['words']" data-field="evidence-words" />
      </div>
      <div class="row pictures">
        <label class="take"
          ><input type="file" accept="image/png,image/jpeg,application/pdf" capture="environment" data-field="evidence-file" @change="choose" />{{
            isKeeping ? 'Being kept …' : 'Take or choose a picture'
          }}</label
        >
        <v-btn
          v-for="reference in references"
          :key="reference.id"
          size="small"
          variant="outlined"
          :data-test="`mark-on-${reference.id}`"
          @click="take(reference)"
          >Mark on {{ reference.name }}</v-btn
        >
      </div>
      <template v-if="document">
        <MarkedPicture
          v-if="document.mediaType.startsWith('image/')"
          v-model="place"
          class="mark-on"
          :name="document.name"
          :address="addressOf(document)"
        />
        <span>{{ document.name }} <button type="button" class="link" @click="take(null)">without it</button></span>
      </template>
      <ErrorNote :failure="saver.note.value" />
      <div class="row">
        <v-btn type="submit" size="small" color="primary" :loading="saver.isBusy.value" :disabled="isEmpty" data-test="save-evidence">Keep it</v-btn>
        <v-btn size="small" variant="text" @click="close">Leave it</v-btn>
      </div>
    </form>
  </section>
</template>

<script setup lang="ts">
import { define, type DocumentHead, type Evidence, type InspectionLine, record } from '@nemawashi/contract'
import { computed, nextTick, ref, watch } from 'vue'
import { call } from '../../shell/api'
import { ask } from '../../shell/ask'
import { useThing } from '../../shell/queries'
import { keepDocument } from '../../shell/uploads'
import ErrorNote from '../../components/ErrorNote.vue'
import EvidenceList from '../../components/EvidenceList.vue'
import MarkedPicture from '../../components/MarkedPicture.vue'
import { useSaver } from '../../composables/useSaver'

/** What is to be seen on a piece beyond its answer: a fault and how often, words, a picture with the place marked. */
const { inspectionId, line, piece, evidence } = defineProps<{
  inspectionId: string
  line: InspectionLine
  /** The piece that is meant unless another is typed. */
  piece: number
  /** What stands of this line. */
  evidence: readonly Evidence[]
  mayRecord: boolean
}>()
const emit = defineEmits<{ changed: [evidence: Evidence[]]; closed: [] }>()
type Picture = Pick<DocumentHead, 'id' | 'name' | 'mediaType'>
const saver = useSaver()
const errors = saver.fieldErrors
const first = ref<{ focus: () => void }>()
const isOpen = ref(false)
const isKeeping = ref(false)
const ofPiece = ref(1)
const faultCode = ref<string | null>(null)
const count = ref(1)
const words = ref('')
const document = ref<Picture | null>(null)
const place = ref<Evidence['place']>(null)
const isEmpty = computed(() => faultCode.value === null && words.value.trim() === '' && document.value === null)
const addressOf = ({ id }: { id: string }) => `/api/v1/documents/${id}/content`

const { data: codes } = useThing(define.faultCodes.list, () => (isOpen.value ? { query: { limit: 200 } } : null))
/** The plant's fault codes, those that the characteristic offers first. */
const faults = computed(() => {
  const rows = ((codes.value?.rows ?? []) as { code: string; name: string; isActive: boolean }[]).filter(({ isActive }) => isActive)
  const isOffered = ({ code }: { code: string }) => line.details.faultCodes.includes(code)
  return [...rows.filter(isOffered), ...rows.filter((row) => !isOffered(row))].map(({ code, name }) => ({ value: code, title: `${code} · ${name}` }))
})
/** Reference pictures of the characteristic: a place can be marked on them. */
const references = ref<Picture[]>([])
watch(
  () => (isOpen.value ? line.details.documentIds.join(' ') : ''),
  async (ids) => {
    const found = await Promise.all(
      ids
        .split(' ')
        .filter(Boolean)
        .map((id) => call(define.getDocument, { params: { id } }).catch(() => null)),
    )
    references.value = found.flatMap((head) => (head?.mediaType.startsWith('image/') ? [head] : []))
  },
)
watch(() => line.id, close)

function begin(): void {
  ofPiece.value = piece
  isOpen.value = true
  void nextTick(() => first.value?.focus())
}
function close(): void {
  if (!isOpen.value) return
  isOpen.value = false
  faultCode.value = null
  count.value = 1
  words.value = ''
  take(null)
  saver.clear()
  emit('closed')
}
/** Escape closes an open list of faults, which hears of it only after this; and the form where none is open. */
function leave(event: Event): void {
  if (globalThis.document.querySelector('.v-overlay--active.v-menu') !== null) return
  event.preventDefault()
  event.stopPropagation()
  close()
}
function take(picture: Picture | null): void {
  document.value = picture
  place.value = null
}
async function choose(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  if (!file) return
  isKeeping.value = true
  await saver.save(async () => take(await keepDocument(file)))
  isKeeping.value = false
  input.value = ''
}
async function save(): Promise<void> {
  if (isEmpty.value) return
  await saver.save(async () => {
    const body = {
      lineId: line.id,
      piece: ofPiece.value,
      faultCode: faultCode.value,
      count: faultCode.value === null ? null : count.value,
      words: words.value,
      documentId: document.value?.id ?? null,
      place: place.value,
    }
    emit('changed', (await call(record.addEvidence, { params: { id: inspectionId }, body })).evidence)
    close()
  })
}
async function withdraw(id: string): Promise<void> {
  const reason = await ask({
    title: 'Withdraw it?',
    text: 'It is taken out of the passport and the report; the audit chain keeps it, with your reason.',
    yes: 'Withdraw it',
    needsReason: true,
  })
  if (reason === null) return
  await saver.save(async () => emit('changed', (await call(record.withdrawEvidence, { params: { id }, body: { reason } })).evidence))
}
defineExpose({ begin })
</script>

<style scoped>
form {
  border: 1px solid var(--rule);
  padding: 12px;
  margin-top: 4px;
}
.fields > * {
  flex: 1 1 180px;
}
.fields > .narrow {
  flex: 0 1 100px;
}
.row {
  flex-wrap: wrap;
}
.take {
  display: inline-flex;
  align-items: center;
  min-height: 32px;
  padding: 0 12px;
  border: 1px solid var(--indigo);
  border-radius: 4px;
  color: var(--indigo);
  font-weight: 600;
  cursor: pointer;
}
.take:focus-within {
  outline: 2px solid var(--indigo);
  outline-offset: 2px;
}
.take input {
  position: absolute;
  opacity: 0;
  width: 1px;
}
.mark-on {
  align-self: flex-start;
}
.mark-on :deep(img) {
  max-width: 480px;
  max-height: 320px;
}
@media (max-width: 1023px) {
  .link,
  .take {
    min-height: 44px;
  }
}
</style>
