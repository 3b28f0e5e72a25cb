import { useEventListener } from '@vueuse/core'
import { ref, type Ref } from 'vue'
import type { ScreenPoint } from './use-view'

export interface PaneHandlers {
  pan(dx: number, dy: number): void
  zoom(factor: number, at: ScreenPoint): void
  /** A press that is no pan; return true to receive moves and the release. */
  press(at: ScreenPoint, event: PointerEvent): boolean
  move(at: ScreenPoint, event: PointerEvent): void
  /** `click` is true when the pointer hardly moved since the press. */
  release(at: ScreenPoint, event: PointerEvent, click: boolean): void
  hover(at: ScreenPoint | null, event: PointerEvent): void
}

/** A press that moves less than this is a click, px. */
const CLICK_PX = 4
const WHEEL_STEP = 0.0016

/**
 * Wheel, Space-drag, middle-drag and pinch for panning and zooming, in any tool and in the middle of a stroke;
 * everything else goes to the pane's own handlers.
 */
export function usePaneGestures(element: Ref<HTMLElement | null>, handlers: PaneHandlers) {
  const spaceHeld = ref(false)
  const panning = ref(false)
  const pointers = new Map<number, ScreenPoint>()
  let pressed: { id: number; at: ScreenPoint; moved: boolean } | null = null

  const local = (event: { clientX: number; clientY: number }): ScreenPoint => {
    const box = element.value!.getBoundingClientRect()
    return { sx: event.clientX - box.left, sy: event.clientY - box.top }
  }

  useEventListener(window, 'keydown', (event: KeyboardEvent) => {
    const target = event.target as HTMLElement
    if (
      event.code !== 'Space' ||
      isTyping(target) ||
      target.closest('button, [role="button"], [role="switch"], a')
    )
      return
    spaceHeld.value = true
    event.preventDefault()
  })
  useEventListener(window, 'keyup', (event: KeyboardEvent) => {
    if (event.code === 'Space') spaceHeld.value = false
  })
  useEventListener(window, 'blur', () => (spaceHeld.value = false))

  useEventListener(
    element,
    'wheel',
    (event: WheelEvent) => {
      event.preventDefault()
      const lines = event.deltaMode === 1 ? 30 : 1
      const pinch = event.ctrlKey ? 4 : 1
      handlers.zoom(Math.exp(-event.deltaY * lines * pinch * WHEEL_STEP), local(event))
    },
    { passive: false },
  )

  useEventListener(element, 'pointerdown', (event: PointerEvent) => {
    // A button that lies over the pane is pressed by itself; captured, its click would never come.
    if ((event.target as Element).closest('button, a, input')) return
    const at = local(event)
    pointers.set(event.pointerId, at)
    if (pointers.size === 2) {
      // A second finger: what the first one began becomes a pinch.
      pressed = null
      panning.value = true
    } else if (event.button === 1 || spaceHeld.value) panning.value = true
    else if (event.button === 0 && handlers.press(at, event))
      pressed = { id: event.pointerId, at, moved: false }
    else if (event.button === 0) panning.value = true
    if (panning.value || pressed) {
      element.value!.setPointerCapture(event.pointerId)
      if (event.button === 1) event.preventDefault()
    }
  })

  useEventListener(element, 'pointermove', (event: PointerEvent) => {
    const at = local(event)
    const before = pointers.get(event.pointerId)
    if (before && panning.value) {
      const others = [...pointers].filter(([id]) => id !== event.pointerId).map(([, p]) => p)
      const share = others.length + 1
      handlers.pan((at.sx - before.sx) / share, (at.sy - before.sy) / share)
      const other = others[0]
      if (other) {
        const far = (p: ScreenPoint) => Math.hypot(p.sx - other.sx, p.sy - other.sy)
        if (far(before) > 0)
          handlers.zoom(far(at) / far(before), { sx: (at.sx + other.sx) / 2, sy: (at.sy + other.sy) / 2 })
      }
    } else if (pressed?.id === event.pointerId) {
      pressed.moved ||= Math.hypot(at.sx - pressed.at.sx, at.sy - pressed.at.sy) > CLICK_PX
      if (pressed.moved) handlers.move(at, event)
    }
    if (before) pointers.set(event.pointerId, at)
    handlers.hover(at, event)
  })

  const end = (event: PointerEvent) => {
    pointers.delete(event.pointerId)
    if (pressed?.id === event.pointerId) {
      const click = !pressed.moved && event.type === 'pointerup'
      pressed = null
      handlers.release(local(event), event, click)
    }
    if (pointers.size === 0) panning.value = false
  }
  useEventListener(element, 'pointerup', end)
  useEventListener(element, 'pointercancel', end)
  useEventListener(element, 'pointerleave', (event: PointerEvent) => {
    if (!pointers.has(event.pointerId)) handlers.hover(null, event)
  })

  return { spaceHeld, panning }
}

/** True where keys belong to what is being typed. */
export function isTyping(target: EventTarget | null): boolean {
  const element = target as HTMLElement | null
  return Boolean(
    element?.closest?.('input, textarea, select, [contenteditable="true"], .ant-select-dropdown'),
  )
}
