import type { LabPicture } from '../picture/reduce'

/** Share of the picture's shorter side along its borders that is taken for backdrop. */
export const BORDER_SHARE = 0.05

/** How wide the borders are that are taken for backdrop, px. */
export const borderMargin = ({ width, height }: Pick<LabPicture, 'width' | 'height'>) =>
  Math.max(2, Math.round(BORDER_SHARE * Math.min(width, height)))

/** Whether a pixel, by its index, lies in the borders. */
export function inBorder(picture: Pick<LabPicture, 'width' | 'height'>): (i: number) => boolean {
  const { width, height } = picture
  const margin = borderMargin(picture)
  return (i) => {
    const x = i % width
    const y = (i - x) / width
    return x < margin || y < margin || x >= width - margin || y >= height - margin
  }
}
