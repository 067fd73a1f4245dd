<template>
  <SheetSplit list-words="Parts" left="minmax(340px, 27%)" folds>
    <template #list>
      <DataList
        name="attach"
        :endpoint="define.parts.list"
        :columns="columns"
        title="Parts"
        :selected-id="id"
        empty-text="Parts with a routing appear here. Define one first."
        :to="(row: { id: string }) => ({ path: `/attach/${row.id}`, query: route.query })"
      />
    </template>
    <div v-if="part && flow" class="page" :class="{ beside: draft }">
      <header class="row">
        <h1>
          {{ part.code }} {{ part.name }} <span class="soft">· rev {{ part.revision }}</span>
        </h1>
        <v-select
          v-if="flow.family"
          :model-value="lens"
          class="lens"
          :items="[
            { value: 'part', title: `this part, ${part.code}` },
            { value: 'family', title: `the family ${flow.family.name}` },
          ]"
          label="Seen as"
          data-field="lens"
          @update:model-value="see"
        />
        <div class="supplier">
          <PickOne v-model="partnerId" :endpoint="define.partners.list" label="As for supplier or customer" is-clearable field="asPartner" />
        </div>
      </header>
      <ErrorNote :failure="saver.note.value" />
      <p v-if="lens === 'family' && flow.family" class="soft small" data-test="family">
        What every part of the family {{ flow.family.name }} is asked, along the way of {{ part.code }}. Its parts:
        <template v-for="(of, i) in flow.family.parts" :key="of.id"
          >{{ i > 0 ? ', ' : '' }}<router-link :to="{ path: `/attach/${of.id}` }">{{ of.code }}</router-link
          >{{ of.own > 0 ? ` (${of.own} of its own)` : '' }}</template
        >.
      </p>
      <FlowLine
        :flow="flow"
        :selected-id="selected?.id ?? null"
        :can-attach="isEngineer"
        @choose="(of) => instead(() => choose(of))"
        @attach="(...of) => instead(() => begin(...of))"
        @leave="leave"
      />
      <p v-if="flow.stops.length === 0" class="soft">
        This part has no routing yet. <router-link :to="`/define/parts/${part.id}`">Give it its operations</router-link>, receiving first.
      </p>
      <PlanShelf v-if="isEngineer && !draft && flow.stops.length > 0" />
      <ControlPointForm
        v-if="draft"
        :key="selected?.id ?? `new ${draft.operationId}`"
        v-model="draft"
        class="form"
        :point="selected"
        :part="part"
        :kind="kindOf(draft.operationId)"
        :stop-name="flow.stops.find((stop) => stop.operationId === draft?.operationId)?.name ?? ''"
        :is-fixed="!isEngineer"
        :errors="saver.fieldErrors.value"
        :is-busy="saver.isBusy.value"
        @save="submit"
        @retire="retire"
        @close="instead(close)"
      />
      <StaleChange
        v-if="saver.isStale.value && saver.failure.value && theirs"
        :failure="saver.failure.value"
        :rows="compared"
        @keep="keepMine"
        @take="takeTheirs"
      />
      <RehearsalPanel v-if="!draft && flow.stops.length > 0" :flow="flow" :part="part" />
      <PointsBefore v-if="!draft" :points="flow.before" />
    </div>
    <EmptyState
      v-else
      title="Control points"
      :text="
        id
          ? ((partFailure ?? flowFailure)?.message ?? 'Loading …')
          : 'Choose a part: its operations appear as stops on a line, with what is checked at each.'
      "
    />
  </SheetSplit>
</template>

