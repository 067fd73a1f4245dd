<template>
  <section class="side" aria-label="Finding">
    <h2 class="minor">{{ isOpen ? 'Finding so far' : 'Finding' }}</h2>
    <ReasoningLine :verdict="finding.verdict" :reasoning="describeFinding(finding)" data-test="finding" />
    <ReasoningLine
      v-for="entry in finding.lines"
      :key="entry.name"
      class="small"
      :verdict="entry.verdict"
      :reasoning="`${entry.name}: ${describeLine(entry)}`"
    />
    <p v-for="{ name, words } in certain" :key="name" class="small" data-test="certain">
      <b>{{ name }}</b> {{ words }}
    </p>
    <p v-for="words in advice" :key="words" class="small advice" data-test="advice"><b>What to do now:</b> {{ words }}</p>
    <BenchMadeSince v-if="isOfRun && hasNonconforming" :inspection="inspection" :may-hold="isOpen && mayRecord" @held="emit('held')" />
    <template v-if="isUnfinished">
      <hr />
      <BenchHolder :id="inspection.id" :code="inspection.code" :assignment="inspection.assignment" @changed="emit('assigned', $event)" />
      <BenchInspector v-if="isOpen && mayRecord" v-model="inspectedBy" />
    </template>
    <hr />
    <h2 class="minor">Held for this inspection</h2>
    <p v-if="inspection.subjectKind === 'load'" class="small">The load of <OriginLine :origin="inspection" />. {{ loadWords }}</p>
    <QuantityBar v-else :balances="inspection.balances" :unit="inspection.unit" />
    <p v-if="inspection.subjectKind !== 'load'" class="small">
      Lot <router-link class="m" :to="`/trace/${inspection.lotId}`">{{ inspection.lotCode }}</router-link><template v-if="inspection.unitLabel"
        >, <b class="m">{{ inspection.unitLabel }}</b></template
      >
      · <OriginLine :origin="inspection" />.
      {{ holdWords }}
    </p>
    <p v-if="lateness" class="small nonconforming" data-test="lateness">{{ lateness }}</p>
    <p v-if="inspection.openReason" class="small" data-test="by-hand">Opened by hand by {{ inspection.openedByName }}: {{ inspection.openReason }}</p>
    <p v-for="left in inspection.leftOut" :key="left.name" class="small" data-test="left-out">
      <b>{{ left.name }}</b> is asked once, with <router-link class="m" :to="`/record/${left.inspectionId}`">{{ left.code }}</router-link>.
    </p>
    <p v-for="line in dropped" :key="line.name" class="small" data-test="dropped">
      <b>{{ line.name }}</b> (n {{ line.sampleSize }}) was dropped by {{ line.byName }}, {{ momentOf(line.at) }}: {{ line.reason }}
    </p>
    <p v-if="inspection.follows" class="small" data-test="follows">
      Asked for by an answer of
      <router-link class="m" :to="`/record/${inspection.follows.id}`">{{ inspection.follows.code }}</router-link> {{ inspection.follows.planName }}.
    </p>
    <p v-for="other in inspection.followUps" :key="other.id" class="small" data-test="follow-up">
      <b>An answer here asks for more:</b> <router-link class="m" :to="`/record/${other.id}`">{{ other.code }}</router-link> {{ other.planName }}.
    </p>
    <hr />
    <ErrorNote :failure="failure" />
    <div v-for="reading in refused" :key="reading.id" class="refused small" role="alert">
      <b>Not stored: {{ reading.value ?? 'withdrawal' }}, piece {{ reading.piece }}.</b> {{ reading.refusal }}
      <button type="button" @click="emit('takeOut', reading.id)">Take it out</button>
    </div>
    <p class="small" :class="isUnreachable ? 'marginal' : 'soft'" data-test="outbox" aria-live="polite">
      {{
        isUnreachable
          ? `No connection: ${unsent} kept here, and sent once there is one.`
          : unsent > 0
            ? `${unsent} on the way …`
            : refused.length > 0
              ? 'Everything else that was typed is stored.'
              : 'Everything typed is stored.'
      }}
    </p>
    <p v-if="!isKept" class="small nonconforming" role="alert" data-test="not-kept">
      This browser keeps nothing: what is typed is sent at once, and lost if the page is closed before it has arrived.
    </p>
    <p v-if="ofOthers > 0" class="small marginal" data-test="of-others">
      {{ count(ofOthers, 'reading') }} of somebody else wait here; they are sent when that person signs in.
    </p>
    <p v-if="inspection.state === 'cancelled'" class="small" data-test="cancelled">
      <b>Cancelled</b> {{ momentOf(inspection.cancelledAt ?? '') }} by {{ inspection.cancelledByName }}: {{ inspection.cancelReason }}
    </p>
    <p v-if="isUnfinished && !isForMe" class="small soft" data-test="who-may">Recorded by: {{ whoMay }}. You may look.</p>
    <div class="foot">
      <template v-if="isOpen && mayRecord">
        <v-btn variant="outlined" color="primary" to="/record">Leave it</v-btn>
        <v-btn color="primary" :loading="isBusy" data-test="finish" @click="emit('finish')">Finish <kbd>Ctrl ⏎</kbd></v-btn>
      </template>
      <template v-else-if="inspection.state === 'finished'">
        <v-btn v-if="mayRecord && mayReopen" variant="outlined" color="primary" data-test="reopen" @click="emit('reopen')">Reopen</v-btn>
        <v-btn v-if="isDecidedOn" color="primary" :to="`/contain/${inspection.id}`" data-test="to-decision">To the decision</v-btn>
      </template>
      <template v-else-if="inspection.decision">
        <SealStamp
          :initials="inspection.decision.initials"
          :meaning="sealWords[inspection.decision.meaning]"
          :signed-at="inspection.decision.signedAt"
        />
      </template>
      <v-btn v-if="mayCancel" variant="text" size="small" data-test="cancel" @click="emit('cancel')">Opened by mistake</v-btn>
      <a v-if="!isOpen" :href="`/api/v1/inspections/${inspection.id}/report.pdf`" target="_blank" data-test="report">Report, PDF</a>
    </div>
  </section>
