<template>
  <fieldset>
    <legend>How it came <span class="small">(what is known)</span></legend>
    <div class="row top load">
      <v-text-field
        v-for="{ name, label } in fields"
        :key="name"
        v-model="load[name]"
        :label="label"
        :error-messages="errors[`load.${name}`]"
        :data-field="name"
      />
    </div>
    <slot />
  </fieldset>
</template>

<script setup lang="ts">
import type { LoadFacts } from '@nemawashi/contract'
import { loadFields as fields } from './loadWords'

/** How a load came: carrier, vehicle, driver, seal and load number. */
defineProps<{ errors: Readonly<Record<string, string>> }>()
const load = defineModel<LoadFacts>({ required: true })
</script>

<style scoped>
fieldset {
  border: 1px solid var(--rule);
  padding: 8px 14px 14px;
}
legend {
  padding: 0 6px;
  color: var(--soft);
}
.load {
  margin-bottom: 10px;
}
.load > * {
  flex: 1 1 100px;
}
/* Its label is the longest. */
.load > :last-child {
  flex-basis: 136px;
}
</style>
