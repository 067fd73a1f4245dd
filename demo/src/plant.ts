import type { AnswerList, CharacteristicDetails, CharacteristicFields, Operation, Part, Partner, Place, Role } from '@nemawashi/contract'

/** The invented maker of climbing and rescue hardware. All names, companies and numbers are made up. */
export const password = 'ridge-line-demo'

export const people: readonly { name: string; initials: string; signInName: string; roles: Role[] }[] = [
  { name: 'Ilse Kovar', initials: 'IK', signInName: 'ilse', roles: ['qualityEngineer'] },
  { name: 'Rosa Lindqvist', initials: 'RL', signInName: 'rosa', roles: ['inspector'] },
  { name: 'Tomek Brandt', initials: 'TB', signInName: 'tomek', roles: ['inspector'] },
  { name: 'Dario Petz', initials: 'DP', signInName: 'dario', roles: ['receivingClerk'] },
  { name: 'Anja Moreau', initials: 'AM', signInName: 'anja', roles: ['qualityManager'] },
  { name: 'Hana Voss', initials: 'HV', signInName: 'hana', roles: ['productionOperator'] },
  { name: 'Jun Okada', initials: 'JO', signInName: 'jun', roles: ['auditor'] },
  { name: 'Mirela Stan', initials: 'MS', signInName: 'mirela', roles: ['administrator'] },
]

export const families = [
  ['BARS', 'Bar stock'],
  ['SPRINGS', 'Springs'],
  ['PINS', 'Pins'],
  ['BEARINGS', 'Bearings and bushings'],
  ['PLATES', 'Side plates'],
  ['COATED', 'Coated bodies'],
  ['PACKING', 'Packing and labels'],
  ['CONNECTORS', 'Connectors'],
  ['PULLEYS', 'Pulleys'],
  ['DESCENDERS', 'Descenders'],
] as const
export type FamilyCode = (typeof families)[number][0]

export const partners: readonly (Pick<Partner, 'code' | 'name' | 'kind'> & { supplies: FamilyCode[] })[] = [
  { code: 'MVM', name: 'Marrow Vale Metals', kind: 'supplier', supplies: ['BARS'] },
  { code: 'HBS', name: 'Hollin Brook Steel', kind: 'supplier', supplies: ['BARS', 'PINS'] },
  { code: 'TFS', name: 'Tarn and Fell Springs', kind: 'supplier', supplies: ['SPRINGS'] },
  { code: 'QUF', name: 'Quillet Fasteners', kind: 'supplier', supplies: ['PINS'] },
  { code: 'GWB', name: 'Greywether Bearings', kind: 'supplier', supplies: ['BEARINGS'] },
  { code: 'EBS', name: 'Elder Bank Stamping', kind: 'supplier', supplies: ['PLATES'] },
  { code: 'BWC', name: 'Birchwater Coatings', kind: 'supplier', supplies: ['COATED'] },
  { code: 'SMP', name: 'Saltmere Packing', kind: 'supplier', supplies: ['PACKING'] },
  { code: 'NFR', name: 'Northfell Rescue', kind: 'customer', supplies: [] },
  { code: 'HMC', name: 'Highmoor Climbing', kind: 'customer', supplies: [] },
]

export const places: readonly Omit<Place, 'id' | 'version'>[] = [
  { code: 'DOCK-1', name: 'Dock 1', purpose: 'dock', countsForPlanning: false },
  { code: 'BAY-1', name: 'Inspection bay 1', purpose: 'inspection', countsForPlanning: false },
  { code: 'BAY-2', name: 'Inspection bay 2', purpose: 'inspection', countsForPlanning: false },
  { code: 'BARSTORE', name: 'Bar store', purpose: 'store', countsForPlanning: true },
  { code: 'RACK-A', name: 'Small parts rack A', purpose: 'store', countsForPlanning: true },
  { code: 'RACK-B', name: 'Body rack B', purpose: 'store', countsForPlanning: true },
  { code: 'CAGE', name: 'Quarantine cage', purpose: 'quarantine', countsForPlanning: false },
  { code: 'SCRAP', name: 'Scrap bins', purpose: 'scrap', countsForPlanning: false },
  { code: 'OUT', name: 'Back with suppliers', purpose: 'outside', countsForPlanning: false },
  { code: 'CUST', name: 'With customers', purpose: 'customer', countsForPlanning: false },
  { code: 'LINE', name: 'On the line', purpose: 'production', countsForPlanning: false },
  { code: 'DOOR', name: 'At the loading door', purpose: 'shipping', countsForPlanning: false },
]

