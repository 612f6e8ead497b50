import type { Model } from '../core/mesh/model'
import { joined, lathe, placed, rounded, tube, type ProfilePoint } from '../core/mesh/build/lathe'

const mm = (points: readonly (readonly [number, number])[]): ProfilePoint[] =>
  points.map(([r, y]) => [r / 1000, y / 1000])

/** Skerry lantern: a hand-held signal lantern of the harbour works, by our own code, in metres. */
export function lanternModel(): Model {
  const S = 192
  const housing = lathe(
    'Housing',
    rounded(
      mm([
        [0, 0],
        [60, 0],
        [60, 4],
        [63, 4],
        [63, 13],
        [60.4, 13],
        [53.4, 62],
        [55.4, 62],
        [55.4, 70],
        [52.4, 70],
        [50, 86],
        [52, 86],
        [52, 94],
        [0, 94],
      ]),
      0.0011,
    ),
    S,
  )
  const bezel = joined('Bezel', [
    lathe(
      '',
      rounded(
        mm([
          [30, 94.05],
          [49, 94.05],
          [49, 98],
          [46, 102],
          [42.5, 102],
          [42.5, 99],
          [30, 99],
          [30, 94.05],
        ]),
        0.0009,
      ),
      S,
    ),
    lathe(
      '',
      rounded(
        mm([
          [0, 146],
          [42, 146],
          [42.5, 149],
          [46, 149],
          [48, 152],
          [46, 157],
          [30, 160],
          [0, 160],
        ]),
        0.0012,
      ),
      S,
    ),
  ])
  const ridges: [number, number][] = []
  for (let i = 0; i < 9; i++) {
    const y = 99.4 + i * 5.1
    ridges.push([38.6, y], [41.4, y + 4.3])
  }
  const lens = lathe(
    'Lens',
    rounded(mm([[34, 99.2], ...ridges, [38.6, 145.6], [34, 145.6], [34, 99.2]]), 0.0004, 3),
    S,
  )
  const reflector = lathe(
    'Reflector',
    rounded(
      mm([
        [0, 99.3],
        [33, 99.3],
        [33, 100.2],
        [20, 100.2],
        [0, 100.2],
      ]),
      0.0003,
    ),
    96,
  )
  const diffuser = lathe(
    'Diffuser',
    rounded(
      mm([
        [0, 100.4],
        [17, 100.4],
        [19, 102],
        [19, 140],
        [15, 144],
        [0, 144.6],
      ]),
      0.0015,
    ),
    96,
  )
  const ring = lathe(
    'Ring',
    Array.from({ length: 25 }, (_, i): ProfilePoint => {
      const a = -Math.PI / 2 + (2 * Math.PI * i) / 24
      return [0.0537 + 0.0026 * Math.cos(a), 0.0742 + 0.0026 * Math.sin(a)]
    }),
    S,
  )
  const chimney = lathe(
    'Chimney',
    rounded(
      mm([
        [14, 160.05],
        [27, 160.05],
        [27, 163],
        [24, 164],
        [17.5, 182],
        [19, 184],
        [19, 187],
        [15.5, 187],
        [14, 184],
        [14, 160.05],
      ]),
      0.0007,
    ),
    S,
  )
  const arc = Array.from({ length: 65 }, (_, i) => {
    const t = i / 64
    const a = Math.PI * t
    return [-0.0445 * Math.cos(a), 0.155 + 0.072 * Math.sin(a) ** 0.75, 0] as const
  })
  const handle = tube('Handle', arc, 0.0032, 24)
  const disc = lathe(
    'Dial',
    rounded(
      mm([
        [0, -4],
        [13, -4],
        [13, 2.2],
        [11.6, 3.4],
        [4.6, 3.4],
        [4.2, 9],
        [0, 9.4],
      ]),
      0.0005,
    ),
    128,
  )
  // the dial sits on the front of the housing, its axis along the slope's normal
  const tilt = Math.atan2(60.4 - 53.4, 62 - 13)
  const s = Math.sin(tilt)
  const c = Math.cos(tilt)
  const dial = placed(disc, [1, 0, 0, 0, s, c, 0, -c, s, 0, 0.037, 0.0572])
  const stage = lathe(
    'Stage',
    [
      [0.9, -0.00002],
      [0, -0.00002],
    ].map(([r, y]) => [r!, y!] as const),
    96,
  )
  return { parts: [housing, bezel, lens, diffuser, ring, chimney, handle, reflector, dial, stage] }
}