<script setup lang="ts">
import { type Flow, type FlowLens, attach, define } from '@nemawashi/contract'
import { computed, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { call } from '../../shell/api'
import { useCrumbs } from '../../shell/crumbs'
import { useKeys } from '../../shell/keys'
import { ask } from '../../shell/ask'
import { notify } from '../../shell/notify'
import { useThing } from '../../shell/queries'
import { useSession } from '../../shell/session'
import DataList from '../../components/DataList.vue'
import type { ListColumn } from '../../components/listColumn'
import EmptyState from '../../components/EmptyState.vue'
import ErrorNote from '../../components/ErrorNote.vue'
import PickOne from '../../components/PickOne.vue'
import SheetSplit from '../../components/SheetSplit.vue'
import StaleChange from '../../components/StaleChange.vue'
import { useSaver } from '../../composables/useSaver'
import ControlPointForm from '../points/ControlPointForm.vue'
import FlowLine from './FlowLine.vue'
import PlanShelf from './PlanShelf.vue'
import PointsBefore from './PointsBefore.vue'
import RehearsalPanel from '../rehearsal/RehearsalPanel.vue'
import { useDraft } from '../points/useDraft'

const route = useRoute()
const router = useRouter()
const { isEngineer } = useSession()
const saver = useSaver()
const id = computed(() => (typeof route.params['id'] === 'string' && route.params['id'] !== '' ? route.params['id'] : null))
const columns: ListColumn[] = [
  { key: 'code', title: 'Code' },
  { key: 'name', title: 'Name' },
  { key: 'familyName', title: 'Family', isHidden: true },
  { key: 'points', title: 'Points', isNumber: true },
]
const partnerId = ref<string | null>(null)
const lens = computed<FlowLens>(() => (route.query['lens'] === 'family' ? 'family' : 'part'))
function see(as: FlowLens): void {
  const { lens: _, ...query } = route.query
  void router.replace({ query: as === 'family' ? { ...query, lens: as } : query })
}
const { data: part, failure: partFailure } = useThing(define.parts.get, () => (id.value === null ? null : { params: { id: id.value } }))
const {
  data: flow,
  failure: flowFailure,
  reload: loadFlow,
} = useThing(attach.getFlow, () =>
  id.value === null ? null : { params: { id: id.value }, query: { lens: lens.value, ...(partnerId.value ? { partnerId: partnerId.value } : {}) } },
)
useCrumbs(() => [{ words: 'Attach', to: '/attach' }, ...(part.value ? [{ words: part.value.code }] : [])])

/** Nothing is to be checked at a stop: that is an answer too, with its reason. */
async function leave(stop: Flow['stops'][number], isLeft: boolean): Promise<void> {
  const current = part.value
  if (!current) return
  const reason = isLeft
    ? await ask({
        title: `No control at ${stop.name}?`,
        text: `Nothing is checked on ${current.code} there, on purpose. The reason stands at the stop and in the audit chain.`,
        yes: 'Note it',
        needsReason: true,
      })
    : null
  if (isLeft && reason === null) return
  await saver.save(async () => {
    await call(attach.leaveOpen, { params: { id: current.id }, body: { operationId: stop.operationId, reason } })
    await loadFlow()
    notify(isLeft ? `${stop.name} is noted as not controlled.` : `${stop.name} is no longer noted as not controlled.`)
  })
}
const { selected, draft, theirs, compared, kindOf, choose, begin, close, instead, submit, retire, keepMine, takeTheirs } = useDraft({
  id: () => id.value,
  part: () => part.value,
  flow: () => flow.value,
  lens: () => lens.value,
  loadFlow,
  saver,
})
useKeys([
  {
    key: 'A',
    words: 'attach a plan to the stop that has the focus',
    run: () => {
      const stop = document.activeElement?.closest<HTMLElement>('[data-stop]')?.dataset['stop'] ?? flow.value?.stops[0]?.operationId
      if (stop) void instead(() => begin(stop, null))
    },
  },
])
</script>

<style scoped>
.page {
  padding: 18px 24px 40px;
}
header h1 {
  flex: 1;
}
/* The control point beside its line, as long as there is room for both. */
@media (min-width: 1180px) {
  .beside {
    display: grid;
    grid-template-columns: minmax(0, 1fr) 372px;
    column-gap: 20px;
    align-content: start;
    padding-inline: 18px;
  }
  .beside > * {
    grid-column: 1;
  }
  .beside > header {
    grid-column: 1 / -1;
  }
  .beside > .form {
    grid-column: 2;
    grid-row: 2 / span 20;
    align-self: start;
    border-top: 0;
    padding: 4px 4px 0 0;
    /* It scrolls by itself: the line that it is about stays in sight, and so does the way to save. */
    position: sticky;
    top: 8px;
    max-height: calc(100dvh - 124px);
    overflow-y: auto;
  }
  .beside :deep(.flow) {
    gap: 6px;
  }
  .beside :deep(.stop:has(.tag)),
  .beside :deep(.stop:has(.tag.empty)) {
    flex-basis: 100px;
    min-width: 96px;
  }
  .beside :deep(.tag) {
    padding: 6px 7px;
    overflow-wrap: anywhere;
  }
  .beside :deep(.tag .row) {
    flex-wrap: wrap;
    gap: 0;
  }
  .beside :deep(.tag .grow) {
    flex: 1 0 100%;
  }
}
@media (max-width: 700px) {
  header h1 {
    flex: 1 0 100%;
  }
}
.supplier {
  width: 280px;
}
.lens {
  max-width: 230px;
}
</style>
