import type { Named } from '../composables/useRenaming'
import type { LooseWire } from '../words/fits'
import { settleAdded } from '../canvas/settle'
import { defineStore } from 'pinia'
import type { Project, ProjectState } from '../../shared/api'
import { findElement, materialsOf, nameOf, type Element } from '../../core/network/document'
import { EditError } from '../../core/network/edit'
import { thicknessInput } from '../../core/network/thickness'
import { layersOf, type Layer } from '../../core/network/layers'
import type { Fault } from '../../core/network/resolve'
import type { Finding } from '../../core/checks/finding'
import { uniqueName } from '../../core/mesh/model'
import type { Camera } from '../../core/scene/camera'
import type { SceneDocument } from '../../core/scene/document'

/** Whether a button of the pointer is down: a drag is one step, however long it takes. */
let dragging = false
addEventListener(
  'pointerdown',
  () => {
    dragging = true
  },
  true,
)
addEventListener(
  'pointerup',
  () => {
    dragging = false
  },
  true,
)
addEventListener(
  'pointercancel',
  () => {
    dragging = false
  },
  true,
)

/** A number of the network as a property row shows it. */
export interface NumberAt {
  material: string
  node: string
  input: string
  label: string
  value: number
  low: number
  high: number
  quantity: string
  unit: string
  /** Factor to the document's own unit. */ scale: number
}

interface Step {
  label: string
  state: ProjectState
  key?: string
  at: number
  drag?: boolean
}

/**
 * What the bench works on: one project's state, never changed in place. Every edit makes a new state and names a
 * step that can be undone; edits of the same thing in one drag, or in quick succession, are one step.
 */
