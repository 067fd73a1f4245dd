<template>
  <nav class="rail" aria-label="Work">
    <router-link to="/today" class="brand" aria-label="Nemawashi, to the start"><img src="/icon.svg" alt="" width="34" height="34" /></router-link>
    <router-link
      v-for="{ area, word, d } in railWords"
      :key="area"
      :to="`/${area}`"
      class="stop"
      :class="{ on: route.meta.area === area }"
      :aria-current="route.meta.area === area ? 'page' : undefined"
    >
      <svg viewBox="0 0 22 22" aria-hidden="true"><path :d="d" /></svg>{{ word }}
    </router-link>
    <v-menu location="end">
      <template #activator="{ props: menu }">
        <button v-bind="menu" class="me" :aria-label="`${session.person?.initials}, ${session.person?.name}: administration and sign out`">
          {{ session.person?.initials }}
        </button>
      </template>
      <v-sheet min-width="220" elevation="4" rounded>
        <p class="who">
          <b>{{ session.person?.name }}</b><br /><span class="soft small">{{ session.person?.roles.map((role) => roleWords[role]).join(', ') }}</span>
        </p>
        <v-divider />
        <v-list density="compact" role="menu" :aria-label="session.person?.name">
          <v-list-item role="menuitem" to="/people" title="People and roles" />
          <v-list-item v-if="maySeeChain" role="menuitem" to="/people/audit" title="Audit chain" />
          <v-list-item role="menuitem" href="/api/v1/docs" title="API" />
          <v-list-item role="menuitem" to="/people/sessions" title="Your sign-in" />
          <v-list-item role="menuitem" title="Change password" @click="isChangingPassword = true" />
          <v-list-item role="menuitem" title="Sign out" @click="signOut" />
        </v-list>
      </v-sheet>
    </v-menu>
    <PasswordDialog v-model="isChangingPassword" />
  </nav>
</template>

<script setup lang="ts">
import { people, roleWords } from '@nemawashi/contract'
import { defineAsyncComponent, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { railWords } from '../shell/railIcons'
import { useSession } from '../shell/session'

const PasswordDialog = defineAsyncComponent(() => import('../people/PasswordDialog.vue'))
const isChangingPassword = ref(false)
const route = useRoute()
const router = useRouter()
const session = useSession()
const maySeeChain = session.may(people.listAudit)

async function signOut(): Promise<void> {
  // The page is left first: it may ask about what is not saved, and asks the server for nothing afterwards.
  await router.push('/sign-in')
  if (router.currentRoute.value.path === '/sign-in') await session.signOut()
}
</script>

<style scoped>
.who {
  padding: 10px 16px;
  margin: 0;
}
.rail {
  border-right: 1px solid var(--rule);
  background: var(--paper);
  display: flex;
  flex-direction: column;
  padding-top: 8px;
  overflow: auto;
}
.brand {
  height: 52px;
  display: grid;
  place-items: center;
  flex: none;
}
.v-theme--night .brand img {
  filter: brightness(2.1);
}
.stop {
  min-height: 60px;
  display: grid;
  place-items: center;
  align-content: center;
  gap: 3px;
  color: var(--soft);
  font-size: 12.5px;
  line-height: 14px;
  border-left: 4px solid transparent;
  border-right: 4px solid transparent;
  text-decoration: none;
}
.stop svg {
  width: 22px;
  height: 22px;
  stroke: currentColor;
  fill: none;
  stroke-width: 1.6;
}
.stop:hover {
  color: var(--ink);
}
.stop.on {
  color: var(--indigo);
  border-left-color: var(--indigo);
  font-weight: 600;
  background: linear-gradient(90deg, var(--wash), transparent);
}
.me {
  margin: auto auto 14px;
  flex: none;
  width: 42px;
  height: 42px;
  border: 2px solid var(--seal);
  border-radius: 50%;
  color: var(--seal);
  font: 700 13px/13px var(--words);
  transform: rotate(-7deg);
  background: transparent;
  cursor: pointer;
}
@media (max-width: 700px) {
  .rail {
    flex-direction: row;
    align-items: stretch;
    padding: 0;
    border-right: 0;
    border-top: 1px solid var(--rule);
    overflow: auto hidden;
  }
  .brand {
    display: none;
  }
  .stop {
    flex: 1 1 0;
    min-width: 0;
    min-height: 0;
    border: 0;
    border-top: 3px solid transparent;
    font-size: 10.5px;
  }
  .stop.on {
    border-top-color: var(--indigo);
    background: none;
  }
  .me {
    margin: auto 5px;
    width: 36px;
    height: 36px;
  }
}
@media print {
  .rail {
    display: none;
  }
}
</style>
