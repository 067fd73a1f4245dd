<template>
  <ul>
    <li v-for="gate in gates" :key="gate.id">
      <router-link :to="isOpen(gate.state) ? `/record/${gate.id}` : `/contain/${gate.id}`">{{ gate.planName }}</router-link>
      <span class="m small soft"> {{ gate.code }}</span> {{ isOpen(gate.state) ? 'is to be done: take the check.' : 'waits for a decision.' }}
    </li>
  </ul>
</template>

<script setup lang="ts">
import { isOpen } from '@nemawashi/core'
import type { NextStep } from '@nemawashi/contract'

/** What stands in the way, each with the way to it: to the bench while it is recorded, to the decision once it waits for one. */
defineProps<{ gates: NextStep['gates'] }>()
</script>

<style scoped>
ul {
  margin: 0;
}
</style>
