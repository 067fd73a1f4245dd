<template>
  <div class="row top">
    <PickOne
      v-model="customerId"
      class="grow"
      :endpoint="define.partners.list"
      label="Customer"
      :filter="isCustomer"
      :error="errors['customerId']"
      is-needed
      field="customerId"
    />
    <v-text-field
      v-model="orderNumber"
      class="order"
      label="Order number"
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

/** Which customer something is for, and on which order. */
defineProps<{ errors: Readonly<Record<string, string>> }>()
const customerId = defineModel<string | null>('customerId', { required: true })
const orderNumber = defineModel<string>('orderNumber', { required: true })
const isCustomer = (row: Partner) => row.kind === 'customer' && row.isActive
</script>

<style scoped>
.order {
  max-width: 200px;
}
</style>