export const operations: readonly Pick<Operation, 'code' | 'name' | 'kind'>[] = [
  { code: 'RCV', name: 'Receiving', kind: 'receiving' },
  { code: 'SAW', name: 'Saw to length', kind: 'production' },
  { code: 'FRG', name: 'Forge', kind: 'production' },
  { code: 'HTR', name: 'Heat treat', kind: 'production' },
  { code: 'MCH', name: 'Machine', kind: 'production' },
  { code: 'AND', name: 'Anodise', kind: 'production' },
  { code: 'ASM', name: 'Assemble, prove', kind: 'production' },
  { code: 'SHP', name: 'Shipping', kind: 'shipping' },
  { code: 'RET', name: 'Back from the customer', kind: 'return' },
]

type PartSeed = readonly [string, string, FamilyCode, Part['unit'], string, string]
const bought = 'RCV ASM'
const made = 'FRG HTR MCH AND ASM SHP RET'
export const parts: readonly PartSeed[] = [
  ['BS-7075-12', 'Bar stock 7075-T6, 12 mm', 'BARS', 'bar', 'BARSTORE', 'RCV SAW FRG'],
  ['BS-7075-14', 'Bar stock 7075-T6, 14 mm', 'BARS', 'bar', 'BARSTORE', 'RCV SAW FRG'],
  ['BS-7075-16', 'Bar stock 7075-T6, 16 mm', 'BARS', 'bar', 'BARSTORE', 'RCV SAW FRG'],
  ['BS-7075-20', 'Bar stock 7075-T6, 20 mm', 'BARS', 'bar', 'BARSTORE', 'RCV SAW FRG'],
  ['BS-STEEL-10', 'Bar stock steel, 10 mm', 'BARS', 'bar', 'BARSTORE', 'RCV SAW FRG'],
  ['SP-31', 'Gate spring', 'SPRINGS', 'piece', 'RACK-A', bought],
  ['SP-32', 'Gate spring, strong', 'SPRINGS', 'piece', 'RACK-A', bought],
  ['SP-40', 'Locking sleeve spring', 'SPRINGS', 'piece', 'RACK-A', bought],
  ['SP-50', 'Twin sleeve spring', 'SPRINGS', 'piece', 'RACK-A', bought],
  ['PN-06', 'Gate pin 6 mm', 'PINS', 'piece', 'RACK-A', bought],
  ['PN-08', 'Pin 8 mm', 'PINS', 'piece', 'RACK-A', bought],
  ['PN-10', 'Axle pin 10 mm', 'PINS', 'piece', 'RACK-A', bought],
  ['BR-08', 'Ball bearing, bore 8 mm', 'BEARINGS', 'piece', 'RACK-A', bought],
  ['BU-10', 'Plain bushing, bore 10 mm', 'BEARINGS', 'piece', 'RACK-A', bought],
  ['SD-18', 'Side plate, small pulley', 'PLATES', 'piece', 'RACK-B', 'RCV AND ASM'],
  ['SD-26', 'Side plate, large pulley', 'PLATES', 'piece', 'RACK-B', 'RCV AND ASM'],
  ['SD-30', 'Side plate, descender', 'PLATES', 'piece', 'RACK-B', 'RCV AND ASM'],
  ['AN-22', 'Anodised body, oval connector', 'COATED', 'piece', 'RACK-B', bought],
  ['AN-24', 'Anodised body, pear connector', 'COATED', 'piece', 'RACK-B', bought],
  ['AN-30', 'Anodised cam, descender', 'COATED', 'piece', 'RACK-B', bought],
  ['LB-01', 'Instruction leaflet', 'PACKING', 'piece', 'RACK-B', 'RCV SHP'],
  ['BX-02', 'Carton for ten connectors', 'PACKING', 'piece', 'RACK-B', 'RCV SHP'],
  ['RC-40', 'Oval connector', 'CONNECTORS', 'piece', 'RACK-B', made],
  ['RC-44', 'Pear connector', 'CONNECTORS', 'piece', 'RACK-B', made],
  ['RC-52', 'Steel connector', 'CONNECTORS', 'piece', 'RACK-B', made],
  ['PL-18', 'Small pulley', 'PULLEYS', 'piece', 'RACK-B', made],
  ['PL-26', 'Large pulley', 'PULLEYS', 'piece', 'RACK-B', made],
  ['DS-10', 'Descender, 10 mm rope', 'DESCENDERS', 'piece', 'RACK-B', made],
  ['DS-12', 'Descender, 12 mm rope', 'DESCENDERS', 'piece', 'RACK-B', made],
]

