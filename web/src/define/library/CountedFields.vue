<template>
  <div class="row wide">
    <v-combobox
      v-model="details.countUnit"
      label="What is counted, on what"
      placeholder="pores on a casting"
      :items="countUnits"
      :readonly="isFixed"
      :error-messages="errors['countUnit']"
      data-field="countUnit"
    />
    <v-combobox
      v-model="details.faultCodes"
      label="Fault codes offered"
      :items="faultCodes"
      multiple
      chips
      closable-chips
      :readonly="isFixed"
      data-field="faultCodes"
    />
  </div>
</template>

<script setup lang="ts">
import { type CharacteristicDetails, define } from '@nemawashi/contract'
import { onMounted, ref } from 'vue'
import { call } from '../../shell/api'

/** Nonconformities counted on a unit, by fault code where codes are offered. */
defineProps<{ isFixed: boolean; errors: Readonly<Record<string, string>> }>()
const details = defineModel<CharacteristicDetails>({ required: true })
const faultCodes = ref<string[]>([])
const countUnits = ref<string[]>([])
onMounted(async () => {
  const [codes, unitsOfCount] = await Promise.all([
    call(define.faultCodes.list, { query: { limit: 200 } }),
    call(define.countUnits.list, { query: { limit: 200 } }),
  ])
  faultCodes.value = (codes.rows as { code: string; isActive: boolean }[]).filter((row) => row.isActive).map((row) => row.code)
  countUnits.value = (unitsOfCount.rows as { name: string; isActive: boolean }[]).filter((row) => row.isActive).map((row) => row.name)
})
</script>

<style scoped>
.wide > * {
  flex: 1;
}
</style>