export const useBench = defineStore('bench', () => {
  const project = shallowRef<{ id: string; name: string; head: number } | null>(null)
  const state = shallowRef<ProjectState | null>(null)
  const saved = shallowRef<ProjectState | null>(null)
  const camera = shallowRef<Camera | null>(null)
  /** EV at which the view shows light. */
  const exposure = ref(0)
  const undone = shallowRef<Step[]>([])
  const done = shallowRef<Step[]>([])
  const part = ref<string | null>(null)
  /** Spine node of the selected layer. */
  const layer = ref<string | null>(null)
  /** Selected node of the network. */
  const node = ref<string | null>(null)
  /** Node whose output is shown on the model instead of the material. */
  const tap = ref<{ material: string; node: string } | null>(null)
  /** Faults of each material, as its last compilation found them. */
  const faults = shallowRef<Record<string, Fault[]>>({})
  const refused = ref('')
  /** What the checks found in the material at hand. */
  const checks = shallowRef<Finding[]>([])
  /** The same for every material that a part wears. */
  const allChecks = shallowRef<{ material: string; finding: Finding }[]>([])
  /** Spine node of the layer that is shown alone. */
  const layerAlone = ref<string | null>(null)
  /** Number under the pointer or in focus: what a test strip is made of. */
  const numberAt = shallowRef<NumberAt | null>(null)
  /** Number of which a test strip is shown. */
  const strip = shallowRef<NumberAt | null>(null)
  /** Nodes that are picked together; what is changed of one is changed of all that have it. */
  const picks = shallowRef<readonly string[]>([])
  /** Further layers that are picked with the one at hand. */
  const layerPicks = shallowRef<readonly string[]>([])
  /** What is given a name where it stands. */
  const renaming = shallowRef<{ kind: Named; of: string } | null>(null)
  /** Wire that was let go over nothing, and waits for a node. */
  const loose = shallowRef<LooseWire | null>(null)
  /** Part that is shown alone. */
  const partAlone = ref<string | null>(null)

  const scene = computed(() => state.value?.scene ?? null)
  const dirty = computed(() => state.value !== saved.value)
  const materialKey = computed(() => scene.value?.parts.find(p => p.name === part.value)?.material ?? null)
  const document = computed(() =>
    materialKey.value !== null ? (state.value?.materials[materialKey.value] ?? null) : null,
  )
  const materialName = computed(() =>
    materialKey.value !== null ? (scene.value?.materials[materialKey.value]?.material ?? undefined) : undefined,
  )
  const layers = steady<Layer[]>(() => (document.value ? layersOf(document.value, materialName.value) : []))
  const selectedLayer = computed(() => layers.value.find(l => l.node === layer.value) ?? null)
  const pickedLayers = computed(() =>
    layers.value.filter(l => l.node === layer.value || layerPicks.value.includes(l.node)),
  )
  /** Nodes whose values are changed together: the picked cards, or what makes the picked layers. */
  const together = computed((): readonly string[] => {
    if (node.value !== null) return picks.value
    const d = document.value
    return d && pickedLayers.value.length > 1
      ? pickedLayers.value.flatMap(l => [l.node, l.surface, thicknessInput(d, l)?.node ?? l.node])
      : []
  })

  function open(p: Project): void {
    project.value = { id: p.id, name: p.name, head: p.head }
    state.value = p.state
    saved.value = p.state
    camera.value = p.state.scene.cameras[0] ?? null
    exposure.value = p.state.scene.exposure
    done.value = []
    undone.value = []
    tap.value = null
    partAlone.value = null
    selectPart(p.state.scene.parts[0]?.name ?? null)
  }

  function selectPart(name: string | null): void {
    part.value = name
    layerPicks.value = []
    renaming.value = null
    layerAlone.value = null
    strip.value = null
    const top = layers.value.at(-1)
    layer.value = (layers.value.filter(l => l.kind !== 'cut').at(-1) ?? top)?.node ?? null
    node.value = null
  }

  /** Makes a new state current. @param key edits with the same key within a second are one step */
  function change(label: string, next: ProjectState, key?: string): void {
    if (!state.value || next === state.value) return
    const last = done.value.at(-1)
    const now = Date.now()
    if (key !== undefined && last?.key === key && ((dragging && last.drag === true) || now - last.at < 1000))
      last.at = now
    else
      done.value = [
        ...done.value.slice(-199),
        { label, state: state.value, at: now, drag: dragging, ...(key !== undefined ? { key } : {}) },
      ]
    undone.value = []
    state.value = next
  }

  const changeScene = (label: string, edit: (s: SceneDocument) => SceneDocument, key?: string) => {
    if (state.value) change(label, { ...state.value, scene: edit(state.value.scene) }, key)
  }

  /** Turns the light rig in use about the vertical. */
  const turnLights = (degrees: number) =>
    changeScene(
      'Turn lights',
      s => ({
        ...s,
        rigs: s.rigs.map(r =>
          r.name === s.lights ? { ...r, turn: (((r.turn + degrees) % 360) + 360) % 360 } : r,
        ),
      }),
      'turn',
    )

  /** Edits a material's document. An edit that cannot be done is refused with its reason, and nothing changes. */
  function edit(
    label: string,
    work: (d: Element) => Element,
    key?: string,
    material = materialKey.value,
  ): boolean {
    refused.value = ''
    const was = material !== null ? state.value?.materials[material] : undefined
    if (!state.value || material === null || !was) return false
    try {
      change(
        label,
        {
          ...state.value,
          materials: { ...state.value.materials, [material]: settleAdded(was, work(was)) },
        },
        key,
      )
      return true
    } catch (e) {
      if (!(e instanceof EditError)) throw e
      refused.value = e.message
      return false
    }
  }

  function step(from: typeof done, to: typeof done): string | undefined {
    const last = from.value.at(-1)
    if (!last || !state.value) return undefined
    from.value = from.value.slice(0, -1)
    to.value = [...to.value, { label: last.label, state: state.value, at: 0 }]
    state.value = last.state
    const d = document.value
    if (d) {
      if (node.value !== null && !findElement(d, node.value)) node.value = null
      if (layer.value !== null && !layers.value.some(l => l.node === layer.value))
        layer.value = layers.value.at(-1)?.node ?? null
    }
    if (
      tap.value &&
      !findElement(
        state.value.materials[tap.value.material] ?? { tag: '', attributes: {}, children: [] },
        tap.value.node,
      )
    )
      tap.value = null
    return last.label
  }

  /** Gives a part another material of the project, or a new one. */
  function assign(name: string, key: string, document?: Element): void {
    if (!state.value) return
    const materials = document ? { ...state.value.materials, [key]: document } : state.value.materials
    change(`Material of ${name}`, {
      materials,
      scene: {
        ...state.value.scene,
        parts: state.value.scene.parts.map(p => (p.name === name ? { ...p, material: key, values: {} } : p)),
      },
    })
    if (part.value === name) selectPart(name)
  }

  /** Gives a part its own value for something its material publishes; undefined takes it back. */
  function setOwnValue(name: string, key: string, value: string | undefined): void {
    changeScene(
      `Own value of ${name}`,
      s => ({
        ...s,
        parts: s.parts.map(p => {
          if (p.name !== name) return p
          const { [key]: _, ...rest } = p.values ?? {}
          const values = value === undefined ? rest : { ...rest, [key]: value }
          return { ...p, values }
        }),
      }),
      `${name}/${key}`,
    )
  }

  /** A material key that is not taken. */
  const freeKey = (wish: string): string =>
    uniqueName(wish.slice(0, 100) || 'Material', new Set(Object.keys(state.value?.materials ?? {})))

  /** Gives a material of the project another name, or a free one like it; all that wears it goes on wearing it. */
  function renameMaterial(key: string, wish: string): void {
    const now = state.value
    if (!now?.materials[key] || !wish.trim() || wish.trim() === key) return
    const to = freeKey(wish.trim())
    const named = <T>(of: Record<string, T>) =>
      Object.fromEntries(Object.entries(of).map(([k, v]) => [k === key ? to : k, v]))
    if (tap.value?.material === key) tap.value = { ...tap.value, material: to }
    change(`Rename ${key} to ${to}`, {
      materials: named(now.materials),
      scene: {
        ...now.scene,
        materials: named(now.scene.materials),
        parts: now.scene.parts.map(p => (p.material === key ? { ...p, material: to } : p)),
      },
    })
  }

  /** State with the live camera and exposure in it, as it is saved. */
  function stateToSave(): ProjectState {
    const s = state.value!
    return {
      ...s,
      scene: {
        ...s.scene,
        exposure: exposure.value,
        cameras: camera.value ? [camera.value, ...s.scene.cameras.slice(1)] : s.scene.cameras,
      },
    }
  }

  const materialNameOf = (key: string): string | undefined => {
    const d = state.value?.materials[key]
    return d && (materialsOf(d)[0] ? nameOf(materialsOf(d)[0]!) : undefined)
  }

  return {
    project,
    state,
    saved,
    camera,
    exposure,
    part,
    layer,
    node,
    tap,
    faults,
    refused,
    checks,
    allChecks,
    layerAlone,
    partAlone,
    loose,
    picks,
    together,
    layerPicks,
    pickedLayers,
    renaming,
    numberAt,
    strip,
    scene,
    dirty,
    materialKey,
    document,
    materialName,
    layers,
    selectedLayer,
    done,
    undone,
    open,
    selectPart,
    change,
    changeScene,
    turnLights,
    edit,
    assign,
    setOwnValue,
    freeKey,
    renameMaterial,
    stateToSave,
    materialNameOf,
    undo: () => step(done, undone),
    redo: () => step(undone, done),
  }
})
