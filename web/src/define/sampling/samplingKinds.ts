import {
  aqlSeries,
  countings,
  fullAqlSeries,
  inspectionLevels,
  roundings,
  severities,
  stageForms,
  variablesAqlSeries,
  variablesLevels,
  type ContinuousRule,
  type FrequencyRule,
  type SamplingRule,
} from '@nemawashi/core'

/** One number or choice of a rule's form. A share is typed as "of 100" and kept as 0–1. */
export interface RuleField {
  readonly key: string
  readonly label: string
  readonly kind: 'whole' | 'number' | 'share' | 'maybe' | 'choice'
  readonly choices?: readonly (string | number | { title: string; value: unknown })[]
  readonly least?: number
  readonly test?: string
  /** Its words want the whole width. */
  readonly isLong?: boolean
}

const whole = (key: string, label: string, least = 0): RuleField => ({ key, label, kind: 'whole', least })
const number = (key: string, label: string): RuleField => ({ key, label, kind: 'number' })
const share = (key: string, label: string): RuleField => ({ key, label, kind: 'share' })
const choice = (key: string, label: string, choices: RuleField['choices'] = [], test = key): RuleField => ({
  key,
  label,
  kind: 'choice',
  choices,
  test,
})
const accept = whole('accept', 'Acceptance number Ac')
const points: readonly RuleField[] = [
  number('goodPercent', 'Acceptable quality, %'),
  share('producersRisk', "Producer's risk α, %"),
  number('poorPercent', 'Limiting quality, %'),
  share('consumersRisk', "Consumer's risk β, %"),
]
const long = (field: RuleField): RuleField => ({ ...field, isLong: true })
const method = long(
  choice('method', 'Spread', [
    { title: 'from the sample (s)', value: 's' },
    { title: 'known (σ)', value: 'sigma' },
  ]),
)
const sigma: RuleField = { key: 'sigma', label: 'Known standard deviation', kind: 'maybe' }
const countingWords = { nonconforming: 'nonconforming pieces', nonconformities: 'nonconformities' } as const

export type AnyRule = SamplingRule | ContinuousRule
export type RuleKind = AnyRule['kind']

interface KindSpec<K extends RuleKind> {
  readonly title: string
  readonly start: Extract<AnyRule, { kind: K }>
  readonly fields: (rule: Extract<AnyRule, { kind: K }>) => readonly RuleField[]
}
const kind = <K extends RuleKind>(title: string, start: KindSpec<K>['start'], fields: KindSpec<K>['fields']): KindSpec<K> => ({
  title,
  start,
  fields,
})
const twoPoints = { goodPercent: 1, producersRisk: 0.05, poorPercent: 5, consumersRisk: 0.1 }

