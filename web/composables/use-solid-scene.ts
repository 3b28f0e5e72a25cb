import {
  Box3,
  BufferAttribute,
  BufferGeometry,
  type CanvasTexture,
  Color,
  DirectionalLight,
  DoubleSide,
  Group,
  HemisphereLight,
  LineBasicMaterial,
  Mesh,
  MeshBasicMaterial,
  PlaneGeometry,
  MeshPhysicalMaterial,
  Matrix4,
  OrthographicCamera,
  Scene,
  Vector3,
  WebGLRenderer,
  LineSegments,
  WireframeGeometry,
} from 'three'
import type { NearView } from '../../core/camera/view'
import { paintedTexture, patternOf, pictureTexture, type Pattern, type ShownPicture } from './patterns'
import { OcclusionPainter } from './ambient-occlusion'
import type { BuiltSolid } from '../../core/piece/build'

/** Where the camera stands, and how world millimetres map to the pane. */
export interface SolidCamera {
  /** Radians. Elevation 0 is the true side view, on the photo's height scale. */
  azimuth: number
  elevation: number
  pxPerMm: number
  /** Screen px of the axis and of the middle height. */
  axisX: number
  middleY: number
  middleZ: number
  /** In the side view of a near camera: that camera, and the picture -> pane matrix [a b c d e f]. */
  near: { view: NearView; matrix: readonly [number, number, number, number, number, number] } | null
}

/** A solid to draw; with colours of its vertices, linear, where it is painted by figures. */
export type ShownSolid = Pick<BuiltSolid, 'buffers' | 'runs' | 'edges'> & { colours?: Float32Array }

/** A striped board behind the piece: heights and radius of the piece, mm, and the eye's azimuth. */
export interface Board {
  lowest: number
  highest: number
  radius: number
  azimuth: number
  /** Colours of the page around it, and of its lighter stripes. */
  surround: string
  tone: string
}

/** How a surface shows. */
export interface SurfaceLook {
  /** A colour of the page, or linear red, green, blue. */
  colour: string | readonly [number, number, number]
  roughness: number
  metallic: number
  /** Share of its colour that it has without light. */
  glow: number
  opacity: number
  /** Light goes through it and is bent, as by a body so thick, mm. */
  glass?: { ior: number; thicknessMm: number }
  /** Laid on it by its texture coordinates. */
  pattern?: Pattern
  /** A picture laid on it in place of a pattern. */
  picture?: ShownPicture
}

/** Draws the solid by parallel rays, so that one millimetre is as long everywhere as on the photo's scale. */
export class SolidScene {
  private renderer: WebGLRenderer
  private scene = new Scene()
  private camera = new OrthographicCamera()
  /** One mesh a solid; all of them share the materials of the surfaces, and the last of these is what is cut open. */
  private meshes: Mesh<BufferGeometry, MeshPhysicalMaterial[]>[] = []
  private materials: MeshPhysicalMaterial[] = []
  private lines: LineSegments<BufferGeometry, LineBasicMaterial>[] = []
  /** Edges that are drawn in any case, solid by solid. */
  private edges: (Float32Array | undefined)[] = []
  private lineMaterial = new LineBasicMaterial({ transparent: true, opacity: 0.55 })
  private solids = new Group()
  private shadow = new Mesh(
    new PlaneGeometry(1, 1),
    new MeshBasicMaterial({ map: shadowTexture(1), transparent: true, depthWrite: false }),
  )
  /** The same shadow for drawings that blend light instead of the screen's values: a share of dark counts by its power there. */
  private deepShadow = shadowTexture(SCREEN_GAMMA)
  /** Stripes behind a clear piece: glass is seen by what it bends. */
  private board = new Mesh(new PlaneGeometry(1, 1), new MeshBasicMaterial({ map: boardTexture() }))
  private lights = [new DirectionalLight(0xfff3e0, 2.1), new DirectionalLight(0xdfe8ff, 0.7)] as const
  private size = 1
  private wire = false
  private occlusion: OcclusionPainter | null = null
  /** True when the last drawing was by parallel rays, with nothing beneath. */
  private alone = false

