<template>
  <ul>
    <li v-for="gate in gates" :key="gate.id">
      <router-link :to="wayTo(gate)">{{ gate.planName }}</router-link>
      <span class="m small soft"> {{ gate.code }}</span> {{ isOpen(gate.state) ? 'is to be done: take the check.' : 'waits for a decision.' }}
    </li>
  </ul>
</template>

<script setup lang="ts">
import { isOpen } from '@nemawashi/core'
import type { NextStep } from '@nemawashi/contract'
import { wayTo } from './checkWay'

/** What stands in the way, each with the way to it. */
defineProps<{ gates: NextStep['gates'] }>()
</script>

<style scoped>
ul {
  margin: 0;
}
</style>
