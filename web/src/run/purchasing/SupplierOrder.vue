<template>
  <div class="row top">
    <PickOne
      v-model="supplierId"
      class="grow"
      :endpoint="define.partners.list"
      label="Supplier"
      :filter="isSupplier"
      :initial="given"
      :error="errors['supplierId']"
      is-needed
      field="supplierId"
    />
    <v-text-field
      v-model="orderNumber"
      label="Order number"
      style="max-width: 200px"
      :error-messages="errors['orderNumber']"
      aria-required="true"
      data-field="orderNumber"
    />
    <slot />
  </div>
</template>

<script setup lang="ts">
import { type Partner, define } from '@nemawashi/contract'
import PickOne from '../../components/PickOne.vue'

/** Of whom, and on which order: the head of what is ordered, announced and received. */
const { given = null } = defineProps<{ errors: Readonly<Record<string, string>>; given?: { id: string; title: string } | null }>()
const supplierId = defineModel<string | null>('supplierId', { required: true })
const orderNumber = defineModel<string>('orderNumber', { required: true })
const isSupplier = (row: Partner) => row.kind === 'supplier' && row.isActive
</script>