  /** @throws Error when the browser gives no WebGL */
  constructor(canvas: HTMLCanvasElement) {
    this.renderer = new WebGLRenderer({ canvas, antialias: true, alpha: true })
    this.renderer.setClearColor(0x000000, 0)
    this.shadow.visible = false
    this.shadow.renderOrder = -1
    this.board.visible = false
    this.scene.add(
      this.shadow,
      this.board,
      this.solids,
      new HemisphereLight(0xffffff, 0x8a7d6d, 1.1),
      ...this.lights,
    )
  }

  /** @param surfaces how many kinds of surface there are beside what is cut open */
  setSolids(solids: readonly ShownSolid[], surfaces: number): void {
    for (const mesh of this.meshes) mesh.geometry.dispose()
    this.solids.clear()
    while (this.materials.length <= surfaces) this.materials.push(newMaterial())
    const box = new Box3()
    const painted = solids.some((s) => s.colours)
    for (const material of this.materials) {
      if (material.vertexColors !== painted) material.needsUpdate = true
      material.vertexColors = painted
    }
    this.edges = solids.map((s) => s.edges)
    this.meshes = solids.map(({ buffers, runs, colours }) => {
      const geometry = new BufferGeometry()
      geometry.setAttribute('position', new BufferAttribute(buffers.positions, 3))
      geometry.setAttribute('normal', new BufferAttribute(buffers.normals, 3))
      if (buffers.uvs) geometry.setAttribute('uv', new BufferAttribute(buffers.uvs, 2))
      if (painted)
        geometry.setAttribute('color', new BufferAttribute(colours ?? new Float32Array(buffers.positions.length).fill(1), 3)) // prettier-ignore
      geometry.setIndex(new BufferAttribute(buffers.indices, 1))
      runs.forEach(({ from, surface }, k) => {
        geometry.addGroup(from, (runs[k + 1]?.from ?? buffers.indices.length) - from, surface)
      })
      box.union(new Box3().setFromBufferAttribute(geometry.getAttribute('position') as BufferAttribute))
      const mesh = new Mesh(geometry, this.materials)
      mesh.frustumCulled = false
      return mesh
    })
    if (this.meshes.length > 0) {
      this.size = box.getSize(new Vector3()).length() || 1
      this.solids.add(...this.meshes)
    }
    this.updateLines()
  }

  setLook(looks: readonly SurfaceLook[], ink: string, wire: boolean): void {
    looks.forEach((look, k) => this.materials[k] && dress(this.materials[k], look))
    this.lineMaterial.color = new Color(ink)
    if (wire !== this.wire) {
      this.wire = wire
      this.updateLines()
    }
  }

  /** A soft shadow where the solid stands or lies, so broad along x and y, seen from above only; null: none. */
  setShadow(ground: { z: number; across: number; deep: number } | null): void {
    this.shadow.visible = ground !== null && this.meshes.length > 0
    if (!ground) return
    this.shadow.scale.set(SHADOW_REACH * ground.across, SHADOW_REACH * ground.deep, 1)
    // A hair below the foot, so that both don't fight for one place.
    this.shadow.position.z = ground.z - 1e-4 * this.size
  }

  /** Laid on its side, its axis level, about its middle height and so that it rests on the ground; null: it stands. */
  setLying(place: { middle: number; radius: number; ground: number } | null): void {
    const { solids } = this
    solids.rotation.set(0, place ? Math.PI / 2 : 0, 0)
    solids.position.set(place ? -place.middle : 0, 0, place ? place.ground + place.radius : 0)
  }

  /** A striped board behind the piece, upright and square to the view, about as large; null: none. */
  setBoard(place: Board | null): void {
    this.board.visible = place !== null && this.meshes.length > 0
    // What shines through glass must be there: the page behind the canvas isn't.
    this.scene.background = place ? new Color(place.surround) : null
    if (!place) return
    this.board.material.color.set(place.tone)
    const { lowest, highest, radius, azimuth } = place
    const away = BOARD_AWAY * radius + 0.2 * (highest - lowest)
    this.board.scale.set(2 * BOARD_BREADTH * radius, BOARD_HEIGHT * (highest - lowest), 1)
    this.board.position.set(-Math.sin(azimuth) * away, Math.cos(azimuth) * away, lowest + (BOARD_HEIGHT / 2) * (highest - lowest)) // prettier-ignore
    this.board.rotation.set(Math.PI / 2, 0, azimuth, 'ZXY')
  }

