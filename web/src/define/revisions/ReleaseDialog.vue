<template>
  <v-dialog v-model="isOpen" width="640" aria-label="Release drafts">
    <v-card title="Release drafts together">
      <v-card-text>
        <p class="soft">All or none is released. Plans that follow a characteristic ask for its new revision from then on.</p>
        <ErrorNote :failure="failure" />
        <p v-if="drafts.length === 0" class="soft">There is no draft.</p>
        <v-checkbox
          v-for="draft in drafts"
          :key="draft.id"
          v-model="chosen"
          :value="draft.id"
          :label="`${draft.code} ${draft.name}, revision ${draft.revision}`"
          hide-details
        />
        <p v-if="total > drafts.length" class="small soft">The first {{ drafts.length }} of {{ total }} drafts.</p>
      </v-card-text>
      <v-card-actions>
        <v-btn @click="isOpen = false">Cancel</v-btn>
        <v-btn v-first-focus="isLoaded" color="primary" :disabled="chosen.length === 0" :loading="isBusy" data-test="release-chosen" @click="release"
          >Release {{ chosen.length }}</v-btn
        >
      </v-card-actions>
    </v-card>
  </v-dialog>
</template>

<script setup lang="ts">
import { type CharacteristicRow, define } from '@nemawashi/contract'
import { ref, watch } from 'vue'
import { asFailure, call, type Failure } from '../../shell/api'
import { vFirstFocus } from '../../shell/firstFocus'
import { notify } from '../../shell/notify'
import ErrorNote from '../../components/ErrorNote.vue'
import { count } from '../../format/format'

/** Releases several drafts of the library in one step. */
const isOpen = defineModel<boolean>({ required: true })
const emit = defineEmits<{ released: [] }>()
const drafts = ref<CharacteristicRow[]>([])
const total = ref(0)
const chosen = ref<string[]>([])
const failure = ref<Failure | null>(null)
const isBusy = ref(false)
/** What is offered is there: Enter releases it. */
const isLoaded = ref(false)
watch(isOpen, async (open) => {
  if (!open) return
  failure.value = null
  isLoaded.value = false
  const page = await call(define.listCharacteristics, { query: { state: 'draft', limit: 200 } })
  drafts.value = page.rows
  total.value = page.total
  chosen.value = page.rows.map((row) => row.id)
  isLoaded.value = chosen.value.length > 0
})
async function release(): Promise<void> {
  isBusy.value = true
  try {
    const characteristics = await Promise.all(
      chosen.value.map(async (id) => ({ id, version: (await call(define.getCharacteristic, { params: { id } })).version })),
    )
    const { released } = await call(define.releaseMany, { body: { characteristics } })
    notify(`Released ${count(released, 'characteristic')}.`)
    isOpen.value = false
    emit('released')
  } catch (error) {
    failure.value = asFailure(error)
  } finally {
    isBusy.value = false
  }
}
</script>
