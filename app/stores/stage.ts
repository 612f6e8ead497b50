import equal from 'fast-deep-equal/es6'
import { defineStore } from 'pinia'
import type { MeshFacts } from '../../core/checks/part-rule'
import { imagesOf, type Program } from '../../core/network/compile'
import type { TextureMap } from '../../core/maps/map'
import { bouncesOf } from '../../core/scene/bounces'
import { fieldsFor } from '../../core/world/fields-for'
import { defaultCamera, type Camera } from '../../core/scene/camera'
import type { Geometry } from '../../core/scene/geometry'
import type { Project } from '../../shared/api'
import { coarsely, createCompiled, shapingsByName } from '../renderer/compiled'
import { takeEarly } from '../renderer/early'
import { geometryKeyOf } from '../renderer/geometry-key'
import { hiddenParts } from '../renderer/hidden'
import { createRigLights } from '../renderer/rig-lights'
import { balanceFor, balanceForColour, whiteOfTemperature } from '../../core/colour/balance'
import type { Loader, Look } from '../renderer/loader'
import { pictureStands } from '../renderer/paced'
import { startWorkers } from '../renderer/start-workers'
import type { Region } from '../renderer/region'
import { createSession, type RenderSession } from '../renderer/session'
import type { DrawnReport } from '../renderer/messages'
import { useBench } from './bench'

/** What is shown as neutral: the white of a colour temperature, or a linear colour that was picked. */
export type White = { kelvin: number } | { picked: number[] }

/** Rest of the render between two tiles while another geometry is built, ms. */
const BUILDING = 30

