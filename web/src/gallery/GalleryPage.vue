<template>
  <div class="gallery">
    <h1>Pieces</h1>
    <h2>Mark</h2>
    <p class="row">
      <span v-for="mark in marks" :key="mark" :class="mark"><MarkSign :mark="mark" :size="28" /> {{ mark }}</span>
    </p>
    <h2>Tolerance strip</h2>
    <div class="row">
      <ToleranceStrip v-for="(limits, i) in limitSets" :key="i" :limits="limits" :readings="[{ value: '0.33', mark: 'conforming' }]" />
    </div>
    <ToleranceStrip :limits="limitSets[0]!" :readings="readings" :width="480" :height="28" has-numbers />
    <h2 style="margin-top: 28px">Quantity bar</h2>
    <QuantityBar :balances="balances" unit="bar" :arrived="1200" />
    <h2>Seal</h2>
    <div class="row">
      <SealStamp initials="AM" meaning="returned" :signed-at="now" /><SealStamp initials="RL" meaning="concession" :signed-at="now" :size="96" />
    </div>
    <h2>Reasoning line</h2>
    <ReasoningLine verdict="acceptable" reasoning="32 inspected, 1 nonconforming, Ac 1 → acceptable" />
    <ReasoningLine verdict="notAcceptable" reasoning="32 inspected, 2 nonconforming, Ac 1 → not acceptable" is-large />
    <ReasoningLine verdict="notJudged" reasoning="12 of 32 not answered yet" />
    <h2>Error note</h2>
    <ErrorNote :failure="failure" />
    <h2>Empty state</h2>
    <EmptyState title="Deliveries" text="Nothing has arrived yet. Enter the first delivery." />
  </div>
</template>

<script setup lang="ts">
import type { Limits, Mark } from '@nemawashi/core'
import { Failure } from '../shell/api'
import EmptyState from '../components/EmptyState.vue'
import ErrorNote from '../components/ErrorNote.vue'
import MarkSign from '../components/MarkSign.vue'
import QuantityBar from '../components/QuantityBar.vue'
import ReasoningLine from '../components/ReasoningLine.vue'
import SealStamp from '../components/SealStamp.vue'
import ToleranceStrip from '../components/ToleranceStrip.vue'

/** Every small piece beside each other, for developers: served by the development server only. */
const now = new Date().toISOString()
const marks: Mark[] = ['conforming', 'marginal', 'nonconforming', 'notJudged']
const limitSets: Limits[] = [
  { nominal: '0.35', lower: '0.2', upper: '0.48' },
  { nominal: null, lower: '0.2', upper: null },
  { nominal: null, lower: null, upper: '0.48' },
]
const readings = [
  { value: '0.33', mark: 'conforming' as const },
  { value: '0.46', mark: 'marginal' as const },
  { value: '0.52', mark: 'nonconforming' as const },
]
const balances = [
  { standing: 'onHold' as const, quantity: 300 },
  { standing: 'released' as const, quantity: 500 },
  { standing: 'quarantined' as const, quantity: 240 },
  { standing: 'returned' as const, quantity: 160 },
]
const failure = new Failure(
  'gate_closed',
  'L-000012 may not be put away: Bar stock (I-000014) is still to do.',
  'Finish and decide the named inspections first.',
)
</script>

<style scoped>
.gallery {
  padding: 30px;
  max-width: 800px;
  display: flex;
  flex-direction: column;
  gap: 12px;
}
</style>
