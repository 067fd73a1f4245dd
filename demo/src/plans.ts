import type { PlanLineInput } from '@nemawashi/contract'
import type { AnswerPlace, FrequencyRule, Moment, OnFailure, PointSubject, SamplingRule, WhenConforming } from '@nemawashi/core'
import type { FamilyCode } from './plant'

const scheme = (level: 'S-2' | 'S-3' | 'S-4' | 'I' | 'II', aqlPercent: number): SamplingRule => ({ kind: 'attributesScheme', level, aqlPercent })
type LineSeed = readonly [string, SamplingRule, ('decisive' | 'optional')?]
/** Where a plan hangs: a family or a part, with a partner, at an operation and a moment of it; at receiving where nothing is said. */
export interface PointSeed {
  readonly family?: FamilyCode
  readonly part?: string
  readonly supplier?: string
  readonly bay?: string
  readonly operation?: string
  readonly moment?: Moment
  readonly every?: number
  readonly frequency?: FrequencyRule
  readonly responsible?: string
  readonly dueHours?: number
  readonly isGate?: boolean
  readonly onFailure?: OnFailure
  readonly subject?: PointSubject
  readonly answeredAt?: AnswerPlace
  readonly whenConforming?: WhenConforming
  readonly advice?: string
}
export interface PlanSeed {
  readonly code: string
  readonly name: string
  readonly lines: readonly LineSeed[]
  readonly at: readonly PointSeed[]
}

