/**
 * Acceptance by variables between two limits, where what is nonconforming lies beyond both: the normal probability of the accepted
 * means, averaged over the spread s. Source: MIL-STD-414, sections B and D (criterion); the integral is the definition.
 */
import { normalBelow, normalBeyond } from '../../capability/normal'
import { CoreError } from '../../errors'
import { legendre } from '../../numeric/legendre'
import { acceptedOfFew, acceptedStretch } from './twoLimitRegion'
import { checkVariablesPlan, spreadDensity, variablesAcceptance, type VariablesMethod } from './variablesAcceptance'

/** Share of samples accepted when the limits are `apart` true standard deviations apart and the mean is off their middle. */
type Between = (apart: number, middle: number) => number

const panel = legendre(24)

/** ∫ f over from..to; at the end the integrand may leave like a square root. */
function integral(f: (x: number) => number, from: number, to: number, isRootAtEnd = false): number {
  let sum = 0
  for (let i = 0; i < panel.nodes.length; i++) {
    const t = (1 + (panel.nodes[i] as number)) / 2
    const weight = (panel.weights[i] as number) / 2
    sum += isRootAtEnd ? weight * 2 * t * f(to - (to - from) * t * t) : weight * f(from + (to - from) * t)
  }
  return sum * (to - from)
}

/** Probability that the mean of n readings lies within `offset` of the middle of the limits. */
const meanWithin = (root: number, middle: number, offset: number) =>
  middle === 0 ? 1 - 2 * normalBelow(-root * offset) : normalBelow(root * (middle + offset)) - normalBelow(root * (middle - offset))

/** Distances r of the limits in spreads, the edge at each, and the length of r that it stands for. */
interface EdgePanel {
  readonly apart: Float64Array
  readonly edge: Float64Array
  readonly length: Float64Array
}

/**
 * The edge depends on r = apart/s alone, so it is worked out once at fixed r and serves every quality: the average over s is taken
 * along r. Panels are as long as the spread varies; within each the steps gather at both ends, where the edge may leave like a root.
 */
function byFixedEdges(sampleSize: number, k: number): Between {
  const root = Math.sqrt(sampleSize)
  const { nearest, settled, edge } = acceptedStretch(sampleSize, k, 's')
  const { low, middle: mode, high, density } = spreadDensity(sampleSize)
  const span = settled > nearest ? Math.log(settled / nearest) : 0
  const count = Math.max(2, Math.ceil((span * Math.sqrt(2 * sampleSize)) / 5))
  const border = (i: number) => nearest * Math.exp((span * i) / count)
  const panels = new Map<number, EdgePanel>()
  const panelAt = (index: number): EdgePanel => {
    const known = panels.get(index)
    if (known) return known
    const [from, to] = [border(index), border(index + 1)]
    const steps = Array.from(panel.nodes, (node) => (1 + node) / 2)
    const apart = Float64Array.from(steps, (t) => from + (to - from) * t * t * (3 - 2 * t))
    const made = {
      apart,
      edge: apart.map((r) => edge(r) ?? r / 2),
      length: Float64Array.from(steps, (t, i) => (to - from) * 3 * t * (1 - t) * (panel.weights[i] as number)),
    }
    panels.set(index, made)
    return made
  }
  return (apart, middle) => {
    let sum = 0
    for (let index = 0; index < count && span > 0; index++) {
      if (apart / border(index) < low || apart / border(index + 1) > high) continue
      const at = panelAt(index)
      for (let i = 0; i < at.apart.length; i++) {
        const spread = apart / (at.apart[i] as number)
        if (spread > low && spread < high)
          sum +=
            (((at.length[i] as number) * spread) / (at.apart[i] as number)) *
            density(spread) *
            meanWithin(root, middle, apart / 2 - (at.edge[i] as number) * spread)
      }
    }
    // Spreads so small that only the nearer limit counts.
    const last = Math.min(high, apart / settled)
    const cuts = [low, Math.min(mode, last), last]
    for (let i = 1; i < cuts.length; i++) {
      const [from, to] = [cuts[i - 1] as number, cuts[i] as number]
      if (to > from) sum += integral((spread) => density(spread) * meanWithin(root, middle, apart / 2 - k * spread), from, to)
    }
    return sum
  }
}

