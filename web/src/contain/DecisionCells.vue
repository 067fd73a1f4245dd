<template>
  <td>
    <v-text-field
      v-model="row.quantity"
      class="mono"
      inputmode="decimal"
      :placeholder="emptyQuantity"
      :aria-label="`Quantity of row ${at + 1}`"
      :data-field="`${field}quantity${at}`"
      hide-details
    />
  </td>
  <td>
    <v-select
      v-model="row.disposition"
      :items="choices"
      :aria-label="`What to do with row ${at + 1}`"
      :data-field="`${field}disposition${at}`"
      hide-details
    />
  </td>
  <td>
    <v-combobox
      v-model="row.reason"
      :items="reasons"
      :placeholder="needsReason ? 'reason, needed' : 'reason'"
      :aria-label="`Reason of row ${at + 1}`"
      :error-messages="problems"
      :data-field="`${field}reason${at}`"
    />
  </td>
</template>

<script setup lang="ts">
import type { Disposition } from '@nemawashi/core'
import { useReasons } from '../shell/useReasons'

/** How many, what becomes of them, and why: the three cells of a row of a decision that is being written, the first one or a later one. */
const row = defineModel<{ quantity: string; disposition: Disposition; reason: string }>({ required: true })
const { field = '' } = defineProps<{
  at: number
  choices: readonly { readonly title: string; readonly value: Disposition }[]
  problems: string[]
  needsReason: boolean
  /** What stands before the names of the fields. */
  field?: string
  emptyQuantity?: string
}>()
const reasons = useReasons('decision')
</script>

<style>
.deciding {
  table-layout: fixed;
  width: 100%;
}
.deciding .mono input {
  font-family: var(--mono);
  text-align: right;
}
/* A reason of the plant's list is read to its end beside the three others. */
.deciding .v-field {
  --v-field-padding-start: 10px;
  --v-field-padding-end: 10px;
  --v-field-font-size: 14.5px;
  font-size: 14.5px;
}
.deciding .v-field__input {
  font-size: inherit;
}
/* Beside each other only where the reason can be read: else what and how much above, the reason below. */
@media (max-width: 900px) {
  .deciding thead {
    display: none;
  }
  .deciding tr {
    display: grid;
    grid-template-columns: minmax(64px, 0.8fr) minmax(90px, 1fr) minmax(150px, 1.6fr);
    align-items: center;
    border-bottom: 1px solid var(--rule);
  }
  .deciding td {
    border: 0;
  }
  .deciding td:nth-child(4):not(:last-child) {
    grid-column: 1 / 3;
  }
}
</style>
