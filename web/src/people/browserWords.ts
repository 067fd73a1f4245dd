/** What a browser calls itself, as far as a person recognises it: `Firefox on Windows`. */
export function browserWords(agent: string): string {
  const first = (pairs: readonly (readonly [RegExp, string])[]) => pairs.find(([pattern]) => pattern.test(agent))?.[1]
  const browser = first([
    [/Edg\//, 'Edge'],
    [/Firefox\//, 'Firefox'],
    [/Chrom(e|ium)\//, 'Chrome'],
    [/Safari\//, 'Safari'],
  ])
  const system = first([
    [/Android/, 'Android'],
    [/iPhone|iPad/, 'iOS'],
    [/Windows/, 'Windows'],
    [/Mac OS/, 'macOS'],
    [/Linux/, 'Linux'],
  ])
  if (!browser && !system) return agent === '' ? 'a program' : agent.slice(0, 40)
  return [browser ?? 'a browser', ...(system ? [`on ${system}`] : [])].join(' ')
}