/** The renderer on the bench: keeps workers in step with the bench's state, and what they report. */
export const useStage = defineStore('stage', () => {
  const bench = useBench()
  const session = shallowRef<RenderSession | null>(null)
  let loader: Loader | null = null
  /** What is known of the meshes of the model's parts, once that is known. */
  const meshFacts = shallowRef<MeshFacts>({ closed: new Map(), mapped: new Map(), sizes: new Map() })
  /** How large the part at hand is, as far as that is known. */
  const atHand = computed(() => {
    const size = meshFacts.value.sizes.get(bench.part ?? '')
    return { extent: size?.extent, tile: size?.tile }
  })
  const geometry = shallowRef<Geometry | null>(null)
  const drawn = shallowRef<DrawnReport | null>(null)
  const rates = reactive({ paths: 0, started: 0 })
  const { exposure } = storeToRefs(bench)
  const neutral = ref(false)
  const white = shallowRef<White | null>(null)
  const clipping = ref(false)
  const zones = ref(false)
  const denoise = ref(localStorage.getItem('wavelume-denoise') !== 'off')
  const paused = ref(false)
  const failure = ref('')
  const waiting = ref('')
  /** Whether a change is on its way to the workers. */
  const busy = ref(false)
  /** Whether values are read under the pointer. */
  const probing = ref(false)
  /** Whether the edges of triangles are drawn over the picture. */
  const edges = ref(false)
  /** Share of the picture's paths that the most bounces there may be ended. */
  const ended = ref(0)
  let counted = { epoch: -1, paths: 0, cut: 0 }
  /** Pictures that have arrived: what samples networks asks again. */
  const loaded = ref(0)
  const { picture, map, keepWithin, isMissing } = useAssetPictures(
    () => loader,
    came => {
      loaded.value++
      if (came) void sync()
    },
  )
  const { program, worn: programsOf } = createCompiled()
  let sent: { keys: string; shapes: string[]; geometry: Geometry } | null = null
  let geometryKey = ''
  /** The state that was shown by larger triangles last. */
  let coarseOf: typeof bench.state = null
  let rig = ''
  const lightsOf = createRigLights(picture)
  let windowPaths = 0
  let windowStart = 0

  /** Whether the picture that is to light the model is not there. */
  const environmentMissing = computed(() => {
    const environment = bench.scene?.rigs.find(r => r.name === bench.scene?.lights)?.environment
    return environment?.kind === 'image' && isMissing(environment.asset)
  })

  let early: ReturnType<typeof takeEarly> | null = null
  /** Takes over what was begun for a project; the view starts with it. */
  function open(id: string): Promise<Project> {
    early = takeEarly(id)
    loader = early.loader
    sent = null
    geometryKey = ''
    return early.project
  }

  function start(canvas: HTMLCanvasElement): void {
    session.value = createSession(canvas, early?.workers ?? startWorkers(), {
      stands: pictureStands,
      drawn(r) {
        drawn.value = r
        if (r.passes >= 1) session.value?.passDone(r.epoch)
      },
      counts(paths, cut, epoch) {
        if (epoch !== counted.epoch) counted = { epoch, paths: 0, cut: 0 }
        counted.paths += paths
        counted.cut += cut
        ended.value = counted.cut / counted.paths
        const now = performance.now()
        windowPaths += paths
        if (now - windowStart > 1000) {
          rates.paths = (windowPaths / (now - windowStart)) * 1000
          windowPaths = 0
          windowStart = now
        }
      },
      failed: message => {
        failure.value = message
      },
    })
    look()
  }

  function stop(): void {
    if (session.value) session.value.stop()
    else if (early)
      for (const w of [...early.workers.render, early.workers.display, ...early.workers.denoise]) w.terminate()
    early = null
    loader?.stop()
    session.value = null
    loader = null
    geometry.value = null
    drawn.value = null
  }

  const maps = (p: Program): (TextureMap | null)[] =>
    imagesOf(p).map(({ file, colorspace }) => map(file, colorspace) ?? null)

  let syncing: Promise<void> | null = null
  let again = false
  /** Brings the workers in step with the bench. Calls while one is under way are folded into one more. */
  function sync(): Promise<void> {
    again = true
    busy.value = true
    return (syncing ??= (async () => {
      try {
        while (again) {
          again = false
          await syncOnce()
        }
      } catch (e) {
        failure.value = `The model could not be shown: ${messageOf(e)}`
      } finally {
        syncing = null
        busy.value = false
      }
    })())
  }

  async function syncOnce(): Promise<void> {
    const state = bench.state
    const s = session.value
    const l = loader
    if (!state || !s || !l) return
    const { scene } = state
    const parts = programsOf(state, bench)
    const { programs } = parts
    const keys = Object.keys(state.materials)
    const faults = Object.fromEntries(keys.map((k, i) => [k, programs[i]!.faults]))
    if (!equal(faults, bench.faults)) bench.faults = faults
    const hidden = hiddenParts(scene.parts, bench.partAlone)
    const whole = shapingsByName(scene.parts, hidden, parts, maps)
    const wanted = geometryKeyOf(hidden, whole, scene.model)
    // what is moved otherwise than a moment ago is shown by larger triangles first, as long as edits go on
    const quick = wanted !== geometryKey && geometry.value !== null && whole.size > 0 && coarseOf !== state
    const shapings = quick ? coarsely(whole) : whole
    const key = quick ? geometryKeyOf(hidden, shapings, scene.model) : wanted
    if (quick) {
      coarseOf = state
      again = true
    }
    if (key !== geometryKey) {
      waiting.value = geometry.value ? 'Building the hierarchy' : 'Reading the model'
      s.setRest(geometry.value ? BUILDING : 0, 'shape')
      try {
        geometry.value = await l.geometry(hidden, scene.model, shapings)
      } finally {
        s.setRest(0, 'shape')
      }
      geometryKey = key
    }
    waiting.value = ''
    const g = geometry.value
    if (!g || session.value !== s) return
    const materialOf = Int32Array.from(g.partNames, parts.numberOf)
    const all = programs.map(maps)
    const worn = [...all.flat(), ...[...shapings.values()].flatMap(s => s.maps)]
    keepWithin(new Set(worn.filter(m => m !== null)))
    const shapes = programs.map(
      (p, i) =>
        p.source +
        '\n' +
        imagesOf(p)
          .map(x => x.file + x.colorspace)
          .join() +
        (p.displacement?.source ?? '') +
        (p.straight ? 'straight' : '') +
        all[i]!.map(t => (t ? 1 : 0)).join(''),
    )
    const currentRig = scene.rigs.find(r => r.name === scene.lights) ?? scene.rigs[0]!
    const environment = currentRig.environment
    const rigKey =
      JSON.stringify(currentRig) + (environment.kind === 'image' && picture(environment.asset) !== undefined)
    const wears =
      keys.join('\n') +
      materialOf.join() +
      scene.parts.map(p => p.priority ?? 0).join() +
      `clamp ${scene.clamp ?? 0}`
    const same =
      sent &&
      sent.geometry === g &&
      sent.keys === wears &&
      sent.shapes.length === shapes.length &&
      shapes.every((x, i) => x === sent!.shapes[i])
    if (!bench.camera) bench.camera = defaultCamera(g.hierarchy.bounds, 16, 10)
    if (same) {
      if (rigKey !== rig) {
        rig = rigKey
        const lights = await lightsOf(rigKey, currentRig, l)
        // another rig may have been asked for meanwhile
        if (rig === rigKey) s.setLights(lights)
      } else s.setConstants(programs.map(p => p.constants))
      return
    }
    const newGeometry = sent?.geometry !== g
    sent = { keys: wears, shapes, geometry: g }
    rig = rigKey
    const lights = await lightsOf(rigKey, currentRig, l)
    if (session.value !== s) return
    if (newGeometry) s.setCamera(bench.camera)
    s.setWorld(
      {
        geometry: g,
        lights,
        programs,
        maps: all,
        materialOf,
        priorityOf: Int32Array.from(g.partNames, name => scene.parts.find(p => p.name === name)?.priority ?? 0),
        fields: fieldsFor(g, programs, bytes => new SharedArrayBuffer(bytes)),
        ...bouncesOf(scene),
        clamp: scene.clamp,
      },
      newGeometry,
    )
    rates.started = Date.now()
    // after the picture has begun
    if (newGeometry)
      l.shapes().then(
        s => {
          if (geometry.value === g) meshFacts.value = s
        },
        () => undefined,
      )
  }

  function setCamera(c: Camera): void {
    bench.camera = c
    session.value?.setCamera(c)
  }

  /** Camera that frames a part from where the view looks. */
  function cameraOn(partName: string | null): Camera | null {
    const g = geometry.value
    const c = bench.camera
    if (!g || !c) return null
    const i = g.partNames.indexOf(partName ?? '')
    const b = i >= 0 ? g.partBounds.subarray(i * 6, i * 6 + 6) : g.hierarchy.bounds
    const centre = [0, 1, 2].map(k => (b[k]! + b[k + 3]!) / 2) as [number, number, number]
    const radius = Math.hypot(b[3]! - b[0]!, b[4]! - b[1]!, b[5]! - b[2]!) / 2
    const d = [0, 1, 2].map(k => c.position[k]! - c.target[k]!)
    const l = Math.hypot(...d) || 1
    const distance = radius / Math.sin(Math.atan(0.9 * Math.tan((c.fov * Math.PI) / 360)))
    return {
      ...c,
      target: centre,
      position: centre.map((x, k) => x + (d[k]! / l) * distance) as [number, number, number],
    }
  }

  const shown = () => [bench.state, bench.tap, bench.layerAlone, bench.partAlone] as const
  watch(shown, () => void sync())
  watch(
    shown,
    () => {
      busy.value = true
    },
    { flush: 'sync' },
  )
  /** How pictures are looked at: on the screen, in stills and in what is exported as PNG. */
  /**
   * What of the picture is rendered; null for all of it. The view is not denoised meanwhile: the denoiser needs
   * whole passes.
   */
  const region = shallowRef<Region | null>(null)
  /**
   * What the next drag or click in the picture does besides turning the view: draw a region, pick the white,
   * focus.
   */
  const aiming = ref<'region' | 'white' | 'focus' | 'mirror' | null>(null)
  watch(region, r => {
    session.value?.setRegion(r)
    look()
  })
  /** Name of the panel that lies over the picture, see `components/panels`; null for none. */
  const panel = ref<string | null>(null)
  /** Whether the light rig is open for changes. */
  const lightsOpen = computed(() => panel.value === 'lights')
  /**
   * Number of the panel of the rig whose fields are shown, and where the model's middle is, which panels stand
   * about.
   */
  const panelShown = ref<number | null>(null)
  const middle = computed(() => {
    const b = geometry.value?.hierarchy.bounds
    return b ? [0, 1, 2].map(k => (b[k]! + b[k + 3]!) / 2) : [0, 0, 0]
  })
  /** Number of the light shown alone: a panel, then the environment, then what parts send out. */
  const lightAlone = ref<number | null>(null)
  watch(lightsOpen, on => {
    if (on) session.value?.keepLightsApart()
    else lightAlone.value = null
  })
  watch(lightAlone, light => session.value?.setLightAlone(light))
  watch(
    () => bench.scene?.lights,
    () => {
      lightAlone.value = null
    },
  )
  const lookAt = computed<Look>(() => ({
    exposure: exposure.value,
    neutral: neutral.value,
    balance:
      white.value === null
        ? null
        : 'kelvin' in white.value
          ? balanceFor(whiteOfTemperature(white.value.kelvin))
          : (balanceForColour(white.value.picked) ?? null),
  }))
  const look = () =>
    session.value?.setLook(lookAt.value, clipping.value, zones.value, denoise.value && region.value === null)
  watch([lookAt, clipping, zones, denoise], () => {
    look()
    localStorage.setItem('wavelume-denoise', denoise.value ? 'on' : 'off')
  })

  return {
    session,
    geometry,
    drawn,
    rates,
    loaded,
    probing,
    edges,
    ended,
    exposure,
    neutral,
    white,
    look: lookAt,
    region,
    aiming,
    panel,
    lightsOpen,
    panelShown,
    middle,
    meshFacts,
    atHand,
    lightAlone,
    clipping,
    zones,
    denoise,
    paused,
    failure,
    waiting,
    busy,
    open,
    start,
    stop,
    sync,
    program,
    maps,
    picture,
    isMissing,
    environmentMissing,
    setCamera,
    cameraOn,
    loader: () => loader,
    setPaused(on: boolean) {
      paused.value = on
      session.value?.pause(on)
    },
  }
})
