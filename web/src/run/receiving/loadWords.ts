import type { LoadFacts } from '@nemawashi/contract'

export const loadFields: readonly { name: keyof LoadFacts; label: string }[] = [
  { name: 'carrier', label: 'Carrier' },
  { name: 'vehicle', label: 'Vehicle' },
  { name: 'driver', label: 'Driver' },
  { name: 'seal', label: 'Seal' },
  { name: 'loadNumber', label: 'Load number' },
]

/** What was written down of a load, in a line; empty where nothing was. */
export function describeLoad({ carrier, vehicle, driver, seal, loadNumber }: LoadFacts): string {
  const named = { '': carrier, vehicle, driver, seal, load: loadNumber }
  return Object.entries(named)
    .flatMap(([name, words]) => (words === '' ? [] : [`${name} ${words}`.trim()]))
    .join(', ')
}
