import { balanceForColour } from '../../core/colour/balance'
import { rayThrough } from '../../core/scene/orbit'

interface Spot {
  x: number
  y: number
}

/** What a click in the picture does while something is aimed at: picks the white, focuses, mirrors a panel. */
export function useAiming(size: Readonly<{ width: number; height: number }>) {
  const bench = useBench()
  const stage = useStage()
  const say = useSay()

  /** Takes the mean of a few pixels as what shall be shown neutral. */
  function pickWhite(at: Spot): void {
    const mean = [0, 0, 0]
    let n = 0
    for (let y = -3; y <= 3; y++)
      for (let x = -3; x <= 3; x++) {
        const c = stage.session?.pixelAt(at.x + x, at.y + y)
        if (c) {
          n++
          c.forEach((v, k) => {
            mean[k]! += v
          })
        }
      }
    stage.aiming = null
    if (n && balanceForColour(mean)) stage.white = { picked: mean.map(v => +(v / n).toPrecision(4)) }
    else say.note('That cannot be a white', 'Pick a spot that is lit and not a pure colour.')
  }
  /** What the camera sees at a spot: a batch of the one ray that was cast, and the ray. */
  async function castAt(at: Spot) {
    const g = stage.geometry
    const c = bench.camera
    stage.aiming = null
    if (!g || !c) return undefined
    const { castClosest, createRayBatch } = await import('../../core/trace/cast')
    const batch = createRayBatch(1)
    const ray = rayThrough(c, at.x, at.y, size.width, size.height)
    batch.origin.set(ray.slice(0, 3))
    batch.direction.set(ray.slice(3, 6))
    batch.distance[0] = Infinity
    castClosest(g.hierarchy, batch, 1)
    if (batch.triangle[0]! >= 0) return { g, c, batch, ray }
    say.note('Nothing is there', 'Click a part of the model.')
    return undefined
  }
  /** Moves the panel whose fields are shown to where a spot of the model mirrors it. */
  async function mirrorAt(at: Spot): Promise<void> {
    const found = await castAt(at)
    const i = stage.panelShown
    if (!found || i === null) return
    const { fillPoint } = await import('../../core/scene/fill-point')
    const { POINT, POINT_STRIDE } = await import('../../core/point/slots')
    const { mirroredAt } = await import('../lights/panel-handles')
    const S = new Float64Array(POINT_STRIDE)
    const { g, batch, ray } = found
    fillPoint(g, batch, 0, batch.direction, 0, S)
    const way = ray.slice(3, 6)
    const facing = way.reduce((s, x, k) => s + x * S[POINT.normal + k]!, 0) > 0 ? -1 : 1
    const normal = [0, 1, 2].map(k => S[POINT.normal + k]! * facing)
    bench.changeScene('Mirror a panel at a spot', s => ({
      ...s,
      rigs: s.rigs.map(r =>
        r.name === s.lights
          ? {
              ...r,
              panels: r.panels.map((p, k) =>
                k === i ? mirroredAt(p, [...S.subarray(0, 3)], normal, way, r.turn, stage.middle) : p,
              ),
            }
          : r,
      ),
    }))
  }
  /** Makes sharp what is seen at a spot. */
  async function focusOn(at: Spot): Promise<void> {
    const found = await castAt(at)
    if (!found) return
    const { c, batch, ray } = found
    const f = c.target.map((x, k) => x - c.position[k]!)
    const along =
      f.reduce((s, x, k) => s + x * ray[3 + k]!, 0) / Math.hypot(...f) / Math.hypot(ray[3]!, ray[4]!, ray[5]!)
    stage.setCamera({
      ...c,
      focus: +(batch.distance[0]! * along * Math.hypot(ray[3]!, ray[4]!, ray[5]!)).toPrecision(6),
    })
  }

  /** Does what is aimed at. @returns false where nothing is */
  function aimAt(at: Spot): boolean {
    if (stage.aiming === 'white') pickWhite(at)
    else if (stage.aiming === 'focus') void focusOn(at)
    else if (stage.aiming === 'mirror') void mirrorAt(at)
    else return false
    return true
  }
  return { aimAt }
}
