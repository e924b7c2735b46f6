import type { Schemas } from '../../api/client'

export interface Point {
  x: number
  y: number
}

/** A place on the table, by an edge's own frame: along it, and from it toward the gauge. */
export interface Own {
  along: number
  toward: number
}

/** Turn a point of a body about its swing point by its slant, drawn `factor` times as large as it is. */
export function slanted(body: Schemas['SceneBody'], factor: number, point: Own): Own {
  const turn = Math.atan(body.slope * factor)
  const about = body.from_mm + (body.pivot_mm ?? body.length_mm / 2)
  const along = point.along + body.from_mm - about
  const cos = Math.cos(turn)
  const sin = Math.sin(turn)
  return {
    along: about + along * cos - point.toward * sin,
    toward: along * sin + point.toward * cos + body.shift_mm * factor,
  }
}

/** From an edge's frame to the picture: x to the right, y downward, the person at the bottom. */
export function onTable(scene: Schemas['TableScene'], own: Own): Point {
  return {
    x: own.along * scene.u_x + own.toward * scene.n_x,
    y: -(own.along * scene.u_y + own.toward * scene.n_y),
  }
}

/** Corners of a rectangle of a body, in its own frame, from (a1, t1) to (a2, t2). */
export const corners = (a1: number, t1: number, a2: number, t2: number): Own[] => [
  { along: a1, toward: t1 },
  { along: a2, toward: t1 },
  { along: a2, toward: t2 },
  { along: a1, toward: t2 },
]

export interface Fit {
  scale: number
  dx: number
  dy: number
}

/** Scale and shift that bring points into a box. */
export function fitInto(points: Point[], left: number, top: number, right: number, bottom: number): Fit {
  const xs = points.map((p) => p.x)
  const ys = points.map((p) => p.y)
  const wide = Math.max(Math.max(...xs) - Math.min(...xs), 1)
  const high = Math.max(Math.max(...ys) - Math.min(...ys), 1)
  const scale = Math.min((right - left) / wide, (bottom - top) / high)
  return {
    scale,
    dx: (left + right) / 2 - (scale * (Math.max(...xs) + Math.min(...xs))) / 2,
    dy: (top + bottom) / 2 - (scale * (Math.max(...ys) + Math.min(...ys))) / 2,
  }
}
