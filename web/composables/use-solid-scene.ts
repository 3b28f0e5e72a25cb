import {
  Box3,
  BufferAttribute,
  BufferGeometry,
  Color,
  DirectionalLight,
  DoubleSide,
  HemisphereLight,
  LineBasicMaterial,
  Mesh,
  MeshStandardMaterial,
  Matrix4,
  OrthographicCamera,
  Scene,
  Vector3,
  WebGLRenderer,
  LineSegments,
  WireframeGeometry,
} from 'three'
import type { NearView } from '../../core/camera/view'
import type { ShadingBuffers } from '../../core/solid/shading'

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

/** Draws the solid by parallel rays, so that one millimetre is as long everywhere as on the photo's scale. */
export class SolidScene {
  private renderer: WebGLRenderer
  private scene = new Scene()
  private camera = new OrthographicCamera()
  private geometry = new BufferGeometry()
  private material = new MeshStandardMaterial({
    roughness: 0.62,
    metalness: 0,
    side: DoubleSide,
    polygonOffset: true,
    polygonOffsetFactor: 1,
    polygonOffsetUnits: 1,
  })
  /** Flat ends: where the solid is cut. */
  private cutMaterial = new MeshStandardMaterial({ roughness: 0.9, metalness: 0, side: DoubleSide })
  private mesh = new Mesh<BufferGeometry, MeshStandardMaterial[]>(this.geometry, [
    this.material,
    this.cutMaterial,
  ])
  private lines = new LineSegments(
    new BufferGeometry(),
    new LineBasicMaterial({ transparent: true, opacity: 0.55 }),
  )
  private lights = [new DirectionalLight(0xfff3e0, 2.1), new DirectionalLight(0xdfe8ff, 0.7)] as const
  private size = 1
  private wire = false

  /** @throws Error when the browser gives no WebGL */
  constructor(canvas: HTMLCanvasElement) {
    this.renderer = new WebGLRenderer({ canvas, antialias: true, alpha: true })
    this.renderer.setClearColor(0x000000, 0)
    this.scene.add(this.mesh, this.lines, new HemisphereLight(0xffffff, 0x8a7d6d, 1.1), ...this.lights)
    this.mesh.frustumCulled = false
    this.lines.frustumCulled = false
    this.lines.visible = false
  }

  setBuffers(buffers: ShadingBuffers | null): void {
    this.geometry.dispose()
    this.geometry = new BufferGeometry()
    if (buffers) {
      this.geometry.setAttribute('position', new BufferAttribute(buffers.positions, 3))
      this.geometry.setAttribute('normal', new BufferAttribute(buffers.normals, 3))
      this.geometry.setIndex(new BufferAttribute(buffers.indices, 1))
      const { indices, endsFrom } = buffers
      this.geometry.addGroup(0, endsFrom, 0)
      if (endsFrom < indices.length) this.geometry.addGroup(endsFrom, indices.length - endsFrom, 1)
      const box = new Box3().setFromBufferAttribute(this.geometry.getAttribute('position') as BufferAttribute)
      this.size = box.getSize(new Vector3()).length() || 1
    }
    this.mesh.geometry = this.geometry
    this.mesh.visible = buffers !== null
    this.updateLines()
  }

  setLook(colour: string, cut: string, ink: string, wire: boolean): void {
    this.material.color = new Color(colour)
    this.cutMaterial.color = new Color(cut)
    // Cut faces read as drawn, whichever way they look.
    this.cutMaterial.emissive = new Color(cut).multiplyScalar(0.35)
    ;(this.lines.material as LineBasicMaterial).color = new Color(ink)
    if (wire !== this.wire) {
      this.wire = wire
      this.updateLines()
    }
  }

  private updateLines(): void {
    this.lines.geometry.dispose()
    this.lines.visible = this.wire && this.mesh.visible
    this.lines.geometry = this.lines.visible ? new WireframeGeometry(this.geometry) : new BufferGeometry()
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
    this.geometry.dispose()
    this.lines.geometry.dispose()
    this.material.dispose()
    this.cutMaterial.dispose()
    this.renderer.dispose()
  }
}
