/** Nodes and weights of Gauss–Legendre quadrature on −1..1: Newton's steps on the Legendre polynomial. Shape: count ≥ 1 → two of that length. */
export function legendre(count: number): { readonly nodes: Float64Array; readonly weights: Float64Array } {
  const nodes = new Float64Array(count)
  const weights = new Float64Array(count)
  for (let i = 0; i < count; i++) {
    let x = Math.cos((Math.PI * (i + 0.75)) / (count + 0.5))
    let slope = 1
    for (let step = 0; step < 20; step++) {
      let before = 1
      let value = x
      for (let k = 2; k <= count; k++) [before, value] = [value, ((2 * k - 1) * x * value - (k - 1) * before) / k]
      slope = (count * (x * value - before)) / (x * x - 1)
      const move = value / slope
      x -= move
      if (Math.abs(move) < 1e-16) break
    }
    nodes[i] = x
    weights[i] = 2 / ((1 - x * x) * slope * slope)
  }
  return { nodes, weights }
}
