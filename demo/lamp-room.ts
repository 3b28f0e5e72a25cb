import type { PhotoSpec } from './maker/photo'
import { shape } from './maker/shape'
import { clearGlass, metal, opal, stoneware, wood } from './maker/surface'

/**
 * "The lamp room of the lighthouse at Punta Serena": an invented small museum that has replicas of its things made
 * for its visitors. All shapes, cameras and rooms are made up. Lengths in mm, colours in linear light.
 */
const QUARTER = Math.tan(Math.PI / 8)

const inkBottle: PhotoSpec = {
  name: 'Ink bottle',
  shape: shape(0, 0)
    .line(29, 0)
    .line(33, 4)
    .line(33, 71)
    .arc(21, 83, QUARTER)
    .cubic([16, 83], [13, 86], [13, 92])
    .line(13, 101)
    .line(16, 103)
    .arc(16, 111, 1)
    .line(15, 112)
    .line(0, 112)
    .done(),
  materials: [stoneware(76, 31)],
  camera: {
    width: 1500,
    height: 2000,
    focalLength35mm: 262,
    distance: 1150,
    cameraHeight: 74,
    pitch: 0.0155,
    roll: 0.012,
  },
  scene: {
    backdrop: 'plain',
    wallTop: [0.62, 0.59, 0.54],
    wallBottom: [0.6, 0.57, 0.52],
    floor: [0.6, 0.57, 0.52],
    stand: 'foot',
    key: [-0.7, 0.75, 0.6],
    seed: 11,
  },
  lens: { blur: 0.75, noise: 1.6 },
  jpegQuality: 91,
}

const waterGlass: PhotoSpec = {
  name: 'Water glass',
  shape: shape(0, 0)
    .line(30, 0)
    .arc(31, 2, QUARTER)
    .cubic([26, 4], [9, 5], [7, 10])
    .cubic([6, 13], [7.5, 15], [9, 16.5])
    .arc(9, 21.5, QUARTER)
    .cubic([7.4, 23], [6.4, 25], [7.6, 28])
    .cubic([12, 36], [33, 38], [36, 62])
    .cubic([37.4, 74], [35.6, 110], [34, 138])
    .arc(32.4, 138, 1)
    .hollow()
    .cubic([34, 110], [35.4, 74], [33.8, 63])
    .cubic([31, 44], [12, 41], [0, 37])
    .done(),
  materials: [clearGlass()],
  camera: {
    width: 1500,
    height: 2000,
    focalLength35mm: 205,
    distance: 1120,
    cameraHeight: 82,
    pitch: 0.012,
    k1: -0.03,
  },
  scene: {
    backdrop: 'graded',
    wallTop: [0.05, 0.065, 0.075],
    wallBottom: [0.4, 0.43, 0.43],
    floor: [0.42, 0.43, 0.41],
    stand: 'foot',
    key: [-0.8, 0.6, 0.4],
    shadowThrough: 0.72,
    seed: 23,
  },
  lens: { blur: 0.7, noise: 1.4 },
  jpegQuality: 92,
}

const ninepin: PhotoSpec = {
  name: 'Ninepin',
  shape: shape(0, 0)
    .line(24, 0)
    .arc(26, 2, QUARTER)
    .cubic([30, 24], [38.5, 48], [38.5, 74])
    .cubic([38.5, 106], [15, 128], [13.5, 160])
    .material(1)
    .line(15, 161)
    .line(15, 165)
    .line(13.5, 166)
    .material(0)
    .cubic([13.2, 170], [13.4, 172], [14.5, 175])
    .cubic([21.5, 181], [24, 190], [24, 198])
    .arc(0, 222, QUARTER)
    .done(),
  materials: [
    wood([0.52, 0.31, 0.15], [0.24, 0.12, 0.05], 41),
    {
      kind: 'opaque',
      look: () => ({ colour: [0.36, 0.05, 0.04], gloss: 0.04, metal: false, roughness: 0.3 }),
    },
  ],
  // Too near and too high, as most people stand when they take such a picture.
  camera: {
    width: 1500,
    height: 2000,
    focalLength35mm: 62,
    distance: 520,
    cameraHeight: 285,
    pitch: 0.325,
    roll: -0.02,
  },
  scene: {
    backdrop: 'plain',
    wallTop: [0.3, 0.34, 0.35],
    wallBottom: [0.42, 0.45, 0.45],
    floor: [0.5, 0.52, 0.5],
    stand: 'foot',
    key: [0.65, 0.8, 0.5],
    seed: 37,
  },
  lens: { blur: 0.8, noise: 2 },
  jpegQuality: 90,
}