type Measured = readonly [
  code: string,
  name: string,
  cls: CharacteristicFields['class'],
  nominal: string | null,
  lower: string | null,
  upper: string | null,
  unit: string,
  resolution: string,
  method: string,
  mean: number,
  scatter: number,
]
/** Measured characteristics, each with where its process runs and how it scatters. */
export const measured: readonly Measured[] = [
  ['C-HARD', 'Hardness', 'critical', null, '145', '165', 'HBW', '1', 'Brinell tester, end face, ground', 154.5, 2.4],
  ['C-D12', 'Diameter 12', 'major', '12', '11.9', '12.1', 'mm', '0.01', 'Micrometer, two places at right angles', 12.005, 0.026],
  ['C-D14', 'Diameter 14', 'major', '14', '13.9', '14.1', 'mm', '0.01', 'Micrometer, two places at right angles', 13.992, 0.028],
  ['C-D16', 'Diameter 16', 'major', '16', '15.9', '16.1', 'mm', '0.01', 'Micrometer, two places at right angles', 16.01, 0.027],
  ['C-D20', 'Diameter 20', 'major', '20', '19.88', '20.12', 'mm', '0.01', 'Micrometer, two places at right angles', 20.0, 0.033],
  ['C-FREE', 'Spring free length', 'major', '18.0', '17.7', '18.3', 'mm', '0.1', 'Caliper, unloaded', 18.02, 0.085],
  ['C-FORCE', 'Spring force at 10 mm', 'critical', '5.0', '4.5', '5.5', 'N', '0.1', 'Spring tester, third stroke', 5.02, 0.13],
  ['C-PIND', 'Pin diameter', 'major', null, '5.988', '5.996', 'mm', '0.001', 'Micrometer', 5.992, 0.0012],
  ['C-PINL', 'Pin length', 'minor', '22', '21.9', '22.1', 'mm', '0.01', 'Caliper', 22.01, 0.027],
  ['C-BORE', 'Bore 8', 'major', '8', '7.992', '8', 'mm', '0.001', 'Plug gauge with dial', 7.9962, 0.0012],
  ['C-THICK', 'Plate thickness', 'major', '3', '2.95', '3.05', 'mm', '0.01', 'Micrometer, three places', 3.002, 0.014],
  ['C-HOLE', 'Axle hole', 'major', '8.1', '8.05', '8.15', 'mm', '0.01', 'Caliper', 8.101, 0.013],
  ['C-COAT', 'Coating thickness', 'major', null, '10', '25', 'µm', '1', 'Eddy current, three places', 17.2, 1.9],
  ['C-GATE', 'Gate gap', 'major', '21.4', '21.3', '21.5', 'mm', '0.01', 'Gauge pin, three places along the gate', 21.402, 0.022],
]
type Judged = readonly [code: string, name: string, cls: CharacteristicFields['class'], state: string, nonconforming: number]
export const judged: readonly Judged[] = [
  ['C-CRACK', 'Surface', 'critical', 'No cracks, laps or seams to be seen with a lens', 0.002],
  ['C-HEAT', 'Heat number', 'major', 'Heat number readable and the one on the certificate', 0.002],
  ['C-BURR', 'Burrs', 'minor', 'No burr to be felt without gloves', 0.012],
  ['C-TURN', 'Turns freely', 'major', 'Turns without catching, no sound', 0.003],
  ['C-FLASH', 'Flash', 'minor', 'No flash longer than 5 mm on the outer face', 0.015],
  ['C-COLOUR', 'Colour', 'minor', 'Colour within the two agreed limit samples', 0.004],
  ['C-PRINT', 'Print', 'minor', 'All text readable, right language and issue', 0.004],
  ['C-PROOF', 'Proof load 10 kN', 'critical', 'Holds 10 kN for ten seconds, gate opens freely afterwards', 0],
  ['C-PACK', 'Label, count, certificate', 'major', 'Label, count and certificate agree with the order', 0.004],
  ['C-ISSUE', 'Issue of the drawing', 'major', 'The order asks for the issue of the drawing that is in stock', 0],
  ['C-ENDS', 'Spring ends', 'major', 'Both ends closed and ground, no wire stands out', 0],
  ['C-SEAL', 'Seal', 'major', 'Seal unbroken, its number is the one on the note', 0],
  ['C-PAPER', 'Mill certificate', 'major', 'The certificate came ahead: this melt, this order', 0],
  ['C-DRY', 'Packing', 'minor', 'Packing dry and whole', 0],
  ['C-GATEOPEN', 'Gate opens and locks', 'critical', 'Opens with one finger, closes by itself, locks', 0],
]

