import { onlyApplicable } from '@nemawashi/core'
import { type ControlPoint, type Flow, type FlowLens, type FlowPoint, type Part, attach, record, sameFacts } from '@nemawashi/contract'
import { computed, ref, watch } from 'vue'
import { call } from '../../shell/api'
import { ask } from '../../shell/ask'
import { notify } from '../../shell/notify'
import { useSession } from '../../shell/session'
import { useUnsaved } from '../../shell/unsaved'
import { dayWords } from '../../format/format'
import type { useSaver } from '../../composables/useSaver'
import { draftOf, newDraft, pointFields, type PointDraft } from './pointDraft'

/** What the control point that is open hangs on: the part, its line, and whether they are seen as its family's. */
interface Here {
  readonly id: () => string | null
  readonly part: () => Part | undefined
  readonly flow: () => Flow | undefined
  readonly lens: () => FlowLens
  readonly loadFlow: () => Promise<void>
  readonly saver: ReturnType<typeof useSaver>
}

/** The control point that is open beside the line: chosen or begun, changed, saved, retired, and held against what somebody else made of it meanwhile. */
export function useDraft({ id, part, flow, lens, loadFlow, saver }: Here) {
  const { isEngineer } = useSession()
  const selected = ref<FlowPoint | null>(null)
  const draft = ref<PointDraft | null>(null)
  const theirs = ref<ControlPoint | null>(null)
  const kindOf = (operationId: string): Flow['stops'][number]['kind'] =>
    flow()?.stops.find((stop) => stop.operationId === operationId)?.kind ?? 'receiving'
  function choose(point: FlowPoint): void {
    saver.clear()
    selected.value = point
    draft.value = draftOf(point)
  }
  function begin(operationId: string, planId: string | null): void {
    const current = part()
    if (!isEngineer || !current) return
    saver.clear()
    selected.value = null
    const made = newDraft(operationId, kindOf(operationId), current.id, planId)
    const familyId = lens() === 'family' ? current.familyId : null
    draft.value = familyId === null ? made : { ...made, partId: null, familyId }
  }
  const isDirty = computed(
    () => draft.value !== null && (selected.value === null ? draft.value.planId !== null : !sameFacts(draftOf(selected.value), draft.value)),
  )
  useUnsaved(
    () => isDirty.value,
    () => (selected.value ? `the control point ${selected.value.code}` : 'the new control point'),
  )
  function close(): void {
    selected.value = draft.value = null
  }
  /** Something else in the place of what is open: what was changed there is not dropped by a slip. */
  async function instead(then: () => void): Promise<void> {
    const which = selected.value ? `The control point ${selected.value.code}` : 'The new control point'
    const question = { title: 'Drop the changes?', text: `${which} is not saved. What was entered is lost.`, yes: 'Drop them' }
    if (!isDirty.value || (await ask(question)) !== null) then()
  }
  async function send(wanted: PointDraft, point: FlowPoint | null, from: string | null): Promise<ControlPoint> {
    const body = { ...onlyApplicable(kindOf(wanted.operationId), wanted), planId: wanted.planId ?? '' }
    if (point === null) return call(attach.createControlPoint, { body })
    const { id: pointId, version } = point
    if (from !== null) return call(attach.replaceControlPoint, { params: { id: pointId }, body: { ...body, version, validFrom: from } })
    return call(attach.updateControlPoint, { params: { id: pointId }, body: { ...body, version } })
  }
  /** The day from which the change that was sent last counts; null: at once. Kept for when it meets another one. */
  let countsFrom: string | null = null
  async function submit(from: string | null): Promise<void> {
    countsFrom = from
    const wanted = draft.value
    if (!wanted) return
    const done = await saver.save(async () => {
      const saved = await send(wanted, selected.value, from)
      await loadFlow()
      close()
      notify(`${saved.code}: ${saved.planName} hangs at ${saved.operationName}${from === null ? '' : ` from ${dayWords(from)}`}.`)
    })
    if (!done && saver.isStale.value && selected.value) {
      await loadFlow()
      theirs.value =
        flow()
          ?.stops.flatMap((stop) => stop.points)
          .find((point) => point.id === selected.value?.id) ?? null
    }
  }
  async function retire(): Promise<void> {
    const point = selected.value
    if (!point) return
    const { rows } = await call(record.listInspections, { query: { state: 'open', q: point.planName, limit: 1 } })
    const answer = await ask({
      title: `Retire ${point.code}?`,
      text: `From now on ${point.planName} is no longer inspected at ${point.operationName} for ${point.partCode ?? (point.familyName === null ? 'any part' : `the family ${point.familyName}`)}${point.supplierName ? ` from ${point.supplierName}` : ''}${point.isGate ? ', and nothing waits for it any longer' : ''}. ${rows.length > 0 ? 'Inspections that are open go on.' : ''}`,
      yes: 'Retire it',
    })
    if (answer === null) return
    await saver.save(async () => {
      await call(attach.retireControlPoint, { params: { id: point.id }, body: { version: point.version } })
      await loadFlow()
      close()
      notify(`${point.code} is retired. Inspections that are open go on.`)
    })
  }
  const compared = computed(() =>
    Object.keys(draft.value ?? {}).map((key) => ({
      label: pointFields[key] ?? key,
      mine: String(draft.value?.[key as keyof PointDraft] ?? ''),
      theirs: String(theirs.value?.[key as keyof PointDraft] ?? ''),
    })),
  )
  async function keepMine(): Promise<void> {
    selected.value = theirs.value as FlowPoint
    theirs.value = null
    await submit(countsFrom)
  }
  function takeTheirs(): void {
    if (theirs.value) choose(theirs.value as FlowPoint)
    theirs.value = null
  }

  watch([id, lens], close)

  return { selected, draft, theirs, compared, kindOf, choose, begin, close, instead, submit, retire, keepMine, takeTheirs }
}
