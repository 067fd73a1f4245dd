import type { Decimal } from './decimal'

/** A unit that something is measured in, as the plant's list has it. */
export interface MeasureUnit {
  readonly symbol: string
  readonly name: string
  /** What it measures; units of the same quantity convert into each other. */
  readonly quantity: string
  /**
   * Value in the unit that the quantity is reckoned in = (value + shift) · factor: a decimal or a fraction of two (`5/9`), exact.
   * Null where nothing converts (hardness).
   */
  readonly factor: string | null
  readonly shift: Decimal | null
}

/**
 * Units that most plants measure in: what a plant's own list begins with. Symbols as in ISO 80000 and, for hardness, ISO 6506, 6507, 6508 and 48-2,
 * 48-4. Factors are exact by definition: the international yard and pound (agreement of 1959), the standard acceleration of free fall and the standard
 * atmosphere (third and tenth CGPM), all as the tables of NIST SP 811, appendix B, print them in bold.
 */
type Row = readonly [symbol: string, name: string, factor: string | null, shift?: string]

/** By what they measure; the first one of each is what the others are reckoned in. */
const byQuantity: Readonly<Record<string, readonly Row[]>> = {
  length: [
    ['mm', 'millimetre', '1'],
    ['nm', 'nanometre', '0.000001'],
    ['µm', 'micrometre', '0.001'],
    ['cm', 'centimetre', '10'],
    ['m', 'metre', '1000'],
    ['km', 'kilometre', '1000000'],
    ['in', 'inch', '25.4'],
    ['mil', 'thousandth of an inch', '0.0254'],
    ['ft', 'foot', '304.8'],
    ['yd', 'yard', '914.4'],
  ],
  angle: [
    ['°', 'degree', '1'],
    ['′', 'minute of arc', '1/60'],
    ['″', 'second of arc', '1/3600'],
    ['gon', 'gon', '0.9'],
  ],
  area: [
    ['mm²', 'square millimetre', '1'],
    ['cm²', 'square centimetre', '100'],
    ['m²', 'square metre', '1000000'],
    ['in²', 'square inch', '645.16'],
    ['ft²', 'square foot', '92903.04'],
  ],
  volume: [
    ['cm³', 'cubic centimetre', '1'],
    ['mm³', 'cubic millimetre', '0.001'],
    ['m³', 'cubic metre', '1000000'],
    ['µL', 'microlitre', '0.001'],
    ['mL', 'millilitre', '1'],
    ['L', 'litre', '1000'],
    ['in³', 'cubic inch', '16.387064'],
    ['gal', 'gallon (US)', '3785.411784'],
  ],
  mass: [
    ['g', 'gram', '1'],
    ['µg', 'microgram', '0.000001'],
    ['mg', 'milligram', '0.001'],
    ['kg', 'kilogram', '1000'],
    ['t', 'tonne', '1000000'],
    ['oz', 'ounce', '28.349523125'],
    ['lb', 'pound', '453.59237'],
  ],
  force: [
    ['N', 'newton', '1'],
    ['mN', 'millinewton', '0.001'],
    ['cN', 'centinewton', '0.01'],
    ['kN', 'kilonewton', '1000'],
    ['MN', 'meganewton', '1000000'],
    ['kgf', 'kilogram-force', '9.80665'],
    ['lbf', 'pound-force', '4.4482216152605'],
  ],
  torque: [
    ['N·m', 'newton metre', '1'],
    ['mN·m', 'millinewton metre', '0.001'],
    ['N·cm', 'newton centimetre', '0.01'],
    ['kN·m', 'kilonewton metre', '1000'],
    ['lbf·ft', 'pound-force foot', '1.3558179483314004'],
    ['lbf·in', 'pound-force inch', '0.1129848290276167'],
  ],
  'spring rate': [
    ['N/mm', 'newton per millimetre', '1'],
    ['N/m', 'newton per metre', '0.001'],
    ['lbf/in', 'pound-force per inch', '4.4482216152605/25.4'],
  ],
  'surface tension': [
    ['mN/m', 'millinewton per metre', '1'],
    ['dyn/cm', 'dyne per centimetre', '1'],
  ],
  'stress, pressure': [
    ['MPa', 'megapascal', '1'],
    ['Pa', 'pascal', '0.000001'],
    ['hPa', 'hectopascal', '0.0001'],
    ['kPa', 'kilopascal', '0.001'],
    ['GPa', 'gigapascal', '1000'],
    ['N/mm²', 'newton per square millimetre', '1'],
    ['mbar', 'millibar', '0.0001'],
    ['bar', 'bar', '0.1'],
    ['atm', 'standard atmosphere', '0.101325'],
    ['Torr', 'torr', '0.101325/760'],
    ['psi', 'pound-force per square inch', '4.4482216152605/645.16'],
    ['ksi', 'thousand pounds-force per square inch', '4448.2216152605/645.16'],
  ],
  'impact strength': [
    ['kJ/m²', 'kilojoule per square metre', '1'],
    ['J/cm²', 'joule per square centimetre', '10'],
  ],
  temperature: [
    ['°C', 'degree Celsius', '1'],
    ['K', 'kelvin', '1', '-273.15'],
    ['°F', 'degree Fahrenheit', '5/9', '-32'],
  ],
  time: [
    ['s', 'second', '1'],
    ['µs', 'microsecond', '0.000001'],
    ['ms', 'millisecond', '0.001'],
    ['min', 'minute', '60'],
    ['h', 'hour', '3600'],
    ['d', 'day', '86400'],
  ],
  frequency: [
    ['Hz', 'hertz', '1'],
    ['kHz', 'kilohertz', '1000'],
    ['MHz', 'megahertz', '1000000'],
    ['GHz', 'gigahertz', '1000000000'],
  ],
  'rotational speed': [
    ['rpm', 'revolutions per minute', '1'],
    ['1/min', 'per minute', '1'],
    ['1/s', 'per second', '60'],
  ],
  speed: [
    ['m/s', 'metre per second', '1'],
    ['mm/s', 'millimetre per second', '0.001'],
    ['mm/min', 'millimetre per minute', '1/60000'],
    ['m/min', 'metre per minute', '1/60'],
    ['km/h', 'kilometre per hour', '5/18'],
    ['ft/min', 'foot per minute', '0.00508'],
  ],
  acceleration: [['m/s²', 'metre per second squared', '1']],
  'flow, volume': [
    ['L/min', 'litre per minute', '1'],
    ['mL/min', 'millilitre per minute', '0.001'],
    ['cm³/min', 'cubic centimetre per minute', '0.001'],
    ['L/s', 'litre per second', '60'],
    ['L/h', 'litre per hour', '1/60'],
    ['m³/h', 'cubic metre per hour', '50/3'],
    ['gal/min', 'gallon (US) per minute', '3.785411784'],
  ],
  'flow, mass': [
    ['kg/h', 'kilogram per hour', '1'],
    ['g/min', 'gram per minute', '0.06'],
    ['kg/min', 'kilogram per minute', '60'],
    ['kg/s', 'kilogram per second', '3600'],
  ],
  'mass per area': [
    ['g/m²', 'gram per square metre', '1'],
    ['mg/cm²', 'milligram per square centimetre', '10'],
    ['kg/m²', 'kilogram per square metre', '1000'],
  ],
  'mass per length': [
    ['g/m', 'gram per metre', '1'],
    ['kg/m', 'kilogram per metre', '1000'],
    ['tex', 'tex', '0.001'],
    ['dtex', 'decitex', '0.0001'],
    ['den', 'denier', '1/9000'],
  ],
  density: [
    ['g/cm³', 'gram per cubic centimetre', '1'],
    ['kg/m³', 'kilogram per cubic metre', '0.001'],
    ['kg/L', 'kilogram per litre', '1'],
  ],
  'mass concentration': [
    ['mg/L', 'milligram per litre', '1'],
    ['µg/L', 'microgram per litre', '0.001'],
    ['g/L', 'gram per litre', '1000'],
    ['mg/mL', 'milligram per millilitre', '1000'],
    ['mg/m³', 'milligram per cubic metre', '0.001'],
    ['µg/m³', 'microgram per cubic metre', '0.000001'],
  ],
  'amount concentration': [
    ['mol/L', 'mole per litre', '1'],
    ['mmol/L', 'millimole per litre', '0.001'],
  ],
  ratio: [
    ['%', 'per cent', '1'],
    ['‰', 'per mille', '0.1'],
    ['ppm', 'parts per million', '0.0001'],
    ['ppb', 'parts per thousand million', '0.0000001'],
  ],
  'viscosity, dynamic': [
    ['mPa·s', 'millipascal second', '1'],
    ['Pa·s', 'pascal second', '1000'],
    ['cP', 'centipoise', '1'],
  ],
  'viscosity, kinematic': [
    ['mm²/s', 'square millimetre per second', '1'],
    ['cSt', 'centistokes', '1'],
    ['m²/s', 'square metre per second', '1000000'],
  ],
  conductivity: [
    ['mS/m', 'millisiemens per metre', '1'],
    ['µS/cm', 'microsiemens per centimetre', '0.1'],
    ['mS/cm', 'millisiemens per centimetre', '100'],
    ['S/m', 'siemens per metre', '1000'],
    ['MS/m', 'megasiemens per metre', '1000000000'],
  ],
  resistance: [
    ['Ω', 'ohm', '1'],
    ['µΩ', 'microohm', '0.000001'],
    ['mΩ', 'milliohm', '0.001'],
    ['kΩ', 'kiloohm', '1000'],
    ['MΩ', 'megaohm', '1000000'],
    ['GΩ', 'gigaohm', '1000000000'],
  ],
  voltage: [
    ['V', 'volt', '1'],
    ['µV', 'microvolt', '0.000001'],
    ['mV', 'millivolt', '0.001'],
    ['kV', 'kilovolt', '1000'],
  ],
  'dielectric strength': [['kV/mm', 'kilovolt per millimetre', '1']],
  current: [
    ['A', 'ampere', '1'],
    ['µA', 'microampere', '0.000001'],
    ['mA', 'milliampere', '0.001'],
    ['kA', 'kiloampere', '1000'],
  ],
  capacitance: [
    ['µF', 'microfarad', '1'],
    ['pF', 'picofarad', '0.000001'],
    ['nF', 'nanofarad', '0.001'],
    ['F', 'farad', '1000000'],
  ],
  inductance: [
    ['H', 'henry', '1'],
    ['µH', 'microhenry', '0.000001'],
    ['mH', 'millihenry', '0.001'],
  ],
  power: [
    ['W', 'watt', '1'],
    ['mW', 'milliwatt', '0.001'],
    ['kW', 'kilowatt', '1000'],
  ],
  energy: [
    ['J', 'joule', '1'],
    ['mJ', 'millijoule', '0.001'],
    ['kJ', 'kilojoule', '1000'],
    ['kW·h', 'kilowatt hour', '3600000'],
  ],
  'thermal conductivity': [['W/(m·K)', 'watt per metre kelvin', '1']],
  'magnetic flux density': [
    ['T', 'tesla', '1'],
    ['mT', 'millitesla', '0.001'],
  ],
  illuminance: [['lx', 'lux', '1']],
  luminance: [['cd/m²', 'candela per square metre', '1']],
  'luminous flux': [['lm', 'lumen', '1']],
  'sound level': [['dB', 'decibel', null]],
  'sound level, A-weighted': [['dB(A)', 'decibel, A-weighted', null]],
  acidity: [['pH', 'pH', null]],
  'acid number': [['mg KOH/g', 'milligram of potassium hydroxide per gram', '1']],
  turbidity: [['NTU', 'nephelometric turbidity unit', null]],
  gloss: [['GU', 'gloss unit', null]],
  'colour difference': [['ΔE', 'colour difference', null]],
  'relative humidity': [['% RH', 'per cent relative humidity', null]],
  'dissolved solids': [['°Bx', 'degree Brix', null]],
  'melt flow rate': [['g/10 min', 'gram in ten minutes', '1']],
  'colony count, volume': [['CFU/mL', 'colony-forming units per millilitre', '1']],
  'colony count, mass': [['CFU/g', 'colony-forming units per gram', '1']],
  'hardness, Brinell': [['HBW', 'Brinell hardness', null]],
  'hardness, Vickers': [['HV', 'Vickers hardness', null]],
  'hardness, Rockwell A': [['HRA', 'Rockwell hardness A', null]],
  'hardness, Rockwell B': [['HRBW', 'Rockwell hardness B', null]],
  'hardness, Rockwell C': [['HRC', 'Rockwell hardness C', null]],
  'hardness, Shore A': [['Shore A', 'Shore hardness A', null]],
  'hardness, Shore D': [['Shore D', 'Shore hardness D', null]],
  'hardness, rubber': [['IRHD', 'international rubber hardness degree', null]],
}

export const usualUnits: readonly MeasureUnit[] = Object.entries(byQuantity).flatMap(([quantity, rows]) =>
  rows.map(([symbol, name, factor, shift = null]) => ({ symbol, name, quantity, factor, shift })),
)
