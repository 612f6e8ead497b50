import { isBackdrop } from '../../core/network/backdrops'
import { findElement } from '../../core/network/document'
import { panels } from '../components/panels'
import type CrossSection from '../components/CrossSection.vue'
import type { useStills } from './useStills'

/** What the actions need of the network's pane, which is fetched later. */
export interface NetworkActions {
  middle(): { x: number; y: number }
  /** Where a point of the page lies, cells. */
  cellsAt(x: number, y: number): { x: number; y: number }
  /** Brings a card into view. */
  show(node: string): void
  pickedWire(): { target: string; input: string } | undefined
  tidyUp(): void
  groupPicked(): void
  ungroupPicked(): void
  openPicked(): void
  /** Adds a note; puts a titled frame about the picked nodes. */
  note(): void
  framePicked(): void
  /** Whether cards or wires are picked. */
  hasPicked(): boolean
  removeSelected(): void
  toggleSelected(): void
  /** Shows all of the network. @param delay until the pane has its size, ms */
  fit(delay: number): Promise<void>
}

/** Panes and dialogs that actions reach. */
export interface BenchPanes {
  cross: Ref<InstanceType<typeof CrossSection> | undefined>
  network: Ref<NetworkActions | undefined>
  large: Ref<'none' | 'view' | 'network'>
  /** Whether a frame is being asked for; whether all keys are shown; whether find-or-add is open. */
  framing: Ref<boolean>
  help: Ref<boolean>
  finding: Ref<boolean>
}

