import { computed } from 'vue'
import { isDark } from '../shell/night'

/** Colours of a chart's words and lines on the sheet that is shown, and how its words are set. */
export function useChartInks() {
  const isNight = isDark(false)
  const inks = computed(() =>
    isNight.value
      ? { words: '#A9B4C2', grid: '#2C3743', pointer: '#8B97A5', sheet: '#1A222C', first: '#9DB8E8', alarm: '#F08A80' }
      : { words: '#5B6675', grid: '#ece7da', pointer: '#8d8a80', sheet: '#FFFDF8', first: '#27497A', alarm: '#B8322A' },
  )
  const words = computed(() => ({ fontFamily: 'Atkinson Hyperlegible Mono Variable', color: inks.value.words, fontSize: 12 }))
  return { inks, words }
}
