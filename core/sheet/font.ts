/** Height of capitals as a share of the font's size: of DejaVu Sans, 1493 of 2048 units. */
export const CAP_HEIGHT = 1493 / 2048
