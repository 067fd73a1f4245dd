<template>
  <div v-if="passport" class="sheet stack">
    <header>
      <h1>
        Lot <span class="m">{{ passport.lot.code }}</span> <span class="soft">· {{ passport.lot.partCode }} {{ passport.lot.partName }}</span>
      </h1>
      <p class="soft">
        <OriginLine :origin="passport.lot" />
      </p>
    </header>
    <QuantityBar
      :balances="passport.balances"
      :unit="passport.lot.unit"
      :arrived="passport.lot.quantity"
      :is-made="passport.lot.originKind === 'orderReleased'"
    />
    <p v-if="passport.underConcession > 0" class="marginal" data-test="concession">
      <b>{{ amount(passport.underConcession, passport.lot.unit) }}</b> are used under concession.
    </p>
    <p class="row tools">
      <a :href="`/api/v1/lots/${id}/passport.pdf`" target="_blank" data-test="passport-pdf">Passport, PDF</a>
      <router-link v-if="mayDecide" :to="`/contain/lot/${id}`" data-test="decide-again">{{
        hasDecision ? 'Decide anew' : 'Decide on its pieces'
      }}</router-link>
      <router-link v-if="mayMove" :to="{ path: '/run/transfers', query: { tab: 'hand', lot: id } }" data-test="move-pieces"
        >Move its pieces</router-link
      >
      <a v-if="mayOpen && !isOpening" href="#" data-test="inspect-by-hand" @click.prevent="isOpening = true">Inspect by hand</a>
    </p>
    <InspectByHand
      v-if="isOpening"
      :lot-id="id"
      :part-id="passport.lot.partId"
      :balances="passport.balances"
      :unit="passport.lot.unit"
      @closed="isOpening = false"
    />
    <FinerStandingForm :key="id" :lot-id="id" :balances="passport.balances" :unit="passport.lot.unit" @given="reload" />
    <ol class="spine" aria-label="Everything that happened, oldest first">
      <li v-for="(event, i) in passport.events" :key="i">
        <time class="m small soft" :datetime="event.at">{{ momentOf(event.at) }}</time>
        <span class="bone" aria-hidden="true"
          ><span
            v-for="part in partsOf(event)"
            :key="part.standing"
            :style="{ width: `${part.width}px`, background: standingColours[part.standing] }" /><i
        /></span>
        <div class="what">
          <b>{{ event.title }}</b>
          <MarkSign v-if="event.verdict" :mark="verdictMark(event.verdict)" :class="verdictMark(event.verdict)" />
          <p v-if="event.detail" class="small" :class="event.verdict ? verdictMark(event.verdict) : 'soft'">{{ event.detail }}</p>
          <p v-if="event.documentId" class="small">
            <a :href="`/api/v1/documents/${event.documentId}/content`" target="_blank" data-test="paper">Open it</a>
          </p>
          <p v-if="event.byName" class="small soft">by {{ event.byName }}</p>
          <InspectionReadings v-if="event.kind === 'inspectionFinished' && event.inspectionId" :id="event.inspectionId" />
          <p v-if="event.kind === 'inspectionFinished' && event.inspectionId" class="small">
            <a :href="`/api/v1/inspections/${event.inspectionId}/report.pdf`" target="_blank" data-test="report-pdf">Report, PDF</a> ·
            <a :href="`/api/v1/inspections/${event.inspectionId}/report.csv`" download>CSV</a> ·
            <a :href="`/api/v1/inspections/${event.inspectionId}/report.json`" download>JSON</a>
          </p>
        </div>
        <SealStamp
          v-if="event.seal"
          :initials="event.seal.initials"
          :meaning="sealWords[event.seal.meaning]"
          :signed-at="event.seal.signedAt"
          :size="66"
        />
      </li>
    </ol>
    <details>
      <summary>Movements, {{ passport.movements.length }}</summary>
      <table class="plain">
        <thead>
          <tr>
            <th>when</th>
            <th class="right">quantity</th>
            <th>container</th>
            <th>from</th>
            <th>to</th>
            <th>why</th>
            <th>by</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(movement, i) in passport.movements" :key="i">
            <td class="m small">{{ momentOf(movement.at) }}</td>
            <td class="right m">{{ figureOf(movement.quantity, passport.lot.unit) }}</td>
            <td class="m">{{ movement.containerLabel ?? '–' }}</td>
            <td>{{ movement.from ?? 'outside' }}</td>
            <td>{{ movement.to }}</td>
            <td>{{ movementWords[movement.kind] }}</td>
            <td>{{ movement.byName }}</td>
          </tr>
        </tbody>
      </table>
    </details>
  </div>
  <EmptyState v-else title="Passport" :text="failure?.message ?? 'Loading …'" />