/** Every action of the bench, with the key that it has unless the artist chose another. */
export function useBenchActions(panes: BenchPanes, stills: ReturnType<typeof useStills>) {
  const bench = useBench()
  const stage = useStage()
  const say = useSay()
  const theme = useTheme()

  function toggleTap(): void {
    if (bench.tap) {
      bench.tap = null
      return
    }
    const e = bench.node !== null && bench.document ? findElement(bench.document, bench.node) : undefined
    if (e && !isBackdrop(e) && bench.node !== null && bench.materialKey !== null)
      bench.tap = { material: bench.materialKey, node: bench.node }
    else say.note('Pick a node of the network first', 'E shows its output on the model.')
  }
  function offOrOn(): void {
    const n = bench.node
    const cards = panes.network.value?.hasPicked() && !(n !== null && bench.layers.some(l => l.node === n))
    if (cards) panes.network.value?.toggleSelected()
    else panes.cross.value?.toggleSelected()
  }
  function rename(): void {
    if (bench.node !== null) bench.renaming = { kind: 'node', of: bench.node }
    else if (bench.layer !== null) bench.renaming = { kind: 'layer', of: bench.layer }
  }
  function removeSelected(): void {
    if (panes.network.value?.hasPicked()) {
      panes.network.value.removeSelected()
      return
    }
    panes.cross.value?.removeSelected()
  }
  function nextLights(): void {
    bench.changeScene('Next lights', s => ({
      ...s,
      lights: s.rigs[(s.rigs.findIndex(r => r.name === s.lights) + 1) % s.rigs.length]!.name,
    }))
  }
  /** The picture alone on the whole screen, and back. */
  async function fullScreen(): Promise<void> {
    try {
      await (document.fullscreenElement
        ? document.exitFullscreen()
        : document.querySelector('[data-testid=view]')!.requestFullscreen())
    } catch (e) {
      say.fault('The browser gives no full screen', messageOf(e))
    }
  }
  function testStrip(): void {
    if (bench.strip) bench.strip = null
    else if (bench.numberAt) bench.strip = bench.numberAt
    else say.note('Point at a number of the properties first', 'T shows it in steps.')
  }
  function fit(): void {
    const c = stage.cameraOn(null)
    if (c) stage.setCamera(c)
  }
  const undo = () => {
    const l = bench.undo()
    say.note(l ? `Undone: ${l}` : 'Nothing to undo')
  }
  const redo = () => {
    const l = bench.redo()
    say.note(l ? `Done again: ${l}` : 'Nothing to do again')
  }

  /** Makes the network large and shows all of it, or gives its pane back. */
  function networkLarge(): void {
    panes.large.value = panes.large.value === 'network' ? 'none' : 'network'
    if (panes.large.value === 'network') void panes.network.value?.fit(220)
  }

  return {
    undo,
    redo,
    actions: [
      { name: 'tap', title: 'Tap: show output on the model', key: 'E', run: toggleTap },
      { name: 'keep', title: 'Keep a proof', key: 'K', run: () => void stills.keep() },
      {
        name: 'wipe',
        title: 'Wipe still A against the live picture',
        key: 'W',
        run: stills.toggleWipe,
      },
      {
        name: 'differ',
        title: 'Difference of still A and B or the live picture',
        key: 'X',
        run: () => {
          stills.differ.value = !stills.differ.value
        },
      },
      { name: 'lights', title: 'Next lights', key: 'L', run: nextLights },
      ...Object.entries(panels).map(([name, { action, title, key }]) => ({
        name: action,
        title,
        key,
        run: () => {
          stage.panel = stage.panel === name ? null : name
        },
      })),
      { name: 'off', title: 'Off or on: layer or node', key: 'H', run: offOrOn },
      {
        name: 'alone',
        title: 'Selected layer alone',
        key: 'A',
        run: () => {
          bench.layerAlone = bench.layerAlone === null ? bench.layer : null
        },
      },
      {
        name: 'partAlone',
        title: 'Selected part alone',
        key: 'Shift+A',
        run: () => {
          bench.partAlone = bench.partAlone === null ? bench.part : null
        },
      },
      {
        name: 'double',
        title: 'Double the selected layer',
        key: 'D',
        run: () => panes.cross.value?.doubleSelected(),
      },
      { name: 'fit', title: 'Fit the model into the picture', key: 'F', run: fit },
      { name: 'pause', title: 'Pause the render', key: 'P', run: () => stage.setPaused(!stage.paused) },
      {
        name: 'picture',
        title: 'Picture large',
        key: 'V',
        run: () => {
          panes.large.value = panes.large.value === 'view' ? 'none' : 'view'
        },
      },
      { name: 'network', title: 'Network large', key: 'N', run: networkLarge },
      { name: 'remove', title: 'Remove the selected node or layer', key: 'Delete', run: removeSelected },
      { name: 'tidy', title: 'Tidy the network', key: 'Shift+N', run: () => panes.network.value?.tidyUp() },
      {
        name: 'group',
        title: 'Group the picked nodes',
        key: 'Shift+G',
        run: () => panes.network.value?.groupPicked(),
      },
      {
        name: 'ungroup',
        title: 'Take the picked group apart',
        key: 'Shift+U',
        run: () => panes.network.value?.ungroupPicked(),
      },
      {
        name: 'open',
        title: 'Open the picked group in place, or close it',
        key: 'O',
        run: () => panes.network.value?.openPicked(),
      },
      {
        name: 'rename',
        title: 'Rename what is picked, where it stands',
        key: 'F2',
        run: rename,
      },
      { name: 'note', title: 'Note on the network', key: 'M', run: () => panes.network.value?.note() },
      {
        name: 'frameNodes',
        title: 'Titled frame about the picked nodes',
        key: 'Shift+M',
        run: () => panes.network.value?.framePicked(),
      },
      {
        name: 'denoise',
        title: 'Denoise the view',
        key: 'G',
        run: () => {
          stage.denoise = !stage.denoise
        },
      },
      {
        name: 'zones',
        title: 'Exposure in zones',
        key: 'Z',
        run: () => {
          stage.zones = !stage.zones
        },
      },
      { name: 'full', title: 'Full screen', key: 'Shift+V', run: () => void fullScreen() },
      {
        name: 'region',
        title: 'Render a region, or all of the picture again',
        key: 'R',
        run: () => {
          if (stage.region) stage.region = null
          else stage.aiming = stage.aiming === 'region' ? null : 'region'
        },
      },
      {
        name: 'white',
        title: 'Pick what is shown as white',
        key: 'Shift+W',
        run: () => {
          stage.aiming = stage.aiming === 'white' ? null : 'white'
        },
      },
      {
        name: 'probe',
        title: 'Pixel probe',
        key: 'I',
        run: () => {
          stage.probing = !stage.probing
        },
      },
      {
        name: 'edges',
        title: 'Edges of triangles over the picture',
        key: 'Shift+E',
        run: () => {
          stage.edges = !stage.edges
        },
      },
      { name: 'strip', title: 'Test strip of the number at hand', key: 'T', run: testStrip },
      { name: 'theme', title: 'Next theme: neutral, dim, light', key: 'Shift+T', run: () => theme.next() },
      {
        name: 'frame',
        title: 'Compute a frame of full quality',
        key: 'Shift+F',
        run: () => {
          panes.framing.value = true
        },
      },
      {
        name: 'find',
        title: 'Find or add',
        key: '/',
        run: () => {
          panes.finding.value = true
        },
      },
      {
        name: 'help',
        title: 'All keys',
        key: '?',
        run: () => {
          panes.help.value = !panes.help.value
        },
      },
    ] satisfies Action[],
  }
}
