// @vitest-environment happy-dom
import { effectScope } from 'vue'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { useShortcuts } from './use-shortcuts'

const undo = vi.fn()
const nudge = vi.fn()
const tool = vi.fn()

/** Presses a key in a control. @returns what was run */
function pressed(control: string, key: string, ctrlKey = false): string[] {
  document.body.innerHTML = control
  for (const spy of [undo, nudge, tool]) spy.mockClear()
  const scope = effectScope()
  scope.run(() =>
    useShortcuts(() => [
      { keys: ['Ctrl+Z'], label: 'undo', run: undo },
      { keys: ['ArrowUp'], label: 'nudge', run: nudge },
      { keys: ['K'], label: 'tool', run: tool },
    ]),
  )
  document.body.firstElementChild!.dispatchEvent(
    new KeyboardEvent('keydown', { key, ctrlKey, bubbles: true }),
  )
  scope.stop()
  return Object.entries({ undo, nudge, tool }).flatMap(([name, spy]) => (spy.mock.calls.length ? [name] : []))
}

describe('shortcuts', () => {
  beforeEach(() => (document.body.innerHTML = ''))

  it.each([
    ['<div></div>', ['undo'], ['nudge'], ['tool']],
    ['<button></button>', ['undo'], ['nudge'], ['tool']],
    ['<input type="text" />', [], [], []],
    ['<textarea></textarea>', [], [], []],
    // A choice that was just made still has the focus; it can be taken back all the same.
    ['<input type="radio" />', ['undo'], [], ['tool']],
    ['<input type="checkbox" />', ['undo'], [], ['tool']],
    ['<select><option>knob</option></select>', ['undo'], [], []],
  ])('in %s: Ctrl+Z %j, arrow %j, letter %j', (control, withCtrl, withArrow, withLetter) => {
    expect(pressed(control, 'z', true)).toEqual(withCtrl)
    expect(pressed(control, 'ArrowUp')).toEqual(withArrow)
    expect(pressed(control, 'k')).toEqual(withLetter)
  })
})
