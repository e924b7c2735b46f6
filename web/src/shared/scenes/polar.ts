/** A point of the picture; y runs down, as on every screen. */
export interface Point {
  x: number
  y: number
}

/** The point at radius `r` and angle `deg` (counter-clockwise, 0 to the right) round `center`. */
export function polar(center: Point, r: number, deg: number): Point {
  const t = (deg * Math.PI) / 180
  return { x: center.x + r * Math.cos(t), y: center.y - r * Math.sin(t) }
}

/** A vector in mm (y up) turned by `deg`, as a step on the screen at `scale` pixels a mm. */
export function step(xMm: number, yMm: number, deg: number, scale: number): Point {
  const t = (deg * Math.PI) / 180
  const x = xMm * Math.cos(t) - yMm * Math.sin(t)
  const y = xMm * Math.sin(t) + yMm * Math.cos(t)
  return { x: x * scale, y: -y * scale }
}

/** Distance from `axis` along `deg` to the circle of radius `r` round `center` (which holds the axis). */
export function reach(axis: Point, center: Point, r: number, deg: number): number {
  const t = (deg * Math.PI) / 180
  const dx = center.x - axis.x
  const dy = -(center.y - axis.y)
  const along = dx * Math.cos(t) + dy * Math.sin(t)
  const across = dy * Math.cos(t) - dx * Math.sin(t)
  return along + Math.sqrt(Math.max(0, r * r - across * across))
}

/**
 * Centers for a small map: far ones are drawn on a square-root scale, so that the last steps can
 * still be told apart.
 */
export function mapPoints(
  track: readonly { pass_no: number; x_mm: number; y_mm: number }[],
  limitMm: number,
  radiusPx: number,
  turnDeg: number,
): { points: (Point & { no: number })[]; limit: number } {
  const largest = Math.max(limitMm * 2, ...track.map((d) => Math.hypot(d.x_mm, d.y_mm)))
  const px = (mm: number): number => radiusPx * Math.sqrt(mm / largest)
  const points = track.map((d) => {
    const size = Math.hypot(d.x_mm, d.y_mm)
    const deg = (Math.atan2(d.y_mm, d.x_mm) * 180) / Math.PI + turnDeg
    return { no: d.pass_no, ...polar({ x: 0, y: 0 }, px(size), deg) }
  })
  return { points, limit: px(limitMm) }
}

/** An arrow from a to b, with its head beyond b. */
export function arrow(a: Point, b: Point): { shaft: string; point: string } {
  const way = Math.atan2(b.y - a.y, b.x - a.x)
  const wing = (turnBy: number): string =>
    `${b.x + 13 * Math.cos(way + turnBy)} ${b.y + 13 * Math.sin(way + turnBy)}`
  const tip = `${b.x + 20 * Math.cos(way)} ${b.y + 20 * Math.sin(way)}`
  return {
    shaft: `M${a.x} ${a.y}L${b.x} ${b.y}`,
    point: `M${wing(Math.PI / 2)}L${tip}L${wing(-Math.PI / 2)}Z`,
  }
}

/** The step, but never longer than `most`. */
export function within(by: Point, most: number): Point {
  const size = Math.hypot(by.x, by.y)
  return size > most ? { x: (by.x / size) * most, y: (by.y / size) * most } : by
}