const ropeSheave: PhotoSpec = {
  name: 'Rope sheave',
  shape: shape(0, 0)
    .line(13, 0)
    .line(13, 7)
    .line(50, 7)
    .arc(55, 12, QUARTER)
    .line(43.5, 17.2)
    .arc(43.5, 26.8, -0.62)
    .line(55, 32)
    .arc(50, 37, QUARTER)
    .line(15, 37)
    .line(15, 46)
    .line(0, 46)
    .done(),
  materials: [metal([0.3, 0.29, 0.27], [0.2, 0.11, 0.07], 0.42, 53)],
  camera: {
    width: 2000,
    height: 1500,
    focalLength35mm: 128,
    distance: 760,
    cameraHeight: 24,
    pitch: 0.004,
    roll: -Math.PI / 2 + 0.008,
  },
  scene: {
    backdrop: 'graded',
    wallTop: [0.3, 0.29, 0.26],
    wallBottom: [0.52, 0.5, 0.45],
    floor: [0.5, 0.48, 0.43],
    stand: 'rim',
    key: [-0.6, 0.9, 0.6],
    seed: 51,
  },
  lens: { blur: 0.7, noise: 1.8 },
  jpegQuality: 91,
}

const chimney: PhotoSpec = {
  name: 'Lamp chimney',
  shape: shape(0, 0)
    .line(25, 0)
    .arc(26, 1, QUARTER)
    .line(26.6, 16)
    .cubic([27, 27], [43, 34], [43, 58])
    .cubic([43, 88], [22, 98], [20.5, 128])
    .line(19.2, 187)
    .arc(18.2, 188, QUARTER)
    .line(0, 188)
    .done(),
  materials: [opal(61)],
  camera: {
    width: 1500,
    height: 2000,
    focalLength35mm: 128,
    distance: 950,
    cameraHeight: 120,
    pitch: 0.027,
    k1: -0.05,
    roll: 0.006,
  },
  scene: {
    backdrop: 'graded',
    wallTop: [0.035, 0.04, 0.05],
    wallBottom: [0.09, 0.1, 0.11],
    floor: [0.16, 0.15, 0.14],
    stand: 'foot',
    key: [-0.75, 0.5, 0.7],
    seed: 67,
  },
  lens: { blur: 0.75, noise: 1.7 },
  jpegQuality: 91,
}

const handBell: PhotoSpec = {
  name: 'Hand bell',
  shape: shape(0, 0)
    .line(47, 0)
    .arc(47, 5, 0.8)
    .cubic([39, 16], [31.5, 30], [30, 52])
    .cubic([29, 66], [26, 74], [15, 76.5])
    .line(7, 77.5)
    .line(7, 81)
    .material(1)
    .line(8.5, 82)
    .arc(8.5, 88, 0.8)
    .cubic([7, 94], [7.5, 104], [11, 118])
    .cubic([13.5, 128], [13, 140], [9.2, 145])
    .cubic([8, 146.6], [8, 147.4], [9, 149])
    .arc(0, 160, 0.53)
    .done(),
  materials: [
    metal([0.62, 0.42, 0.14], [0.3, 0.18, 0.06], 0.16, 71),
    wood([0.22, 0.1, 0.05], [0.09, 0.035, 0.02], 73),
  ],
  camera: {
    width: 1500,
    height: 2000,
    focalLength35mm: 172,
    distance: 1050,
    cameraHeight: 96,
    pitch: 0.02,
    yaw: 0.012,
    roll: -0.008,
  },
  scene: {
    backdrop: 'bricks',
    wallTop: [0.4, 0.38, 0.34],
    wallBottom: [0.4, 0.38, 0.34],
    floor: [0.3, 0.19, 0.11],
    stand: 'foot',
    key: [0.7, 0.7, 0.55],
    seed: 83,
  },
  lens: { blur: 0.8, noise: 1.9 },
  jpegQuality: 90,
  storedTurned: true,
}

export const LAMP_ROOM: readonly PhotoSpec[] = [inkBottle, waterGlass, ninepin, ropeSheave, chimney, handBell]

/** These two also come as untouched photos, to try the way from the start. */
export const TO_TRY = ['Ink bottle', 'Hand bell']

/** File name of a piece's photo. */
export const photoFileName = (name: string) => `${name.toLowerCase().replace(/\s+/g, '-')}.jpg`