</template>

<script setup lang="ts">
import { movementWords, sealWords, standings } from '@nemawashi/core'
import { type LotEvent, contain, record, run, trace } from '@nemawashi/contract'
import { useCrumbs } from '../shell/crumbs'
import { useThing } from '../shell/queries'
import { useSession } from '../shell/session'
import { computed, ref, watch } from 'vue'
import EmptyState from '../components/EmptyState.vue'
import { amount, figureOf, momentOf, verdictMark } from '../format/format'
import MarkSign from '../components/MarkSign.vue'
import OriginLine from '../components/OriginLine.vue'
import QuantityBar from '../components/QuantityBar.vue'
import SealStamp from '../components/SealStamp.vue'
import { standingColours } from '../format/standingColours'
import FinerStandingForm from './FinerStandingForm.vue'
import InspectByHand from './InspectByHand.vue'
import InspectionReadings from './InspectionReadings.vue'

/** The whole story of one lot on one page: the spine, with the pieces' quantities as its width. */
const { id } = defineProps<{ id: string }>()
const { data: passport, failure, reload } = useThing(trace.getPassport, () => ({ params: { id } }))
const spineWidth = 44
const mayMove = useSession().may(run.transfer)
const mayDecide = useSession().may(contain.decideAgain)
const mayOpen = useSession().may(record.openByHand)
const isOpening = ref(false)
watch(
  () => id,
  () => (isOpening.value = false),
)
const hasDecision = computed(() => passport.value?.events.some(({ kind }) => kind === 'decided') ?? false)
useCrumbs(() => [{ words: 'Trace', to: '/trace' }, { words: 'Lots', to: '/trace' }, { words: passport.value?.lot.code ?? '…' }])
/** What is gone for good (returned, scrapped, used, shipped) no longer widens the spine. */
const here = standings.filter((standing) => !['scrapped', 'returned', 'shipped', 'used'].includes(standing))
function partsOf(event: LotEvent) {
  const all = passport.value?.lot.quantity ?? 1
  return here.flatMap((standing) => {
    const quantity = event.standingsAfter[standing] ?? 0
    return quantity > 0 ? [{ standing, width: Math.max(2, (spineWidth * quantity) / all) }] : []
  })
}
</script>

<style scoped>
.sheet {
  padding: 20px 28px 40px;
}
.sheet p {
  margin: 0;
}
.spine {
  list-style: none;
  margin: 6px 0 0;
  padding: 0;
}
li {
  display: flex;
  gap: 18px;
  min-height: 54px;
}
time {
  width: 92px;
  flex: none;
  text-align: right;
  padding-top: 1px;
}
.bone {
  width: 44px;
  flex: none;
  display: flex;
  justify-content: center;
  position: relative;
}
.bone span {
  opacity: 0.82;
}
.bone i {
  position: absolute;
  top: 5px;
  left: 16px;
  width: 12px;
  height: 12px;
  border-radius: 50%;
  background: var(--sheet);
  border: 2px solid var(--ink);
}
.what {
  flex: 1;
  min-width: 0;
  padding-bottom: 14px;
}
summary {
  cursor: pointer;
  color: var(--indigo);
  font-weight: 600;
}
</style>
