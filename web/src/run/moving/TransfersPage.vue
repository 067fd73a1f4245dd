<template>
  <div class="transfers">
    <RunNav current="/run/transfers" />
    <TabLinks label="Which moves" :tabs="links" />
    <DataList
      v-if="tab === 'done'"
      key="done"
      name="transfers"
      :endpoint="run.listTransfers"
      :columns="transferColumns"
      is-main
      title="Transfers"
      empty-text="Nothing was taken from one place to another yet."
      :to="(row: TransferRow) => `/trace/${row.lotId}`"
    >
      <template #standing="{ row }"
        ><span :class="row.standing === 'onHold' ? 'hold' : ''">{{ standingWords[row.standing] }}</span></template
      >
      <template #openChecks="{ row }"
        ><span v-if="row.openChecks" class="hold">{{ count(row.openChecks, 'check') }} open</span></template
      >
    </DataList>
    <DataList
      v-else-if="tab === 'movements'"
      key="movements"
      name="movements"
      :endpoint="run.listMovements"
      :columns="movementColumns"
      is-main
      title="Movements of the ledger"
      empty-text="The ledger has no movement yet."
      :to="(row: MovementRow) => `/trace/${row.lotId}`"
    />
    <MoveByHand v-else-if="tab === 'hand'" />
    <div v-else class="due">
      <header>
        <h1>
          To be moved <span class="soft m">{{ due?.total ?? '…' }}</span>
        </h1>
        <p class="soft">
          What lies elsewhere than <router-link to="/run/places">the list of places</router-link> says.
          <v-btn
            v-if="mayMove && due && due.rows.length > 1"
            variant="text"
            size="small"
            :loading="saver.isBusy.value"
            data-test="move-all"
            @click="moveAll(due.rows)"
            >Move all {{ due.rows.length }}</v-btn
          >
        </p>
      </header>
      <ErrorNote :failure="saver.failure.value ?? failure" />
      <table v-if="due && due.rows.length > 0" class="plain">
        <thead>
          <tr>
            <th>Lot</th>
            <th>Part</th>
            <th class="right">Quantity</th>
            <th>Status</th>
            <th>Lies in</th>
            <th>Belongs to</th>
            <th>By the rule</th>
            <th><span class="sr-only">move</span></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in due.rows" :key="keyOf(row)" :data-due="row.lotCode">
            <td class="m">
              <router-link :to="`/trace/${row.lotId}`">{{ row.lotCode }}</router-link>{{ row.containerLabel ? ` ${row.containerLabel}` : '' }}
            </td>
            <td>{{ row.partCode }}</td>
            <td class="right m">{{ figureOf(row.quantity, row.unit) }}</td>
            <td :class="row.standing === 'onHold' ? 'hold' : ''">{{ standingWords[row.standing] }}</td>
            <td>{{ row.placeName }}</td>
            <td>
              <b>{{ row.toPlaceName }}</b>
            </td>
            <td class="soft small">{{ row.ruleName }}</td>
            <td>
              <v-btn
                v-if="mayMove"
                size="small"
                variant="outlined"
                color="primary"
                :loading="saver.isBusy.value"
                :aria-label="`Move ${row.lotCode} to ${row.toPlaceName}`"
                data-test="move"
                @click="move(row)"
                >Move</v-btn
              >
            </td>
          </tr>
        </tbody>
      </table>
      <p v-else-if="due" class="soft">Everything lies where it belongs.</p>
      <p v-if="due && due.rows.length < due.total" class="soft small">The first {{ due.rows.length }}; the others come up as these are moved.</p>
    </div>
  </div>
</template>

<script setup lang="ts">
import { movementWords, standingWords, type Standing } from '@nemawashi/core'
import { type MoveDue, type MovementRow, type TransferRow, run } from '@nemawashi/contract'
import { computed } from 'vue'
import { useRoute } from 'vue-router'
import { call } from '../../shell/api'
import { useCrumbs } from '../../shell/crumbs'
import { notify } from '../../shell/notify'
import { useThing } from '../../shell/queries'
import { useSession } from '../../shell/session'
import DataList from '../../components/DataList.vue'
import ErrorNote from '../../components/ErrorNote.vue'
import { amount, count, momentOf, figureOf } from '../../format/format'
import type { ListColumn } from '../../components/listColumn'
import TabLinks from '../../components/TabLinks.vue'
import { useSaver } from '../../composables/useSaver'
import MoveByHand from './MoveByHand.vue'
import RunNav from '../RunNav.vue'

