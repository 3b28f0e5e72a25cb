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

/** Keys with which a choice is made in a control that has the focus. */
const CHOOSING = new Set(['ArrowUp', 'ArrowDown', 'ArrowLeft', 'ArrowRight', ' ', 'Enter', 'Home', 'End', 'PageUp', 'PageDown']) // prettier-ignore

/** Whether a control keeps a key for itself: a field all of them, a list its letters, anything else those that choose. */
function keepsKey(event: KeyboardEvent): boolean {
  if (!isTyping(event.target)) return false
  const control = (event.target as HTMLElement).closest('input, select')
  const isList = control instanceof HTMLSelectElement
  const isSwitch =
    control instanceof HTMLInputElement && ['radio', 'checkbox', 'range'].includes(control.type)
  if (!isList && !isSwitch) return true
  const isPlain = !event.ctrlKey && !event.metaKey && !event.altKey
  return isPlain && (CHOOSING.has(event.key) || (isList && event.key.length === 1))
}

/** Listens while the component lives. Typing in fields keeps its keys, and open menus theirs. */
export function useShortcuts(shortcuts: () => Shortcut[]): void {
  useEventListener(window, 'keydown', (event: KeyboardEvent) => {
    if (
      keepsKey(event) ||
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