/** Two or three readings: the stretches are looked for at every spread. */
function bySearch(sampleSize: 2 | 3, k: number): Between {
  const root = Math.sqrt(sampleSize)
  const { nearest, corners, accepted } = acceptedOfFew(sampleSize, k)
  const { low, middle: mode, high, density } = spreadDensity(sampleSize)
  return (apart, middle) => {
    const acceptedAt = (spread: number) =>
      accepted(apart / spread).reduce((sum, [near, far]) => {
        const inner = apart / 2 - far * spread
        return sum + meanWithin(root, middle, apart / 2 - near * spread) - (inner > 0 ? meanWithin(root, middle, inner) : 0)
      }, 0)
    const last = Math.min(high, apart / nearest)
    const cuts = [low, mode, ...corners.map((corner) => apart / corner), last].filter((cut) => cut >= low && cut <= last).sort((a, b) => a - b)
    let sum = 0
    for (let i = 1; i < cuts.length; i++) {
      const [from, to] = [cuts[i - 1] as number, cuts[i] as number]
      if (to > from) sum += integral((spread) => density(spread) * acceptedAt(spread), from, to, i === cuts.length - 1 && last < high)
    }
    return sum
  }
}

function withSigmaKnown(sampleSize: number, k: number): Between {
  const root = Math.sqrt(sampleSize)
  const { edge } = acceptedStretch(sampleSize, k, 'sigma')
  return (apart, middle) => {
    const nearest = edge(apart)
    return nearest === null ? 0 : meanWithin(root, middle, apart / 2 - nearest)
  }
}

/**
 * Probability of acceptance between two limits, as a function of the fraction nonconforming, of which the given share lies beyond the
 * upper limit. With the share 0 or 1 it is `variablesAcceptance`.
 * Shape: n, k, method, share 0..1 → (p 0..1 → 0..1). Accuracy about 1e-10; with three readings and the s-method 1e-3.
 * @throws {CoreError} as `checkVariablesPlan`, `fraction_invalid` (share); the result: `fraction_invalid`.
 */
export function twoLimitAcceptance(sampleSize: number, k: number, method: VariablesMethod, shareAbove = 0.5): (fraction: number) => number {
  checkVariablesPlan(sampleSize, k, method)
  if (k < 0) {
    throw new CoreError('acceptance_constant_invalid', `Received an acceptance constant k of ${k}. Between two limits it is 0 or more.`, {
      received: k,
      field: 'k',
    })
  }
  if (!(shareAbove >= 0 && shareAbove <= 1)) {
    throw new CoreError('fraction_invalid', `Received ${shareAbove} as the share beyond the upper limit. It lies from 0 to 1.`, {
      received: shareAbove,
    })
  }
  if (shareAbove === 0 || shareAbove === 1) return variablesAcceptance(sampleSize, k, method)
  const between =
    method === 'sigma' ? withSigmaKnown(sampleSize, k) : sampleSize === 2 || sampleSize === 3 ? bySearch(sampleSize, k) : byFixedEdges(sampleSize, k)
  return (fraction) => {
    if (!(fraction >= 0 && fraction <= 1))
      throw new CoreError('fraction_invalid', `Received the fraction ${fraction}. It lies from 0 to 1.`, { received: fraction })
    if (fraction === 0 || fraction === 1) return 1 - fraction
    // Distances from the true mean to the limits, in true standard deviations.
    const [up, down] = [normalBeyond(fraction * shareAbove), normalBeyond(fraction * (1 - shareAbove))]
    return up + down > 0 ? Math.min(1, Math.max(0, between(up + down, (up - down) / 2))) : 0
  }
}