  private updateLines(): void {
    for (const lines of this.lines) {
      lines.geometry.dispose()
      lines.removeFromParent()
    }
    this.lines = this.meshes.flatMap((mesh, k) => {
      const edges = this.edges[k]
      if (!edges && !this.wire) return []
      const geometry = edges
        ? new BufferGeometry().setAttribute('position', new BufferAttribute(edges, 3))
        : new WireframeGeometry(mesh.geometry)
      const lines = new LineSegments(geometry, this.lineMaterial)
      lines.frustumCulled = false
      return [lines]
    })
    if (this.lines.length > 0) this.solids.add(...this.lines)
  }

  render(camera: SolidCamera, width: number, height: number, pixelRatio: number): void {
    const { azimuth, elevation, pxPerMm, axisX, middleY, middleZ } = camera
    this.renderer.setPixelRatio(pixelRatio)
    this.renderer.setSize(width, height, false)
    const c = this.camera
    const direction = new Vector3(
      Math.sin(azimuth) * Math.cos(elevation),
      -Math.cos(azimuth) * Math.cos(elevation),
      Math.sin(elevation),
    )
    const target = new Vector3(0, 0, middleZ)
    const away = 4 * this.size
    this.alone = camera.near === null
    if (camera.near) this.throughPhoto(camera.near, width, height)
    else {
      // Screen (axisX, middleY) shows the axis at the middle height.
      c.matrixAutoUpdate = true
      c.left = -axisX / pxPerMm
      c.right = (width - axisX) / pxPerMm
      c.top = middleY / pxPerMm
      c.bottom = -(height - middleY) / pxPerMm
      c.near = 0.01 * away
      c.far = 3 * away
      c.position.copy(target).addScaledVector(direction, away)
      c.up.set(0, 0, 1)
      if (Math.abs(elevation) > 1.5)
        c.up.set(-Math.sin(azimuth) * Math.sign(elevation), Math.cos(azimuth) * Math.sign(elevation), 0)
      c.lookAt(target)
      c.updateProjectionMatrix()
      c.updateMatrixWorld()
    }
    // Lights go with the viewer, from the upper left and the right, as over a workbench.
    const right = new Vector3().setFromMatrixColumn(c.matrixWorld, 0)
    const up = new Vector3().setFromMatrixColumn(c.matrixWorld, 1)
    this.lights[0].position
      .copy(target)
      .addScaledVector(right, -0.8 * away)
      .addScaledVector(up, 0.9 * away)
      .addScaledVector(direction, 0.8 * away)
    this.lights[1].position
      .copy(target)
      .addScaledVector(right, away)
      .addScaledVector(direction, 0.25 * away)
    for (const light of this.lights) {
      light.target.position.copy(target)
      light.target.updateMatrixWorld()
    }
    this.renderer.render(this.scene, c)
  }

  /**
   * Draws the last picture again, now with what hollows and ground keep of the light; it takes too long for a picture that
   * moves. The photo's own camera shows the plain one.
   * @param backdrop colour of the page behind it
   */
  refine(backdrop: string): void {
    if (!this.alone || this.meshes.length === 0) return
    this.occlusion ??= new OcclusionPainter(this.renderer, this.scene, this.camera)
    const { material } = this.shadow
    const plain = material.map
    material.map = this.deepShadow
    this.occlusion.paint(backdrop, this.size)
    material.map = plain
  }

  /**
   * The photo's own camera (its lens left out, which moves nothing by more than a pixel or so): the eye's directions as
   * view matrix; pinhole, picture-to-pane similarity and pane as projection.
   */
  private throughPhoto(
    { view, matrix }: NonNullable<SolidCamera['near']>,
    width: number,
    height: number,
  ): void {
    const c = this.camera
    const { right, away, up, f, centre } = view.eye
    c.matrixAutoUpdate = false
    // Columns: the camera's x, y (up, so minus down) and backwards axes in the world; the eye's rows turned round.
    c.matrix.set(
      right[0], -right[1], -right[2], 0,
      away[0], -away[1], -away[2], -view.distance,
      up[0], -up[1], -up[2], view.height,
      0, 0, 0, 1,
    ) // prettier-ignore
    c.matrixWorldNeedsUpdate = true
    c.updateMatrixWorld(true)
    // With p = (x, y, z) in camera space: picture = centre + f (x, -y) / -z; pane = matrix · picture; then -1..1.
    const [a, b, cc, d, e, g] = matrix
    const e0 = a * centre.x + cc * centre.y + e
    const g0 = b * centre.x + d * centre.y + g
    const near = view.distance / 50
    const far = 20 * view.distance
    c.projectionMatrix.set(
      (2 * a * f) / width, (-2 * cc * f) / width, -((2 * e0) / width - 1), 0,
      (-2 * b * f) / height, (2 * d * f) / height, -(1 - (2 * g0) / height), 0,
      0, 0, -(far + near) / (far - near), (-2 * far * near) / (far - near),
      0, 0, -1, 0,
    ) // prettier-ignore
    c.projectionMatrixInverse = new Matrix4().copy(c.projectionMatrix).invert()
  }