</template>

<script setup lang="ts">
import {
  isBeforeReceipt,
  isOpen as isStillOpen,
  isSettled,
  describeFinding,
  describeLine,
  lateWords,
  sealWords,
  type OperationKind,
} from '@nemawashi/core'
import { type Assignment, type Finding, type Inspection, minutesLateOf, record, recordersOf, roleWords } from '@nemawashi/contract'
import { computed } from 'vue'
import type { Failure } from '../../shell/api'
import { useSession } from '../../shell/session'
import ErrorNote from '../../components/ErrorNote.vue'
import { count, momentOf } from '../../format/format'
import OriginLine from '../../components/OriginLine.vue'
import QuantityBar from '../../components/QuantityBar.vue'
import ReasoningLine from '../../components/ReasoningLine.vue'
import SealStamp from '../../components/SealStamp.vue'
import { onFailureWords } from '../../format/onFailureWords'
import { isLate } from '../../format/isLate'
import { loadHolds } from '../../format/loadHolds'
import { mayRecord as isRecorder } from '../../composables/mayRecord'
import BenchInspector from './BenchInspector.vue'
import BenchHolder from './BenchHolder.vue'
import BenchMadeSince from './BenchMadeSince.vue'
import type { WaitingReading } from '../entry/outbox'

/** What the readings say so far, what is held, whether everything typed is stored, and what can be done next. */
const { inspection, finding, mayRecord } = defineProps<{
  inspection: Inspection
  finding: Omit<Finding, 'lines'> & { readonly lines: readonly Finding['lines'][number][] }
  /** What no answer to come can change any more. */
  certain: readonly { readonly name: string; readonly words: string }[]
  failure: Failure | null
  refused: readonly WaitingReading[]
  unsent: number
  isUnreachable: boolean
  ofOthers: number
  isKept: boolean
  isOpen: boolean
  mayRecord: boolean
  isBusy: boolean
  /** Whether a piece was found nonconforming. */
  hasNonconforming: boolean
}>()
const inspectedBy = defineModel<string | null>('inspectedBy', { required: true })
const emit = defineEmits<{ finish: []; reopen: []; cancel: []; takeOut: [id: string]; assigned: [assignment: Assignment]; held: [] }>()
const session = useSession()
/** Somebody whose work this is not looks on, and is told whose it is. */
const isForMe = computed(() => isRecorder(inspection, session.person))
const whoMay = computed(() =>
  recordersOf(inspection.spotAnswerer)
    .map((role) => roleWords[role])
    .join(', '),
)
/** Of a running step there is something that was made since the check before. */
const isOfRun = computed(() => inspection.operationKind === 'production' && inspection.lotId !== null)
/** That it is late, or was: what was made up late stays so. */
const lateness = computed(() => {
  const { dueAt, finishedAt } = inspection
  if (dueAt === null) return ''
  if (finishedAt === null) return isUnfinished.value && isLate(inspection) ? `Late: it was due ${momentOf(dueAt)}.` : ''
  const late = lateWords(minutesLateOf(inspection))
  return late && `Finished ${late}: it was due ${momentOf(dueAt)}.`
})
const mayReopen = session.may(record.reopenInspection)
const mayCancelAny = session.may(record.cancelInspection)
const isUnfinished = computed(() => isStillOpen(inspection.state))
const dropped = computed(() => inspection.dropped)
/** What the control point says to do when it is not acceptable, and what the characteristics of its lines say that are not. */
const advice = computed(() => {
  const isFailed = ({ verdict }: { verdict: string }) => verdict === 'notAcceptable'
  const ofLines = inspection.lines.filter((_, i) => isFailed(finding.lines[i] ?? { verdict: '' })).map(({ details }) => details.adviceOnFailure)
  return [...(isFailed(finding) ? [inspection.advice] : []), ...ofLines].filter((words) => words !== '')
})
const mayCancel = computed(
  () => !isSettled(inspection.state) && (session.person?.roles.includes('qualityManager') || (mayCancelAny.value && mayRecord && !inspection.holds)),
)
/** Without goods there is nothing to decide on. */
const isDecidedOn = computed(() => !isBeforeReceipt(inspection.originKind) && inspection.originKind !== 'dispatch')
/** What hangs on the look at a load; of goods that are here, what hangs on any other. */
const loadWords = computed(() => loadHolds(inspection) ?? holdWords.value)
/** What a hold keeps from happening, by where the pieces are. */
const waitingAt: Readonly<Record<OperationKind, string>> = {
  receiving: 'put-away',
  production: 'the order',
  transfer: 'put-away',
  shipping: 'sending',
  return: 'put-away',
}
const waiting = computed(() => waitingAt[inspection.operationKind])
const holdWords = computed(() => {
  if (isSettled(inspection.state))
    return inspection.decision === null && inspection.whenConforming === 'free' ? 'What it held went free with its finding.' : ''
  if (inspection.whenConforming === 'free' && isUnfinished.value)
    return `${inspection.isGate ? `Gate: ${waiting.value} waits until this is finished. ` : ''}What conforms is free at once.`
  if (inspection.setAside > 0 && !inspection.isGate && inspection.finding.verdict === 'acceptable')
    return `${count(inspection.setAside, 'nonconforming piece')} set aside, on hold until somebody decides.`
  if (inspection.holds && inspection.isGate && inspection.keepsFrom === 'use')
    return 'Gate: it may be put away, on hold; use, picking and sending wait for the decision.'
  if (inspection.holds) return `${inspection.isGate ? 'Gate' : 'It failed'}: ${waiting.value} waits for the decision.`
  return `No gate; ${onFailureWords[inspection.onFailure]}.`
})
</script>

<style scoped>
.side {
  border-left: 1px solid var(--rule);
  padding: 14px 18px;
  overflow: auto;
  display: flex;
  flex-direction: column;
  gap: 9px;
}
.side p {
  margin: 0;
}
hr {
  border: 0;
  border-top: 1px solid var(--rule);
  width: 100%;
  margin: 4px 0;
}
.advice {
  border-left: 4px solid var(--nonconforming);
  padding-left: 10px;
}
.refused {
  border-left: 4px solid var(--nonconforming);
  padding-left: 10px;
}
.refused button {
  color: var(--indigo);
  background: none;
  border: 0;
  font-weight: 600;
  cursor: pointer;
}
.foot {
  margin-top: auto;
  padding-top: 12px;
  display: flex;
  gap: 10px;
  align-items: center;
  flex-wrap: wrap;
}
.foot kbd {
  margin-left: 8px;
  background: transparent;
  color: inherit;
}
</style>
