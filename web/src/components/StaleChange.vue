<template>
  <v-dialog :model-value="true" width="640" persistent aria-label="Somebody else was faster">
    <v-card>
      <v-card-title>{{ failure.message }}</v-card-title>
      <v-card-text>
        <p class="soft">{{ when }}. Nothing of yours is lost. Choose which one stands.</p>
        <table class="plain">
          <thead>
            <tr>
              <th><span class="sr-only">what</span></th>
              <th>yours</th>
              <th>{{ by }}</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="row in differing" :key="row.label">
              <th scope="row">{{ row.label }}</th>
              <td>{{ row.mine || '–' }}</td>
              <td>{{ row.theirs || '–' }}</td>
            </tr>
            <tr v-if="differing.length === 0">
              <td colspan="3" class="soft">Both say the same now.</td>
            </tr>
          </tbody>
        </table>
      </v-card-text>
      <v-card-actions>
        <v-btn variant="outlined" color="primary" data-test="take-theirs" @click="emit('take')">Take {{ by }}</v-btn>
        <v-btn color="primary" variant="flat" data-test="keep-mine" @click="emit('keep')">Keep mine</v-btn>
      </v-card-actions>
    </v-card>
  </v-dialog>
</template>

<script setup lang="ts">
import { computed } from 'vue'
import type { Failure } from '../shell/api'
import { momentOf } from '../format/format'

/** Two people changed the same thing: both versions beside each other, and the choice. */
export interface Compared {
  readonly label: string
  readonly mine: string
  readonly theirs: string
}
const { failure, rows } = defineProps<{ failure: Failure; rows: readonly Compared[] }>()
const emit = defineEmits<{ keep: []; take: [] }>()

const by = computed(() => `${(failure.facts['changedByName'] as string | null) ?? 'the other'}'s`)
const when = computed(() =>
  typeof failure.facts['changedAt'] === 'string' ? `Changed ${momentOf(failure.facts['changedAt'])}` : 'Changed meanwhile',
)
const differing = computed(() => rows.filter((row) => row.mine !== row.theirs))
</script>