  dispose(): void {
    for (const { geometry } of [...this.meshes, ...this.lines]) geometry.dispose()
    for (const { geometry, material } of [this.shadow, this.board]) {
      geometry.dispose()
      material.map?.dispose()
      material.dispose()
    }
    for (const material of [...this.materials, this.lineMaterial]) material.dispose()
    this.deepShadow.dispose()
    this.occlusion?.dispose()
    this.renderer.dispose()
  }
}

/** The board stands so many radii behind the axis, and reaches so many aside, and so many heights up. */
const BOARD_AWAY = 1.3
const BOARD_BREADTH = 1.35
const BOARD_HEIGHT = 1.06
const STRIPES = 22

/** Upright stripes of two quiet tones. */
function boardTexture(): CanvasTexture {
  const canvas = Object.assign(document.createElement('canvas'), { width: 32 * STRIPES, height: 8 })
  const c = canvas.getContext('2d')!
  for (let i = 0; i < STRIPES; i++) {
    c.fillStyle = i % 2 ? '#c3ccc8' : '#ffffff'
    c.fillRect(32 * i, 0, 32, 8)
  }
  return paintedTexture(canvas)
}

/** The shadow fades to nothing at this many radii. */
const SHADOW_REACH = 1.45

/** About what the screen's values are to light. */
const SCREEN_GAMMA = 2.2

/** Dark in the middle, under the foot, and fading out. @param power to which what it lets through is taken */
function shadowTexture(power: number): CanvasTexture {
  const canvas = Object.assign(document.createElement('canvas'), { width: 128, height: 128 })
  const c = canvas.getContext('2d')!
  const fade = c.createRadialGradient(64, 64, 0, 64, 64, 64)
  for (const [at, dark] of [
    [0, 0.5],
    [0.5, 0.42],
    [0.72, 0.16],
    [1, 0],
  ] as const)
    fade.addColorStop(at, `rgb(43 39 35 / ${1 - (1 - dark) ** power})`)
  c.fillStyle = fade
  c.fillRect(0, 0, 128, 128)
  return paintedTexture(canvas)
}

function newMaterial(): MeshPhysicalMaterial {
  return new MeshPhysicalMaterial({
    side: DoubleSide,
    polygonOffset: true,
    polygonOffsetFactor: 1,
    polygonOffsetUnits: 1,
  })
}

function dress(material: MeshPhysicalMaterial, look: SurfaceLook): void {
  const { colour, roughness, metallic, glow, opacity, pattern, picture, glass } = look
  const over = (image: HTMLImageElement | undefined) => picture && image ? pictureTexture(image, picture.matrix, 'figures') : null // prettier-ignore
  const map = picture ? pictureTexture(picture.image, picture.matrix, 'colour') : pattern ? patternOf(pattern) : null // prettier-ignore
  const [roughnessMap, normalMap] = [over(picture?.roughness), over(picture?.normals)]
  if (material.map !== map || material.roughnessMap !== roughnessMap || material.normalMap !== normalMap) {
    Object.assign(material, { map, roughnessMap, normalMap })
    material.needsUpdate = true
  }
  if (typeof colour === 'string') material.color.set(colour)
  else material.color.setRGB(...colour)
  material.roughness = roughnessMap ? 1 : roughness
  material.metalness = metallic
  // What is cut reads as drawn, whichever way it looks.
  material.emissive.copy(material.color).multiplyScalar(glow)
  material.transmission = glass ? 1 : 0
  material.ior = glass?.ior ?? 1.5
  material.thickness = glass?.thicknessMm ?? 0
  material.opacity = opacity
  material.transparent = opacity < 1
  material.depthWrite = opacity === 1
}
