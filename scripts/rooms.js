/**
 * The rooms of the project and what each may import, read by the lint rule and by the test that proves it.
 * Inside core a part may import the parts behind it in this order, never one before it.
 */
export const coreOrder = [
  'piece',
  'incoming',
  'sheet',
  'formats',
  'measure',
  'solid',
  'profile',
  'calibrate',
  'camera',
  'outline',
  'picture',
  'units',
  'base',
]

const coreRooms = coreOrder.map((name, i) => ({
  name: `core-${name}`,
  pattern: name === 'base' ? 'core' : `core/${name}`,
  // Formats and measure stand side by side: neither needs the other.
  mayImport: coreOrder
    .slice(i + 1)
    .filter((other) => !(name === 'formats' && other === 'measure'))
    .map((n) => `core-${n}`),
}))

const allCore = coreOrder.map((name) => `core-${name}`)

export const rooms = [
  ...coreRooms,
  { name: 'server', pattern: 'server', mayImport: allCore },
  { name: 'web', pattern: 'web', mayImport: allCore },
  { name: 'cli', pattern: 'cli', mayImport: allCore },
  // The photo maker is the test bench of core, so it shares no code with it.
  { name: 'demo-maker', pattern: 'demo/maker', mayImport: [] },
  { name: 'demo', pattern: 'demo', mayImport: ['demo-maker', 'server', ...allCore] },
]