/** How to go about it, where that is not plain. */
export const instructions: Readonly<Record<string, string>> = {
  'C-FORCE': '1. Press the spring **three times** to 9 mm and let it go.\n2. Press it to 10 mm and read on the *third* stroke.',
  'C-PIND': 'Measure at **three places** along the pin, away from the groove. The largest counts.',
  'C-LOOK':
    'Hold the body at arm’s length under the lamp and compare with the picture.\n- **even**: no difference over the face\n- **matt patches**, **streaks**: to be seen without turning the body',
}

/** What measured characteristics say beyond their limits. */
export const measuredDetails: Readonly<Record<string, Partial<CharacteristicDetails>>> = {
  'C-HARD': { minutesPerPiece: 4, gaugeKind: 'Brinell tester', adviceOnFailure: 'Keep the whole heat apart; test two more bars from each bundle.' },
  'C-PIND': { typed: '6 g6', minutesPerPiece: 0.6, gaugeKind: 'Precision micrometer' },
  'C-FORCE': { minutesPerPiece: 1.5, gaugeKind: 'Spring tester' },
  'C-COAT': {
    minutesPerPiece: 1,
    gaugeKind: 'Eddy current gauge',
    band: { side: 'inside', width: { kind: 'amount', amount: '1' }, countsAsConforming: true },
  },
}
export const answerLists: readonly Pick<AnswerList, 'code' | 'name' | 'answers'>[] = [
  {
    code: 'AL-LOOK',
    name: 'Look of an anodised surface',
    answers: [
      { code: 'E', words: 'even', verdict: 'conforming', followUpPlanId: null },
      { code: 'M', words: 'matt patches', verdict: 'nonconforming', followUpPlanId: null },
      { code: 'S', words: 'streaks', verdict: 'nonconforming', followUpPlanId: null },
      { code: 'R', words: 'reference piece', verdict: 'neither', followUpPlanId: null },
    ],
  },
]
export const faultCodes = [
  ['PORE', 'Pore or pit'],
  ['SHUT', 'Cold shut'],
  ['LAP', 'Lap'],
  ['BARE', 'Bare edge'],
] as const
export const countUnits = [['CU-BODY', 'marks on a body']] as const
export const reasons = [
  ['R-GAUGE', 'Gauge at calibration', 'skip'],
  ['R-SLIP', 'Slip of the hand', 'correction'],
] as const
/** Characteristics of the other kinds, each with how often an answer is not the first one. */
export const others: readonly {
  code: string
  name: string
  kind: 'coded' | 'counted' | 'noted'
  class: CharacteristicFields['class']
  method: string
  details: Partial<CharacteristicDetails>
  share: number
}[] = [
  {
    code: 'C-LOOK',
    name: 'Anodised surface',
    kind: 'coded',
    class: 'minor',
    method: 'By eye, daylight, arm’s length',
    details: { answers: answerLists[0]?.answers ?? [], minutesPerPiece: 0.3 },
    share: 0.004,
  },
  {
    code: 'C-MARK',
    name: 'Marks',
    kind: 'counted',
    class: 'minor',
    method: 'By eye',
    details: { countUnit: 'marks on a body', faultCodes: ['PORE', 'SHUT', 'LAP', 'BARE'], minutesPerPiece: 0.5 },
    share: 0.03,
  },
  {
    code: 'C-CERT',
    name: 'Coating certificate',
    kind: 'noted',
    class: 'major',
    method: 'Certificate of the coater',
    details: { noteType: 'text', minutesPerPiece: 3 },
    share: 0,
  },
]
