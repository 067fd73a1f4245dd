import { certainLine, describeCertainty, isOverSinceChosen, judgeLot, readAnswer, sentText, type Mark } from '@nemawashi/core'
import { type Inspection, type InspectionLine, type ReadingInput, type SentValue, askedOf, record } from '@nemawashi/contract'
import { computed, onBeforeUnmount, ref, shallowRef, watch } from 'vue'
import { v7 } from 'uuid'
import { asFailure, call, type Failure } from '../../shell/api'
import { plantDay } from '../../shell/plantTime'
import { useMeasureUnits } from '../../composables/useMeasureUnits'
import { benchOutbox, outboxTick, restoreOutbox, storedListeners } from './benchOutbox'
import type { Doubt } from '../entry/doubt'
import { askedPieces, cellKey, cellsOf, marksOfCells, nextOpen, readOn, type Answer, type CellPlace, type Direction } from '../entry/cells'

/** The state of one inspection on the bench: what is stored, what waits, where the cursor is, what is doubted. */
export function useBench(id: string) {
  const inspection = shallowRef<Inspection | null>(null)
  const { known: units, symbolsLike } = useMeasureUnits()
  const failure = ref<Failure | null>(null)
  const message = ref('')
  const doubt = shallowRef<Doubt | null>(null)
  const at = ref<CellPlace>({ line: 0, piece: 1 })
  const direction = ref<Direction>(localStorage.getItem('bench direction') === 'across' ? 'across' : 'down')
  const typed = ref('')
  watch(direction, (value) => localStorage.setItem('bench direction', value))

  const lines = computed(() => inspection.value?.lines ?? [])
  const line = computed(() => lines.value[at.value.line] ?? null)
  const isOpen = computed(() => inspection.value?.state === 'toDo' || inspection.value?.state === 'started')
  const waiting = computed(() => (outboxTick.value, benchOutbox.of(id).filter((reading) => !benchOutbox.ofOthers().includes(reading))))
  /** How many readings of other people wait on this browser, and whether what is typed is kept at all. */
  const ofOthers = computed(() => (outboxTick.value, benchOutbox.ofOthers().length))
  const isKept = computed(() => (outboxTick.value, benchOutbox.isKept))
  const refused = computed(() => waiting.value.filter((reading) => reading.refusal !== null))
  const unsent = computed(() => waiting.value.length - refused.value.length)
  const isUnreachable = computed(() => (outboxTick.value, benchOutbox.isUnreachable))
  const cells = computed(() => cellsOf(lines.value, inspection.value?.readings ?? [], waiting.value, units.value))
  const marks = computed(() => marksOfCells(lines.value, cells.value))
  const finding = computed(() => (isOpen.value || !inspection.value ? judgeLot(marks.value) : inspection.value.finding))
  /** Lines whose result is certain before all of their pieces are answered. */
  const certain = computed(() =>
    isOpen.value
      ? marks.value.flatMap((line) => {
          const known = certainLine(line)
          return known === null ? [] : [{ name: line.name, words: describeCertainty(known) }]
        })
      : [],
  )
  const current = computed<Answer | null>(() => (line.value ? (cells.value.get(cellKey(line.value.id, at.value.piece)) ?? null) : null))

  /** The mark of what is being typed, before it is kept; null while it is no readable value. */
  const liveMark = computed<Mark | null>(() => {
    if (line.value?.kind !== 'measured' || line.value.details.recording === 'summary' || typed.value.trim() === '') return null
    try {
      return readAnswer(askedOf(line.value), withUnit(typed.value), units.value).mark
    } catch {
      return null
    }
  })

  /** Unit that values are typed in, by line; the characteristic's own where none was chosen. */
  const entryUnits = ref<Record<string, string>>({})
  const entryUnit = computed({
    get: () => entryUnits.value[line.value?.id ?? ''] ?? line.value?.unit ?? '',
    set: (unit) => (entryUnits.value = { ...entryUnits.value, [line.value?.id ?? '']: unit }),
  })
  const withUnit = (text: string) => (line.value?.kind === 'measured' && entryUnit.value !== line.value.unit ? `${text} ${entryUnit.value}` : text)
  const unitsOfEntry = computed(() => (line.value?.kind === 'measured' && line.value.unit !== null ? symbolsLike(line.value.unit) : []))
  /** Pieces of the current line that are asked for now. */
  const asked = computed(() => (line.value ? askedPieces(line.value, cells.value) : 0))

  /** The gauge that a line is measured with now, and whether one has to be named first. */
  const gaugeOf = (lineId: string) => inspection.value?.gauges.findLast((use) => use.lineId === lineId) ?? null
  const isWantingGauge = ({ id: lineId }: InspectionLine) => {
    const use = gaugeOf(lineId)
    const isGood = use !== null && !isOverSinceChosen(use, plantDay(new Date()))
    return !isGood && (inspection.value?.wantsGauge.includes(lineId) ?? false)
  }
  const gauge = computed(() => (line.value ? gaugeOf(line.value.id) : null))

  /** Who inspects, where that is another than who types. */
  const inspectedById = ref<string | null>(null)

  const draftKey = `draft ${id}`
  watch([typed, at], () => localStorage.setItem(draftKey, JSON.stringify({ at: at.value, typed: typed.value })), { deep: true })

  async function load(): Promise<void> {
    try {
      inspection.value = await call(record.getInspection, { params: { id } })
    } catch (error) {
      failure.value = asFailure(error)
    }
  }
  async function begin(): Promise<void> {
    const draft = JSON.parse(localStorage.getItem(draftKey) ?? 'null') as { at: CellPlace; typed: string } | null
    await restoreOutbox()
    await load()
    const first = nextOpen(lines.value, cells.value, { line: 0, piece: 0 }, direction.value)
    if (draft?.typed && lines.value[draft.at.line]) {
      at.value = draft.at
      typed.value = draft.typed
    } else if (first) at.value = first
  }
  // Stored readings leave the outbox; the inspection has to hold them before they do, or the cell would blink.
  const keepStored = (inspectionId: string, version: number, readings: readonly ReadingInput[]) => {
    const held = inspection.value
    if (inspectionId !== id || !held) return
    const known = new Map(held.readings.map((reading) => [cellKey(reading.lineId, reading.piece), reading]))
    for (const reading of readings) {
      const question = held.lines.find((entry) => entry.id === reading.lineId)
      if (!question) continue
      const key = cellKey(reading.lineId, reading.piece)
      const before = known.get(key)
      if (before?.id === reading.id) continue
      const corrections = before ? before.corrections + 1 : 0
      known.set(key, {
        id: reading.id,
        lineId: reading.lineId,
        piece: reading.piece,
        ...readOn(question, reading.value, units.value),
        entered: null,
        typedAt: reading.typedAt,
        recordedByName: '',
        inspectedByName: null,
        isSent: reading.sentValueId != null,
        gaugeCode: held.gauges.find(({ gaugeId }) => gaugeId === reading.gaugeId)?.code ?? null,
        corrections,
      })
    }
    inspection.value = { ...held, version, state: 'started', readings: [...known.values()] }
  }
  storedListeners.add(keepStored)
  onBeforeUnmount(() => storedListeners.delete(keepStored))

  function go(place: CellPlace): void {
    at.value = place
    typed.value = ''
    message.value = ''
    doubt.value = null
  }
  function goNext(): void {
    const next = nextOpen(lines.value, cells.value, at.value, direction.value)
    if (next) go(next)
    else typed.value = ''
  }
  /** Keeps answers, and goes on to the next cell where they are kept; a line that wants a gauge takes none before it has one. */
  function put(
    to: InspectionLine,
    answers: readonly { piece: number; value: string | null; sentValueId?: string }[],
    isConfirmedOutside: boolean,
  ): boolean {
    if (isWantingGauge(to) && answers.some(({ value }) => value !== null)) {
      doubt.value = null
      message.value = `Scan or type the gauge of the line first (${to.details.gaugeKind}).`
      return false
    }
    const typedAt = new Date().toISOString()
    const inputs: ReadingInput[] = answers.map(({ piece, value, sentValueId = null }) => ({
      id: v7(),
      lineId: to.id,
      piece,
      value,
      typedAt,
      isConfirmedOutside,
      corrects: cells.value.get(cellKey(to.id, piece))?.id ?? null,
      gaugeId: value === null ? null : (gaugeOf(to.id)?.gaugeId ?? null),
      inspectedById: value === null ? null : inspectedById.value,
      sentValueId,
    }))
    void benchOutbox.add(id, inputs)
    doubt.value = null
    message.value = ''
    return true
  }

  /** Puts what an instrument sent into the open cell, as if it had been typed there; outside the limits it is asked about first. */
  function takeSent(sent: SentValue): boolean {
    const to = line.value
    if (!to || !isOpen.value || doubt.value) return false
    try {
      const text = sentText(sent, { lineUnit: to.unit, gaugeUnit: null })
      const read = readAnswer(askedOf(to), text, units.value)
      const answer = { piece: at.value.piece, value: read.entered ?? read.value, sentValueId: sent.id }
      if (isDoubtful(to, read.mark)) doubt.value = { line: to, values: [answer], all: [answer] }
      else if (put(to, [answer], false)) goNext()
      else return false
      return true
    } catch (error) {
      message.value = `${gauge.value?.code ?? 'The instrument'}: ${error instanceof Error ? error.message : String(error)}`
      return false
    }
  }
  /** Value + Enter: read it, judge it, keep it, go on; outside the limits it is asked about first. */
  function enter(): void {
    const to = line.value
    if (!to || !isOpen.value || doubt.value) return
    if (typed.value.trim() === '') return goNext()
    try {
      const read = readAnswer(askedOf(to), withUnit(typed.value), units.value)
      const answer = { piece: at.value.piece, value: read.entered ?? read.value }
      if (isDoubtful(to, read.mark)) doubt.value = { line: to, values: [answer], all: [answer] }
      else if (put(to, [answer], false)) goNext()
    } catch (error) {
      message.value = error instanceof Error ? error.message : String(error)
    }
  }
  function confirm(): void {
    if (!doubt.value) return
    const last = doubt.value.all.at(-1)
    if (!put(doubt.value.line, doubt.value.all, true)) return
    if (last) at.value = { ...at.value, piece: last.piece }
    goNext()
  }
  function deny(): void {
    doubt.value = null
  }
  /** A value outside the limits is asked about before it is kept; a summary says how many are outside itself. */
  function isDoubtful(to: InspectionLine, mark: Mark): boolean {
    return to.kind === 'measured' && to.details.recording === 'pieces' && mark === 'nonconforming'
  }
  /** One answer of a few, by its key or button, or a whole summary. */
  function answer(text: string): void {
    const to = line.value
    if (!to || !isOpen.value) return
    try {
      if (put(to, [{ piece: at.value.piece, value: readAnswer(askedOf(to), text).value }], to.details.recording === 'summary')) goNext()
    } catch (error) {
      message.value = error instanceof Error ? error.message : String(error)
    }
  }
  /** Pieces of a judged line that nobody has answered yet. */
  const blanks = computed(() => {
    const to = line.value
    if (to?.kind !== 'judged' || to.details.recording === 'summary') return []
    return Array.from({ length: asked.value }, (_, i) => i + 1).filter((piece) => cells.value.get(cellKey(to.id, piece))?.value == null)
  })
  /** Says of every piece of the line that has no answer yet that it conforms. */
  function restConforms(): void {
    const to = line.value
    if (!to || !isOpen.value || blanks.value.length === 0) return
    const { value } = readAnswer(askedOf(to), 'O')
    const answers = blanks.value.map((piece) => ({ piece, value }))
    if (put(to, answers, false)) goNext()
  }
  function withdraw(): void {
    const to = line.value
    if (to && isOpen.value && current.value?.value != null) put(to, [{ piece: at.value.piece, value: null }], false)
  }
  /** A column from a spreadsheet fills down from here; if one value cannot be read, none is taken and it is named. */
  function paste(text: string): void {
    const to = line.value
    if (!to || !isOpen.value) return
    const words = text.split(/\r?\n/).map((word) => word.split('\t')[0]?.trim() ?? '')
    while (words.at(-1) === '') words.pop()
    const room = asked.value - at.value.piece + 1
    if (words.length > room)
      return void (message.value = `${words.length} values were pasted, ${room} cells are left from here down. Nothing was taken.`)
    try {
      const read = words.map((word, i) => {
        try {
          return readAnswer(askedOf(to), withUnit(word), units.value)
        } catch (error) {
          throw new Error(`Piece ${at.value.piece + i}: ${error instanceof Error ? error.message : String(error)}`, { cause: error })
        }
      })
      const all = read.map(({ value, entered }, i) => ({ piece: at.value.piece + i, value: entered ?? value }))
      const outside = all.filter((_, i) => isDoubtful(to, read[i]?.mark ?? 'notJudged'))
      if (outside.length > 0) doubt.value = { line: to, values: outside, all }
      else if (put(to, all, false)) goNext()
    } catch (error) {
      message.value = `${error instanceof Error ? error.message : String(error)} Nothing was taken.`
    }
  }

  return {
    inspection,
    failure,
    message,
    doubt,
    at,
    direction,
    typed,
    lines,
    line,
    isOpen,
    refused,
    unsent,
    isUnreachable,
    ofOthers,
    isKept,
    cells,
    finding,
    certain,
    gauge,
    isWantingGauge,
    inspectedById,
    current,
    liveMark,
    entryUnit,
    unitsOfEntry,
    asked,
    begin,
    load,
    go,
    enter,
    takeSent,
    confirm,
    deny,
    answer,
    withdraw,
    paste,
    blanks,
    restConforms,
  }
}
