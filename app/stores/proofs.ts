import { defineStore } from 'pinia'
import type { Proof, ProofEdit } from '../../shared/api'
import { MAP_WHITE } from '../../core/judge/difference-map'
import { developPicture } from '../../core/render/display'
import { linearRec709 } from '../../core/formats/pictures/linear'
import { clampSays } from '../../core/scene/clamp-says'
import { useBench } from './bench'
import { useStage } from './stage'
import { api } from '../composables/api'

/** A still as linear floats. */
export interface Still {
  width: number
  height: number
  rgb: Float32Array
}

/** Stills kept decoded. */
const MOST_STILLS = 4
const AS_IT_CAME = { exposure: 0, balance: null, neutral: false }

/** Kept stills and pinned reference of the open project. */
export const useProofs = defineStore('proofs', () => {
  const bench = useBench()
  const stage = useStage()
  const list = shallowRef<Proof[]>([])
  /** Still A: the one that B shows and the wipe uses. */
  const chosen = ref<string | null>(null)
  /** What stands against it: another still, or null for the live picture. */
  const against = ref<string | null>(null)
  const busy = ref('')
  const stills = new Map<string, Still>()
  /**
   * Keeps a still at hand, and those looked at last: each takes some megabytes, and the rest are read again when
   * they are wanted.
   */
  function remember(id: string, s: Still): Still {
    stills.delete(id)
    stills.set(id, s)
    for (const old of [...stills.keys()].slice(0, -MOST_STILLS)) stills.delete(old)
    return s
  }

  async function open(project: string): Promise<void> {
    list.value = await api.proofs(project)
    chosen.value = list.value[0]?.id ?? null
  }

  /** Keeps the live picture with what made it. */
  async function keep(): Promise<Proof> {
    const picture = stage.session?.picture()
    const loader = stage.loader()
    const project = bench.project
    if (stage.region) throw new Error('A region is rendered: press R to render all of the picture, then keep it.')
    if (!picture || !loader || !project) throw new Error('The first pass is not complete yet.')
    const { width, height, rgb, passes } = picture
    const state = bench.stateToSave()
    const exposure = stage.exposure
    busy.value = 'Keeping a proof'
    try {
      const exr = await loader.exr(width, height, rgb, {
        'wavelume:passes': `1-${passes}`,
        'wavelume:seed': '0',
        'wavelume:exposure': String(exposure),
        'wavelume:clamps': clampSays(state.scene.clamp),
      })
      const png = await loader.png(width, height, rgb, stage.look, 240)
      const proof = await api.keepProof(project.id, {
        kind: 'proof',
        name: `${bench.part ?? ''}: ${bench.materialKey ?? ''}`.slice(0, 120),
        width,
        height,
        picture: await api.putAsset(exr, 'proof.exr'),
        thumbnail: await api.putAsset(png, 'proof.png'),
        settings: { passes, exposure, lights: state.scene.lights, camera: bench.camera, state },
      })
      remember(proof.id, { width, height, rgb })
      list.value = [proof, ...list.value]
      chosen.value = proof.id
      return proof
    } finally {
      busy.value = ''
    }
  }

  /** Pins a picture file as reference. */
  async function pin(file: File): Promise<void> {
    const loader = stage.loader()
    const project = bench.project
    if (!loader || !project) return
    busy.value = 'Reading the reference'
    try {
      const bytes = new Uint8Array(await file.arrayBuffer())
      const still = linearRec709(await loader.picture(bytes))
      const picture = await api.putAsset(bytes, file.name)
      const png = await loader.png(still.width, still.height, still.rgb, AS_IT_CAME, 240)
      const proof = await api.keepProof(project.id, {
        kind: 'reference',
        name: file.name.slice(0, 120),
        width: still.width,
        height: still.height,
        picture,
        thumbnail: await api.putAsset(png, 'reference.png'),
        settings: {},
      })
      remember(proof.id, still)
      list.value = [proof, ...list.value]
      chosen.value = proof.id
    } finally {
      busy.value = ''
    }
  }

  async function still(id: string): Promise<Still | null> {
    const known = stills.get(id)
    if (known) return remember(id, known)
    const proof = list.value.find(p => p.id === id)
    const loader = stage.loader()
    if (!proof || !loader) return null
    return remember(id, linearRec709(await loader.picture(await api.asset(proof.picture))))
  }

  /** Draws still A onto a canvas the size of the view, fitted and centred. */
  async function draw(canvas: HTMLCanvasElement, width: number, height: number): Promise<void> {
    const id = chosen.value
    const s = id !== null ? await still(id) : null
    canvas.width = width
    canvas.height = height
    const context = canvas.getContext('2d')!
    context.fillStyle = '#777777'
    context.fillRect(0, 0, width, height)
    if (!s || id !== chosen.value) return
    const image = new ImageData(s.width, s.height)
    const { exposure, balance, neutral } = seen(s, id)
    developPicture(s.rgb, exposure, image.data, balance, neutral)
    const bitmap = await createImageBitmap(image)
    const k = Math.min(width / s.width, height / s.height)
    context.drawImage(bitmap, (width - s.width * k) / 2, (height - s.height * k) / 2, s.width * k, s.height * k)
  }

  /** A picture with how it is looked at: references are shown as they came. */
  const seen = (s: Still, id: string | null) => ({
    width: s.width,
    height: s.height,
    rgb: s.rgb,
    ...(list.value.find(p => p.id === id)?.kind === 'reference' ? AS_IT_CAME : stage.look),
  })

  /**
   * Draws the map of differences between still A and what stands against it.
   * @returns what is said of it; undefined where one of them is missing
   */
  async function difference(
    canvas: HTMLCanvasElement,
    width: number,
    height: number,
  ): Promise<string | undefined> {
    const loader = stage.loader()
    const a = chosen.value !== null ? await still(chosen.value) : null
    const b = against.value !== null ? await still(against.value) : stage.session?.picture()
    if (!loader || !a || !b) return undefined
    // half the view's size each way: a map is looked over, not read pixel by pixel
    const w = width >> 1
    const h = height >> 1
    const d = await loader.difference(seen(a, chosen.value), seen(b, against.value), w, h)
    canvas.width = w
    canvas.height = h
    canvas.getContext('2d')!.putImageData(new ImageData(d.bytes, w, h), 0, 0)
    return `ΔE00 mean ${d.mean.toFixed(2)}, 95 % below ${d.p95.toFixed(2)}; white is ${MAP_WHITE}`
  }

  async function edit(id: string, change: ProofEdit): Promise<void> {
    if (!bench.project) return
    const changed = await api.editProof(bench.project.id, id, change)
    list.value = list.value.map(p => (p.id === id ? changed : p))
  }

  /** A kept picture as a file: floats as they were kept, or developed at the present exposure. */
  async function file(id: string, as: 'exr' | 'png'): Promise<Uint8Array> {
    const proof = list.value.find(p => p.id === id)
    const loader = stage.loader()
    const s = await still(id)
    if (!proof || !loader || !s) throw new Error('The picture is not there.')
    return as === 'exr' ? await api.asset(proof.picture) : await loader.png(s.width, s.height, s.rgb, stage.look)
  }

  async function remove(id: string): Promise<void> {
    if (!bench.project) return
    await api.removeProof(bench.project.id, id)
    list.value = list.value.filter(p => p.id !== id)
    if (against.value === id) against.value = null
    if (chosen.value === id) chosen.value = list.value[0]?.id ?? null
  }

  return { list, chosen, against, busy, open, keep, pin, draw, difference, edit, file, remove }
})
