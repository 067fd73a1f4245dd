/** Up to four curves told apart by dashes and letters first, and by colour second; `night` is the colour on a dark sheet. */
export const strokes = [
  { letter: 'A', color: '#27497A', night: '#9DB8E8', dash: 'solid' },
  { letter: 'B', color: '#8A5A1F', night: '#E0A95A', dash: [8, 4] },
  { letter: 'C', color: '#3A6B4F', night: '#7CC79B', dash: [2, 3] },
  { letter: 'D', color: '#6A4A86', night: '#C3A3E0', dash: [10, 3, 2, 3] },
] as const

export type Stroke = Omit<(typeof strokes)[number], 'color' | 'night'> & { readonly color: string }

/** The strokes in the colours of the sheet that is shown. */
export function strokesOn(isDark: boolean): readonly Stroke[] {
  return strokes.map(({ night, ...stroke }) => ({ ...stroke, color: isDark ? night : stroke.color }))
}
