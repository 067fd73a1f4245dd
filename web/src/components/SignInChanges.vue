<template>
  <p v-if="told.length > 0" class="told" role="status" data-test="sign-in-changes">
    <b>Since you signed in before ({{ momentOf(lastAt ?? '') }}):</b>
    {{
      told
        .map(({ action, byName, at }) => `${action}${byName === null || byName === session.person?.name ? '' : ` by ${byName}`}, ${momentOf(at)}`)
        .join('; ')
    }}. If that was not you, or not asked for, tell an administrator and change your password under
    <router-link to="/people/sessions">your sign-in</router-link>.
  </p>
</template>

<script setup lang="ts">
import { people } from '@nemawashi/contract'
import { computed } from 'vue'
import { useThing } from '../shell/queries'
import { useSession } from '../shell/session'
import { momentOf } from '../format/format'

/** What was done to how one signs in, by whomever, since one last did. */
const session = useSession()
const { data } = useThing(people.listCredentialChanges, () => ({}))
const told = computed(() => data.value?.changes ?? [])
const lastAt = computed(() => data.value?.lastAt)
</script>

<style scoped>
.told {
  border-left: 4px solid var(--marginal);
  background: var(--paper);
  padding: 8px 12px;
  margin: 12px 0;
}
</style>