/** What is to be taken elsewhere by the list of places, what was, and every movement of the ledger. */
const route = useRoute()
const tabs = ['due', 'hand', 'done', 'movements'] as const
const tab = computed(() => tabs.find((tab) => tab === route.query['tab']) ?? 'due')
const links = computed(() =>
  (
    [
      ['due', 'To be moved'],
      ['hand', 'By hand'],
      ['done', 'Transfers'],
      ['movements', 'Movements'],
    ] as const
  ).map(([key, words]) => ({ words, to: { path: '/run/transfers', query: key === 'due' ? {} : { tab: key } }, isOn: key === tab.value })),
)
useCrumbs(() => [{ words: 'Run', to: '/run' }, { words: 'Transfers' }])
const mayMove = useSession().may(run.transfer)
const saver = useSaver()
const { data: due, failure, reload } = useThing(run.getMovesDue, () => (tab.value === 'due' ? {} : null))
const keyOf = ({ lotId, containerId, placeId, standing, sublot }: MoveDue) => [lotId, containerId, placeId, standing, sublot].join(' ')

async function send(row: MoveDue) {
  const { lotId, containerId, placeId, standing, sublot, quantity, toPlaceId, ruleId } = row
  return call(run.transfer, { body: { lotId, containerId, fromPlaceId: placeId, standing, sublot, quantity, toPlaceId, ruleId } })
}
async function move(row: MoveDue): Promise<void> {
  await saver.save(async () => {
    const { code, opened } = await send(row)
    const openedWords = opened.map((inspection) => ` ${inspection.planName} (${inspection.code}) is asked for there.`).join('')
    notify(`${code}: ${amount(row.quantity, row.unit)} of ${row.lotCode} to ${row.toPlaceName}.${openedWords}`)
  })
  await reload()
}
/** One after another; what is refused stays, and the last reason is said. */
async function moveAll(rows: readonly MoveDue[]): Promise<void> {
  let moved = 0
  let inspections = 0
  await saver.save(async () => {
    let refused: unknown = null
    for (const row of rows) {
      try {
        inspections += (await send(row)).opened.length
        moved += 1
      } catch (error) {
        refused = error
      }
    }
    if (refused !== null) throw refused as Error
  })
  if (moved > 0) notify(`${count(moved, 'move')} done${inspections > 0 ? `, ${count(inspections, 'inspection')} opened there` : ''}.`)
  await reload()
}

const transferColumns: ListColumn[] = [
  { key: 'code', title: 'Transfer' },
  { key: 'lotCode', title: 'Lot', isMono: true },
  { key: 'partCode', title: 'Part' },
  { key: 'containerLabel', title: 'Container', isMono: true, format: (value: string | null) => value ?? 'loose' },
  { key: 'quantity', title: 'Quantity', isNumber: true, isQuantity: true },
  { key: 'standing', title: 'Status' },
  { key: 'fromPlaceName', title: 'From' },
  { key: 'toPlaceName', title: 'To' },
  { key: 'ruleName', title: 'By the rule', format: (value: string | null) => value ?? 'chosen by hand' },
  { key: 'byName', title: 'By' },
  { key: 'at', title: 'When', format: (value: string) => momentOf(value) },
  { key: 'openChecks', title: 'Checks' },
]
const movementColumns: ListColumn[] = [
  { key: 'at', title: 'When', format: (value: string) => momentOf(value) },
  { key: 'kind', title: 'What', format: (value: MovementRow['kind']) => movementWords[value] },
  { key: 'lotCode', title: 'Lot', isMono: true },
  { key: 'partCode', title: 'Part' },
  { key: 'containerLabel', title: 'Container', isMono: true, isHidden: true, format: (value: string | null) => value ?? 'loose' },
  { key: 'quantity', title: 'Quantity', isNumber: true, isQuantity: true },
  { key: 'fromPlaceName', title: 'From', format: (value: string | null) => value ?? 'outside' },
  { key: 'fromStanding', title: 'Was', format: (value: Standing | null) => (value === null ? '–' : standingWords[value]) },
  { key: 'toPlaceName', title: 'To' },
  { key: 'toStanding', title: 'Is', format: (value: Standing) => standingWords[value] },
  { key: 'byName', title: 'By' },
]
</script>

<style scoped>
.transfers {
  height: 100%;
  display: flex;
  flex-direction: column;
  background: var(--sheet);
}
.transfers > .list {
  flex: 1;
}
.due {
  padding: 12px 16px 30px;
  overflow: auto;
}
header p {
  margin: 2px 0 10px;
}
:deep(thead th) {
  background: var(--sheet);
}
</style>
