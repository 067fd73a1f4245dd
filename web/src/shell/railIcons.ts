/** Words of the rail in the order in which the work is done, each with the strokes of its icon on a 22 × 22 grid. */
export const railWords = [
  { area: 'today', word: 'Today', d: 'M11 3.5a7.5 7.5 0 1 0 0 15a7.5 7.5 0 1 0 0-15M11 6.5V11l3 2' },
  { area: 'define', word: 'Define', d: 'M4 18h14M5 14l9-9 3 3-9 9H5z' },
  {
    area: 'attach',
    word: 'Attach',
    d: 'M3 6h16M6 6v5M11 6v9M16 6v4M6 11a2 2 0 1 0 0 4a2 2 0 1 0 0-4M11 15a2 2 0 1 0 0 4a2 2 0 1 0 0-4M16 10a2 2 0 1 0 0 4a2 2 0 1 0 0-4',
  },
  { area: 'run', word: 'Run', d: 'M3 11h12M11 6l5 5-5 5M19 4v14' },
  { area: 'record', word: 'Record', d: 'M3 15h16M5 15v-4M8 15v-6M11 15v-4M14 15v-6M17 15v-4M11 3.2a1.8 1.8 0 1 0 0 3.6a1.8 1.8 0 1 0 0-3.6' },
  { area: 'contain', word: 'Contain', d: 'M4 8V4h4M18 8V4h-4M4 14v4h4M18 14v4h-4M8.5 8.5l5 5M13.5 8.5l-5 5' },
  {
    area: 'trace',
    word: 'Trace',
    d: 'M11 3v16M11 7h4M11 11H6M11 15h5M17 5.4a1.6 1.6 0 1 0 0 3.2a1.6 1.6 0 1 0 0-3.2M4.5 9.4a1.6 1.6 0 1 0 0 3.2a1.6 1.6 0 1 0 0-3.2M18 13.4a1.6 1.6 0 1 0 0 3.2a1.6 1.6 0 1 0 0-3.2',
  },
  { area: 'equip', word: 'Equip', d: 'M4 4v14M4 6h11M4 9h4v5h4V9M15 4v4M4 18h3M12 11h5' },
] as const
