import { createSharedComposable } from '@vueuse/core'
import { shallowRef, watch } from 'vue'
import { api } from '../../api/client'
import { useBuild } from './use-build'

/** The pictures laid on the solid, loaded once each. */
export const useLaidPictures = createSharedComposable(() => {
  const { built } = useBuild()
  const pictures = shallowRef<ReadonlyMap<string, HTMLImageElement>>(new Map())
  watch(
    () =>
      (built.value?.surfaces ?? []).flatMap((s) =>
        [s.picture?.sha256, s.picture?.roughness, s.picture?.normals].flatMap((sha) => sha ?? []),
      ),
    async (wanted) => {
      for (const sha256 of wanted) {
        if (pictures.value.has(sha256)) continue
        const image = new Image()
        image.src = api.photoUrl(sha256)
        // One that can't be read is left out here; handing over says so.
        if (
          await image.decode().then(
            () => true,
            () => false,
          )
        )
          pictures.value = new Map([...pictures.value, [sha256, image]])
      }
    },
    { immediate: true },
  )
  return { pictures }
})