/** Every way of sampling: its name, the numbers it begins with, and what it asks. The order is that of the list. */
export const ruleKinds: { readonly [K in RuleKind]: KindSpec<K> } = {
  attributesScheme: kind('MIL-STD-105E, attributes', { kind: 'attributesScheme', level: 'II', aqlPercent: 1 }, (rule) => [
    choice('level', 'Level', inspectionLevels),
    choice(
      'aqlPercent',
      rule.counting === 'nonconformities' ? 'AQL, per 100 units' : 'AQL, %',
      rule.counting === 'nonconformities' ? fullAqlSeries : aqlSeries,
      'aql',
    ),
    choice('form', 'Samples', stageForms),
    choice('severity', rule.switching ? 'Begins with inspection' : 'Inspection', severities),
    long(
      choice('switching', 'Switching rules', [
        { title: 'none: stays as it is', value: 'none' },
        { title: 'by history: tightened, stopped', value: 'withoutReduced' },
        { title: 'by history: reduced too', value: 'withReduced' },
      ]),
    ),
    long(
      choice(
        'counting',
        'Counted are',
        countings.map((value) => ({ title: countingWords[value], value })),
      ),
    ),
  ]),
  twoPoints: kind('designed from two points', { kind: 'twoPoints', model: 'series', ...twoPoints }, () => [
    ...points,
    long(
      choice('model', 'Worked out for', [
        { title: 'a long series of lots', value: 'series' },
        { title: 'each lot by its size', value: 'lot' },
        { title: 'nonconformities', value: 'perUnit' },
      ]),
    ),
  ]),
  zeroAcceptance: kind('none accepted, from a limiting quality', { kind: 'zeroAcceptance', limitingPercent: 2, consumersRisk: 0.1 }, () => [
    number('limitingPercent', 'Limiting quality, %'),
    share('consumersRisk', "Consumer's risk β, %"),
  ]),
  variablesScheme: kind('MIL-STD-414, variables', { kind: 'variablesScheme', level: 'IV', aqlPercent: 1, severity: 'normal' }, () => [
    choice('level', 'Level', variablesLevels),
    choice('aqlPercent', 'AQL, %', variablesAqlSeries, 'aql'),
    choice('severity', 'Inspection', ['normal', 'tightened']),
  ]),
  variablesTwoPoints: kind('variables, designed from two points', { kind: 'variablesTwoPoints', method: 's', sigma: null, ...twoPoints }, (rule) => [
    ...points,
    method,
    ...(rule.method === 'sigma' ? [sigma] : []),
  ]),
  variablesPlan: kind('variables, own numbers', { kind: 'variablesPlan', method: 's', sampleSize: 20, k: 1.8, sigma: null }, (rule) => [
    whole('sampleSize', 'Sample size n', 1),
    number('k', 'Acceptability constant k'),
    method,
    ...(rule.method === 'sigma' ? [sigma] : []),
  ]),
  stages: kind(
    'own stages',
    {
      kind: 'stages',
      stages: [
        { sampleSize: 20, accept: 0, reject: 2 },
        { sampleSize: 20, accept: 1, reject: 2 },
      ],
    },
    () => [],
  ),
  fixedNumber: kind('a fixed number', { kind: 'fixedNumber', sampleSize: 5, accept: 0 }, () => [whole('sampleSize', 'Sample size n', 1), accept]),
  percentage: kind('a percentage of the lot', { kind: 'percentage', percent: 10, rounding: 'up', accept: 0 }, () => [
    number('percent', 'Per cent of the lot'),
    choice('rounding', 'Rounded', roundings),
    accept,
  ]),
  squareRoot: kind('square root of the lot plus one', { kind: 'squareRoot', accept: 0 }, () => [accept]),
  positions: kind('first, last and every k-th piece', { kind: 'positions', first: 1, last: 1, every: 50, accept: 0 }, () => [
    whole('first', 'First pieces'),
    { key: 'every', label: 'Every k-th piece, k', kind: 'maybe' },
    whole('last', 'Last pieces'),
    accept,
  ]),
  everyPiece: kind('every piece', { kind: 'everyPiece', accept: 0 }, () => [accept]),
  continuous: kind('continuous sampling of a run (CSP-1)', { kind: 'continuous', clearance: 50, k: 10 }, () => [
    whole('clearance', 'Conforming units in a row before sampling', 1),
    whole('k', 'Then one in', 1),
  ]),
}

/** Shown where a rule does not say: the standard's plain case. */
export const initialRule: Readonly<Record<string, unknown>> = { severity: 'normal', form: 'single', counting: 'nonconforming', switching: 'none' }

export function fieldsOf(rule: AnyRule): readonly RuleField[] {
  return (ruleKinds[rule.kind].fields as (rule: AnyRule) => readonly RuleField[])(rule)
}

type FrequencyKind = FrequencyRule['kind']
/** Every way of choosing arrivals. */
export const frequencyKinds: Readonly<
  Record<FrequencyKind, { readonly title: string; readonly start: FrequencyRule; readonly fields: readonly RuleField[] }>
> = {
  everyArrival: { title: 'every arrival', start: { kind: 'everyArrival' }, fields: [] },
  oneIn: { title: 'one in k arrivals', start: { kind: 'oneIn', k: 5 }, fields: [whole('k', 'One in', 1)] },
  randomShare: {
    title: 'a random share of the arrivals',
    start: { kind: 'randomShare', percent: 20 },
    fields: [number('percent', 'Per cent of the arrivals')],
  },
  oncePer: {
    title: 'once a day, week or month',
    start: { kind: 'oncePer', period: 'week' },
    fields: [choice('period', 'Once a', ['day', 'week', 'month'])],
  },
  oncePerOrder: { title: 'once for an order line', start: { kind: 'oncePerOrder' }, fields: [] },
  perPieces: { title: 'once per number of pieces', start: { kind: 'perPieces', pieces: 5000 }, fields: [whole('pieces', 'Once per pieces', 1)] },
  perHours: { title: 'once per time', start: { kind: 'perHours', hours: 24 }, fields: [number('hours', 'Once per hours')] },
  certificateOnly: {
    title: 'certificate only in good standing',
    start: { kind: 'certificateOnly', clearance: 10 },
    fields: [whole('clearance', 'Accepted in a row before', 1)],
  },
  earnedSkipping: {
    title: 'earned skipping (SkSP-2)',
    start: { kind: 'earnedSkipping', clearance: 8, k: 4 },
    fields: [whole('clearance', 'Accepted in a row before skipping', 1), whole('k', 'Then one in', 1)],
  },
}
