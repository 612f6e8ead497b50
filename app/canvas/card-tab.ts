import { useHandle, type Position, type useVueFlow } from '@vue-flow/core'
import type { FunctionalComponent, InjectionKey } from 'vue'
import type { Shown } from './cards'

/** What begins and ends wires at the tabs of all cards. */
export interface TabHand {
  pressed(e: MouseEvent | TouchEvent): void
  clicked(e: MouseEvent): void
}
export const TAB_HAND: InjectionKey<TabHand> = Symbol('tabs')

/**
 * One hand for the tabs of all cards: which tab it is stands on the tab. The library's own part keeps a store, a dozen
 * computed values and listeners for each: with 300 cards they were most of what it took to lay a network out.
 */
export function useTabHand(): TabHand {
  const nodeId = ref('')
  const handleId = ref<string | null>(null)
  const type = ref<'source' | 'target'>('source')
  const { handlePointerDown, handleClick } = useHandle({
    nodeId,
    handleId,
    type,
    isValidConnection: toRef(() => null),
  })
  const take = (e: Event) => {
    const tab = e.currentTarget as HTMLElement
    nodeId.value = tab.dataset.nodeid!
    handleId.value = tab.dataset.handleid!
    type.value = tab.classList.contains('target') ? 'target' : 'source'
  }
  return {
    pressed(e) {
      take(e)
      handlePointerDown(e)
    },
    clicked(e) {
      take(e)
      handleClick(e)
    },
  }
}

/** Has the tabs of a part of the canvas measured when their names change; when its size does, the library does it. */
export function useMeasuredTabs(props: Readonly<Shown>): void {
  const { updateNodeInternals } = inject<ReturnType<typeof useVueFlow>>('flow')!
  watch(
    () => [...props.data.inputs, ...props.data.outputs].map(x => x.name).join(),
    () => updateNodeInternals([props.id]),
    { flush: 'post' },
  )
}

/** A tab at the edge of a card, where wires end. Its element is what the library knows as a handle. */
export const CardTab: FunctionalComponent<{
  node: string
  name: string
  type: 'source' | 'target'
  position: Position
  /** Whether a hand can begin or end a wire at it. */
  still?: boolean
}> = ({ node, name, type, position, still }, { slots }) => {
  const hand = inject(TAB_HAND)!
  return h(
    'div',
    {
      'data-id': `network-${node}-${name}-${type}`,
      'data-handleid': name,
      'data-nodeid': node,
      'data-handlepos': position,
      'class': [
        `vue-flow__handle vue-flow__handle-${position} nodrag nopan`,
        type,
        still ? '' : 'connectable connectablestart connectableend connectionindicator',
      ],
      ...(still ? {} : { onMousedown: hand.pressed, onTouchstartPassive: hand.pressed, onClick: hand.clicked }),
    },
    slots.default?.(),
  )
}
CardTab.props = ['node', 'name', 'type', 'position', 'still']
