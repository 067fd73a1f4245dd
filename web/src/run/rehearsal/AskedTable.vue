<template>
  <table class="plain">
    <thead>
      <tr>
        <th>Inspection</th>
        <th>asks for</th>
        <th class="right">n</th>
        <th class="right">Ac</th>
        <th>worked out</th>
      </tr>
    </thead>
    <tbody>
      <template v-for="inspection in inspections" :key="inspection.id">
        <tr v-for="(line, i) in inspection.lines" :key="line.name">
          <td>
            <template v-if="i === 0"
              ><router-link :to="`/record/${inspection.id}`">{{ inspection.code }}</router-link> {{ inspection.planName }}
              <span v-if="inspection.unitLabel" class="m">{{ inspection.unitLabel }}&ensp;</span>
              <span class="soft">{{ stateWords[inspection.state] }}{{ inspection.holds === 'sample' ? ', holds its sample' : '' }}</span></template
            >
          </td>
          <td>{{ line.name }}</td>
          <td class="right m">{{ line.sampleSize }}</td>
          <td class="right m">{{ line.accept }}</td>
          <td class="small soft">{{ line.reasoning }}</td>
        </tr>
      </template>
    </tbody>
  </table>
</template>

<script setup lang="ts">
import type { DeliveredLot } from '@nemawashi/contract'
import { stateWords } from '../../format/format'

/** What inspections of a lot or of a load ask for, line by line, and how it was worked out. */
defineProps<{ inspections: DeliveredLot['inspections'] }>()
</script>
