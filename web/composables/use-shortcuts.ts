import { useEventListener } from '@vueuse/core'
import { isTyping } from './use-pane-gestures'

/** Keys as shown on the sheet, and what they do. */
export interface Shortcut {
  /** As in "Ctrl+Shift+Z", "L", "ArrowUp"; several for the same action. */
  keys: string[]
  label: string
  run(event: KeyboardEvent): void
  /** Left out when this is false. */
  when?: () => boolean
}

/** The event as a name to compare with: modifiers in the order Ctrl, Alt, Shift. Letters are upper case. */
function nameOf(event: KeyboardEvent): string {
  const key = event.key.length === 1 ? event.key.toUpperCase() : event.key
  // "?" and "+" need Shift on many keyboards; there Shift is part of the sign.
  const shift = event.shiftKey && (key.length > 1 || /[A-Z]/.test(key))
  return [
    event.ctrlKey || event.metaKey ? 'Ctrl+' : '',
    event.altKey ? 'Alt+' : '',
    shift ? 'Shift+' : '',
    key,
  ].join('')
}

/** Listens while the component lives. Typing in fields keeps its keys, and open menus theirs. */
export function useShortcuts(shortcuts: () => Shortcut[]): void {
  useEventListener(window, 'keydown', (event: KeyboardEvent) => {
    if (
      isTyping(event.target) ||
      event.defaultPrevented ||
      document.querySelector('.ant-modal-wrap:not([style*="display: none"])')
    )
      return
    const name = nameOf(event)
    const shortcut = shortcuts().find((s) => s.keys.includes(name) && (s.when?.() ?? true))
    if (!shortcut) return
    event.preventDefault()
    shortcut.run(event)
  })
}
