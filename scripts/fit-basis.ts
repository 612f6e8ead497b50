// Fits the three smooth curves by which an RGB reflectance becomes a spectrum, and writes core/colour/basis.json.
//   node scripts/bundle.mjs scripts/fit-basis.ts
// Method: Mallett & Yuksel 2019, "Spectral Primary Decomposition for Rendering with sRGB Reflectance":
// minimise the squared slopes of r(λ), g(λ), b(λ) subject to 0 ≤ curve ≤ 1, r + g + b = 1, and each curve
// integrating under D65 to its own primary. Solved as a quadratic programme by ADMM (Boyd et al. 2011, §5.2).
import { writeFileSync } from 'node:fs'
import { GRID_SIZE } from '../core/colour/grid'
import { d65, reflectanceScale, xBar, yBar, zBar } from '../core/colour/observer'
import { xyzToRec709, transform } from '../core/colour/rgb'

const STEP = 5
const N = (GRID_SIZE - 1) / STEP + 1
const V = 3 * N

/** Rec.709 response of each 5 nm node, through linear interpolation to the 1 nm grid. */
const response = [0, 1, 2].map(() => new Float64Array(N))
for (let i = 0; i < GRID_SIZE; i++) {
  const rgb = transform(xyzToRec709, [
    xBar[i]! * d65[i]! * reflectanceScale,
    yBar[i]! * d65[i]! * reflectanceScale,
    zBar[i]! * d65[i]! * reflectanceScale,
  ])
  const j = Math.min(N - 2, Math.floor(i / STEP))
  const t = i / STEP - j
  for (let c = 0; c < 3; c++) {
    response[c]![j]! += rgb[c]! * (1 - t)
    response[c]![j + 1]! += rgb[c]! * t
  }
}
const rows: Float64Array[] = []
const rhs: number[] = []
for (let curve = 0; curve < 2; curve++)
  for (let c = 0; c < 3; c++) {
    // the third curve follows from the sum
    const row = new Float64Array(V)
    row.set(response[c]!, curve * N)
    const length = Math.hypot(...row)
    rows.push(row.map(x => x / length))
    rhs.push((curve === c ? 1 : 0) / length)
  }
for (let j = 0; j < N; j++) {
  const row = new Float64Array(V)
  for (let curve = 0; curve < 3; curve++) row[curve * N + j] = 1 / Math.sqrt(3)
  rows.push(row)
  rhs.push(1 / Math.sqrt(3))
}
const M = rows.length
const S = V + M
const RHO = 0.02
const K = Array.from({ length: S }, () => new Float64Array(S + 1))
for (let curve = 0; curve < 3; curve++)
  for (let j = 0; j < N - 1; j++) {
    const a = curve * N + j
    const b = a + 1
    K[a]![a]! += 2
    K[b]![b]! += 2
    K[a]![b]! -= 2
    K[b]![a]! -= 2
  }
for (let v = 0; v < V; v++) K[v]![v]! += RHO
for (let m = 0; m < M; m++) {
  for (let v = 0; v < V; v++) {
    K[V + m]![v] = rows[m]![v]!
    K[v]![V + m] = rows[m]![v]!
  }
}
// Inverse of the KKT matrix by Gauss–Jordan with partial pivoting.
const A = K.map((row, i) => {
  const r = new Float64Array(2 * S)
  r.set(row.subarray(0, S))
  r[S + i] = 1
  return r
})
for (let c = 0; c < S; c++) {
  let p = c
  for (let r = c + 1; r < S; r++) if (Math.abs(A[r]![c]!) > Math.abs(A[p]![c]!)) p = r
  ;[A[c], A[p]] = [A[p]!, A[c]!]
  const inverse = 1 / A[c]![c]!
  for (let k = c; k < 2 * S; k++) A[c]![k]! *= inverse
  for (let r = 0; r < S; r++) {
    const f = A[r]![c]!
    if (r === c || f === 0) continue
    for (let k = c; k < 2 * S; k++) A[r]![k]! -= f * A[c]![k]!
  }
}
const z = new Float64Array(V).fill(1 / 3)
const u = new Float64Array(V)
const x = new Float64Array(V)
let gap = 1
for (let round = 0; round < 60000 && gap > 1e-10; round++) {
  for (let v = 0; v < V; v++) {
    let s = 0
    const row = A[v]!
    for (let k = 0; k < V; k++) s += row[S + k]! * RHO * (z[k]! - u[k]!)
    for (let m = 0; m < M; m++) s += row[S + V + m]! * rhs[m]!
    x[v] = s
  }
  gap = 0
  for (let v = 0; v < V; v++) {
    z[v] = Math.min(1, Math.max(0, x[v]! + u[v]!))
    u[v]! += x[v]! - z[v]!
    gap = Math.max(gap, Math.abs(x[v]! - z[v]!))
  }
}
console.log('largest violation of the bounds', gap)
const curve = (c: number) => Array.from(x.subarray(c * N, c * N + N), v => +Math.min(1, Math.max(0, v)).toFixed(9))
writeFileSync(
  'core/colour/basis.json',
  JSON.stringify({
    source: 'scripts/fit-basis.ts, method of Mallett & Yuksel 2019',
    start: 380,
    step: STEP,
    r: curve(0),
    g: curve(1),
    b: curve(2),
  }),
)
