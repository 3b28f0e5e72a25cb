import { useEventListener } from '@vueuse/core'
import { ref } from 'vue'
import { isTyping } from './use-pane-gestures'

/** Files dropped anywhere on the page, and pictures pasted. Returns whether one hovers over the page. */
export function useFileDrop(take: (file: File) => void) {
  const hovering = ref(false)
  let depth = 0
  const carriesFiles = (event: DragEvent) => event.dataTransfer?.types.includes('Files') ?? false

  useEventListener(window, 'dragenter', (event: DragEvent) => {
    if (!carriesFiles(event)) return
    depth++
    hovering.value = true
  })
  useEventListener(window, 'dragleave', () => {
    depth = Math.max(0, depth - 1)
    hovering.value = depth > 0
  })
  useEventListener(window, 'dragover', (event: DragEvent) => {
    if (carriesFiles(event)) event.preventDefault()
  })
  useEventListener(window, 'drop', (event: DragEvent) => {
    depth = 0
    hovering.value = false
    if (!carriesFiles(event)) return
    event.preventDefault()
    const file = event.dataTransfer?.files[0]
    if (file) take(file)
  })
  useEventListener(window, 'paste', (event: ClipboardEvent) => {
    const file = [...(event.clipboardData?.files ?? [])].find((f) => f.type.startsWith('image/'))
    if (!file || isTyping(event.target)) return
    event.preventDefault()
    take(file)
  })
  return hovering
}
