import {
  Color,
  HalfFloatType,
  Vector2,
  WebGLRenderTarget,
  type Camera,
  type Scene,
  type WebGLRenderer,
} from 'three'
import { EffectComposer } from 'three/examples/jsm/postprocessing/EffectComposer.js'
import { GTAOPass } from 'three/examples/jsm/postprocessing/GTAOPass.js'
import { OutputPass } from 'three/examples/jsm/postprocessing/OutputPass.js'
import { RenderPass } from 'three/examples/jsm/postprocessing/RenderPass.js'

/** What is nearer than this share of the solid's size takes light away. */
const REACH = 0.1
const SMOOTH_EDGES = 4

/**
 * Draws a scene with the light that its own hollows and the ground keep away (ground-truth ambient occlusion, J. Jiménez et al.,
 * 2016, by three's pass). It takes several drawings, so it is for a picture at rest.
 */
export class OcclusionPainter {
  private composer: EffectComposer
  private occlusion: GTAOPass

  constructor(
    private renderer: WebGLRenderer,
    private scene: Scene,
    camera: Camera,
  ) {
    const target = new WebGLRenderTarget(1, 1, { type: HalfFloatType, samples: SMOOTH_EDGES })
    this.composer = new EffectComposer(renderer, target)
    this.occlusion = new GTAOPass(scene, camera)
    for (const pass of [new RenderPass(scene, camera), this.occlusion, new OutputPass()])
      this.composer.addPass(pass)
  }

  /**
   * @param backdrop colour behind all: edges are blended with it, so it can't be left open
   * @param size of what is drawn, mm
   */
  paint(backdrop: string, size: number): void {
    const { width, height } = this.renderer.getSize(new Vector2())
    this.composer.setPixelRatio(this.renderer.getPixelRatio())
    this.composer.setSize(width, height)
    this.occlusion.updateGtaoMaterial({ radius: REACH * size, thickness: REACH * size, scale: 1.2 })
    const before = this.scene.background
    this.scene.background = new Color(backdrop)
    this.composer.render()
    this.scene.background = before
  }

  dispose(): void {
    for (const pass of this.composer.passes) pass.dispose()
    this.composer.dispose()
  }
}
