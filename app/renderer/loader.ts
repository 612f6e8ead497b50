import type { MeshFacts } from '../../core/checks/part-rule'
import type { Lights } from '../../core/light/lights'
import type { Panel, Rig } from '../../core/scene/rig'
import type { Balance } from '../../core/colour/balance'
import type { Picture } from '../../core/formats/pictures/picture'
import type { TextureMap } from '../../core/maps/map'
import type { PieceName } from '../../core/mesh/pieces/names'
import type { Project } from '../../shared/api'
import type { TranslatedMaterial } from '../../core/formats/models/translated'
import type { Linear } from '../../core/judge/difference-map'
import type { Geometry } from '../../core/scene/geometry'
import type { Shaping } from '../../core/shape/shaping'
import type { BuildShare } from '../../core/trace/build-share'
import type { ToWorker } from '../../workers/protocol'

/**
 * What model files hold: parts, each with the number of its material (−1 none), materials as networks, the extent
 * in the file's unit, whether that is known to be a metre, what is missing, lights.
 */
export interface ReadModel {
  parts: { name: string; material: number }[]
  materials: TranslatedMaterial[]
  extent: [number, number, number]
  unitKnown: boolean
  missing: string[]
  lights: Panel[]
}
/** A picture, and how many of its pixels could carry no light. */
export type ReadPicture = Picture & { faulty: number }
/** A file as its name and its bytes. */
export interface NamedBytes {
  name: string
  bytes: Uint8Array
}

/** How a picture is looked at: EV, white balance, and whether what is bright is compressed instead of clipped. */
export interface Look {
  exposure: number
  balance: Balance | null
  neutral: boolean
}

export type LoaderRequest =
  | { kind: 'open'; project: string }
  | { kind: 'files'; files: NamedBytes[] }
  | { kind: 'piece'; name: PieceName }
  | { kind: 'keep'; scale: number }
  | { kind: 'geometry'; hash?: string; hidden: string[]; shapings: ReadonlyMap<string, Shaping> }
  | { kind: 'shapes' }
  | { kind: 'lights'; rig: Rig; picture: Picture | null }
  | { kind: 'picture'; bytes: Uint8Array }
  | { kind: 'map'; bytes: Uint8Array; colorspace: string; of: string; room: number }
  | { kind: 'exr'; width: number; height: number; rgb: Float32Array; attributes: Record<string, string> }
  | { kind: 'difference'; a: Linear; b: Linear; width: number; height: number }
  | { kind: 'png'; width: number; height: number; rgb: Float32Array; look: Look; most: number }

/** What the loader worker sends: an answer, or a hierarchy that others may help to build. */
export type FromLoader = { id: number; value?: unknown; error?: string } | { share: BuildShare }

/**
 * The loader worker, as functions. Each fails with the message of the reader.
 * @param helpers workers that may help it to build hierarchies
 */
export function createLoader(helpers: readonly Worker[]) {
  const worker = new Worker(new URL('../workers/loader.worker.ts', import.meta.url), { type: 'module' })
  const waiting = new Map<number, { resolve(v: unknown): void; reject(e: Error): void }>()
  let next = 0
  worker.onmessage = ({ data }: MessageEvent<FromLoader>) => {
    if ('share' in data) {
      for (const h of helpers) h.postMessage({ kind: 'build', share: data.share } satisfies ToWorker)
      return
    }
    const w = waiting.get(data.id)
    waiting.delete(data.id)
    if (data.error !== undefined) w?.reject(new Error(data.error))
    else w?.resolve(data.value)
  }
  const ask = <T>(r: LoaderRequest): Promise<T> =>
    new Promise((resolve, reject) => {
      waiting.set(next, { resolve: resolve as (v: unknown) => void, reject })
      worker.postMessage({ ...r, id: next++ })
    })
  return {
    /** Fetches a project, and begins to read its model. */
    open: (project: string) => ask<Project>({ kind: 'open', project }),
    /** Reads the model among some files. */
    modelFrom: (files: NamedBytes[]) => ask<ReadModel>({ kind: 'files', files }),
    /** Builds a test piece, as if it had been read. */
    piece: (name: PieceName) => ask<ReadModel>({ kind: 'piece', name }),
    /** Scales the model that was read last to metres. @returns the GLB that keeps it */
    keepModel: (scale: number) => ask<Uint8Array>({ kind: 'keep', scale }),
    /** Geometry of a model without its hidden parts: of an asset, or of the bytes that were read last. */
    geometry: (hidden: string[], hash?: string, shapings: ReadonlyMap<string, Shaping> = new Map()) =>
      ask<Geometry>({ kind: 'geometry', hidden, shapings, ...(hash !== undefined ? { hash } : {}) }),
    /** Lights of a rig with the tables of its sky or picture. */
    lights: (rig: Rig, picture: Picture | null) => ask<Lights>({ kind: 'lights', rig, picture }),
    /** Whether each part of the geometry that was built last closes, by name. */
    /** Whether each part of the geometry that was built last closes, and has coordinates, by name. */
    shapes: () => ask<MeshFacts>({ kind: 'shapes' }),
    picture: (bytes: Uint8Array) => ask<ReadPicture>({ kind: 'picture', bytes }),
    /** A picture as a map. @param room bytes that it may take */
    map: (bytes: Uint8Array, colorspace: string, of: string, room: number) =>
      ask<TextureMap>({ kind: 'map', bytes, colorspace, of, room }),
    exr: (width: number, height: number, rgb: Float32Array, attributes: Record<string, string>) =>
      ask<Uint8Array>({ kind: 'exr', width, height, rgb, attributes }),
    /** Developed PNG, at most `most` pixels on its longer side. */
    png: (width: number, height: number, rgb: Float32Array, look: Look, most = 1e9) =>
      ask<Uint8Array>({ kind: 'png', width, height, rgb, look, most }),
    /** Map of the differences of two pictures in a frame, with the mean and the 95th percentile. */
    difference: (a: Linear, b: Linear, width: number, height: number) =>
      ask<{ bytes: Uint8ClampedArray<ArrayBuffer>; mean: number; p95: number }>({
        kind: 'difference',
        a,
        b,
        width,
        height,
      }),
    stop: () => worker.terminate(),
  }
}
export type Loader = ReturnType<typeof createLoader>