export const plans: readonly PlanSeed[] = [
  {
    code: 'RP-01',
    name: 'Bar stock, metal and marking',
    lines: [
      ['C-HEAT', { kind: 'fixedNumber', sampleSize: 3, accept: 0 }],
      ['C-HARD', { kind: 'fixedNumber', sampleSize: 5, accept: 0 }, 'decisive'],
      ['C-CRACK', scheme('S-4', 0.65)],
    ],
    at: [{ family: 'BARS', bay: 'BAY-1' }],
  },
  { code: 'RP-12', name: 'Bar diameter 12', lines: [['C-D12', scheme('S-4', 1)]], at: [{ part: 'BS-7075-12', bay: 'BAY-1' }] },
  { code: 'RP-14', name: 'Bar diameter 14', lines: [['C-D14', scheme('S-4', 1)]], at: [{ part: 'BS-7075-14', bay: 'BAY-1' }] },
  { code: 'RP-16', name: 'Bar diameter 16', lines: [['C-D16', scheme('S-4', 1)]], at: [{ part: 'BS-7075-16', bay: 'BAY-1' }] },
  { code: 'RP-20', name: 'Bar diameter 20', lines: [['C-D20', scheme('S-4', 1)]], at: [{ part: 'BS-7075-20', bay: 'BAY-1' }] },
  {
    code: 'RP-31',
    name: 'Springs, length and force',
    lines: [
      ['C-FREE', scheme('S-4', 1.5)],
      ['C-FORCE', scheme('S-3', 0.65)],
      ['C-BURR', { kind: 'percentage', percent: 1, rounding: 'up', accept: 1 }],
    ],
    at: [{ family: 'SPRINGS', bay: 'BAY-2' }],
  },
  {
    code: 'RP-32',
    name: 'Twin springs, ends',
    lines: [['C-ENDS', { kind: 'attributesScheme', level: 'S-3', aqlPercent: 1.5, switching: 'withReduced' }]],
    at: [{ part: 'SP-50', bay: 'BAY-2', responsible: 'Receiving inspection', dueHours: 8 }],
  },
  {
    code: 'LP-10',
    name: 'The load: seal and packing',
    lines: [
      ['C-SEAL', { kind: 'everyPiece', accept: 0 }],
      ['C-DRY', { kind: 'everyPiece', accept: 0 }],
    ],
    at: [{ part: 'SP-50', supplier: 'TFS', bay: 'BAY-2', subject: 'load', responsible: 'Dock', dueHours: 1 }],
  },
  {
    code: 'LP-05',
    name: 'Papers ahead of the bars',
    lines: [['C-PAPER', { kind: 'everyPiece', accept: 0 }]],
    at: [{ family: 'BARS', moment: 'announced', subject: 'load', isGate: false, responsible: 'Purchasing', dueHours: 24 }],
  },
  {
    code: 'LP-20',
    name: 'Bars at the dock: packing dry, seal whole',
    lines: [
      ['C-DRY', { kind: 'everyPiece', accept: 0 }],
      ['C-SEAL', { kind: 'everyPiece', accept: 0 }],
    ],
    at: [{ family: 'BARS', moment: 'registered', subject: 'load', responsible: 'Dock', dueHours: 1 }],
  },
  {
    code: 'RP-41',
    name: 'Pins',
    lines: [
      ['C-PIND', { kind: 'attributesScheme', level: 'S-4', aqlPercent: 1, form: 'double' }],
      ['C-PINL', scheme('S-2', 2.5)],
      ['C-BURR', { kind: 'fixedNumber', sampleSize: 13, accept: 1 }],
    ],
    at: [{ family: 'PINS', bay: 'BAY-2' }],
  },
  {
    code: 'RP-51',
    name: 'Bearings',
    lines: [
      ['C-BORE', { kind: 'variablesScheme', level: 'II', aqlPercent: 1, severity: 'normal' }],
      ['C-TURN', scheme('I', 1)],
    ],
    at: [{ family: 'BEARINGS', bay: 'BAY-2' }],
  },
  {
    code: 'RP-61',
    name: 'Side plates',
    lines: [
      ['C-THICK', scheme('S-4', 1)],
      ['C-HOLE', scheme('S-4', 1)],
      ['C-FLASH', scheme('I', 2.5), 'optional'],
    ],
    at: [{ family: 'PLATES', bay: 'BAY-2' }],
  },
  {
    code: 'RP-71',
    name: 'Coated bodies',
    lines: [
      ['C-COAT', scheme('S-4', 1)],
      ['C-COLOUR', { kind: 'fixedNumber', sampleSize: 8, accept: 0 }],
      ['C-LOOK', { kind: 'squareRoot', accept: 0 }, 'optional'],
      ['C-MARK', { kind: 'attributesScheme', level: 'S-3', aqlPercent: 10, counting: 'nonconformities' }],
      ['C-CERT', { kind: 'fixedNumber', sampleSize: 1, accept: 0 }],
    ],
    at: [{ family: 'COATED', bay: 'BAY-2' }],
  },
  {
    code: 'QP-10',
    name: 'Bushings: bags dry and whole',
    lines: [['C-DRY', { kind: 'everyPiece', accept: 0 }]],
    at: [
      {
        part: 'BU-10',
        subject: 'load',
        answeredAt: 'spot',
        whenConforming: 'free',
        advice: 'Leave the bags at the dock, take a picture and call the supplier',
      },
    ],
  },
  {
    code: 'RP-81',
    name: 'Printed matter',
    lines: [['C-PRINT', { kind: 'fixedNumber', sampleSize: 5, accept: 0 }]],
    at: [{ part: 'LB-01', bay: 'BAY-2' }],
  },
  {
    code: 'RP-02',
    name: 'Steel bars, every bar by eye',
    lines: [['C-CRACK', { kind: 'everyPiece', accept: 0 }]],
    at: [{ part: 'BS-STEEL-10', supplier: 'HBS', bay: 'BAY-1' }],
  },
  {
    code: 'MP-10',
    name: 'Flash and laps',
    lines: [
      ['C-CRACK', { kind: 'fixedNumber', sampleSize: 5, accept: 0 }],
      ['C-FLASH', { kind: 'fixedNumber', sampleSize: 5, accept: 1 }],
    ],
    at: [
      {
        family: 'CONNECTORS',
        operation: 'FRG',
        moment: 'end',
        isGate: false,
        frequency: { kind: 'oneIn', k: 2, fullAfterFailure: 3 },
        responsible: 'Forge',
      },
    ],
  },
  {
    code: 'MP-20',
    name: 'Hardness after ageing',
    lines: [['C-HARD', { kind: 'fixedNumber', sampleSize: 5, accept: 0 }, 'decisive']],
    at: [
      { family: 'CONNECTORS', operation: 'HTR', moment: 'end', responsible: 'Lab', dueHours: 2 },
      { family: 'DESCENDERS', operation: 'HTR', moment: 'end', responsible: 'Lab', dueHours: 2 },
    ],
  },
  {
    code: 'MP-30',
    name: 'First piece, gate gap',
    lines: [['C-GATE', { kind: 'fixedNumber', sampleSize: 3, accept: 0 }]],
    at: [
      { family: 'CONNECTORS', operation: 'MCH', moment: 'start', responsible: 'Machine shop', dueHours: 1 },
      { family: 'CONNECTORS', operation: 'MCH', moment: 'setUp', responsible: 'Machine shop', dueHours: 1 },
    ],
  },
  {
    code: 'MP-35',
    name: 'Gate gap in the run',
    lines: [['C-GATE', { kind: 'fixedNumber', sampleSize: 3, accept: 0 }]],
    at: [
      {
        family: 'CONNECTORS',
        operation: 'MCH',
        moment: 'everyPieces',
        every: 200,
        isGate: false,
        onFailure: 'holdMade',
        responsible: 'Machine shop',
        dueHours: 1,
      },
    ],
  },
  {
    code: 'MP-40',
    name: 'Proof load and gate',
    lines: [
      ['C-PROOF', { kind: 'fixedNumber', sampleSize: 8, accept: 0 }, 'decisive'],
      ['C-GATE', scheme('S-2', 1)],
    ],
    at: [{ family: 'CONNECTORS', operation: 'ASM', moment: 'end', responsible: 'Proof bench', dueHours: 8 }],
  },
  {
    code: 'SP-10',
    name: 'Before it leaves',
    lines: [['C-PACK', { kind: 'fixedNumber', sampleSize: 1, accept: 0 }]],
    at: [{ operation: 'SHP', moment: 'beforeDispatch', responsible: 'Shipping', dueHours: 4 }],
  },
  {
    code: 'XP-10',
    name: 'Returned goods',
    lines: [['C-GATEOPEN', { kind: 'everyPiece', accept: 0 }]],
    at: [{ operation: 'RET', moment: 'arrival', bay: 'BAY-1', responsible: 'Lab', dueHours: 48 }],
  },
]

export function planLine(line: LineSeed, idOf: (code: string) => string): PlanLineInput {
  return {
    characteristicId: idOf(line[0]),
    sampling: line[1],
    isRequired: line[2] !== 'optional',
    isDecisive: line[2] === 'decisive',
    detached: null,
    stage: '',
    instruction: '',
    targets: [],
  }
}
