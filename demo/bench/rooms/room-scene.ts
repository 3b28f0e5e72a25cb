import type { Body } from '../../maker/body'
import { Scene, type SceneSpec } from '../../maker/scene'
import { add, dot, scale, smoothstep, sub, type Vec } from '../../maker/vector'
import { floorAt } from './floors'
import type { Room } from './room'
import { wallAt } from './walls'

/** The wall stands this many mm behind the axis, and a table ends this many sizes of the piece behind it. */
export const WALL_Y = 420
const TABLE_ENDS = 0.9
const WHITE: Vec = [1, 1, 1]
/** The photo maker's reflections show so much of a floor's light. */
const GROUND_SEEN = 0.56

/** A room about a piece. The photo maker's own scene, all white, tells how much light falls on its floor. */
export class RoomScene extends Scene {
  private readonly aside: Vec
  private readonly ground: number

  constructor(
    spec: SceneSpec,
    body: Body,
    private readonly room: Room,
  ) {
    super({ ...spec, backdrop: 'plain', wallTop: WHITE, wallBottom: WHITE, floor: WHITE }, body)
    this.aside = spec.stand === 'foot' ? [1, 0, 0] : [0, 0, 1]
    this.ground = spec.stand === 'foot' ? 0 : -body.radius
  }

  override light(normal: Vec): number {
    const { sun, ambient } = this.room
    const key = Math.max(0, dot(normal, this.keyDirection))
    const sky = 0.5 + 0.5 * dot(normal, this.up)
    return sun * key + ambient * (0.6 * sky + 0.4 * Math.max(0, -normal[1]))
  }

  override studio(d: Vec, roughness: number): Vec {
    const ground = GROUND_SEEN * smoothstep(0.05, -0.25, dot(d, this.up))
    return add(super.studio(d, roughness), scale(sub(this.room.ground, WHITE), ground))
  }

  override surroundings(o: Vec, d: Vec): Vec {
    const { floor, size, sun, ambient } = this.room
    const toFloor = (this.ground - dot(o, this.up)) / dot(d, this.up)
    const toWall = d[1] > 1e-9 ? (WALL_Y - o[1]) / d[1] : Infinity
    const at = (t: number) => add(o, scale(d, t))
    if (toFloor > 0 && toFloor < toWall) {
      const p = at(toFloor)
      if (floor !== 'table' || p[1] < TABLE_ENDS * size) {
        const [lit] = super.surroundings(o, d)
        const light = (0.7 * ambient + 0.75 * sun) * (0.25 + 0.75 * lit)
        return scale(floorAt(this.room, dot(p, this.aside), p[1]), light)
      }
    }
    if (!(toWall > 0 && toWall < Infinity)) return super.studio(d, 0.1)
    const p = at(toWall)
    return wallAt(this.room, dot(p, this.aside), dot(p, this.up) - this.ground)
  }
}
