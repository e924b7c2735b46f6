import type { Ref } from 'vue'
import type { Practice } from './usePractice'

/** So many mm of the table for a pixel that is dragged. */
const MM_PX = 0.3

/** The picture is taken hold of: the work turned with a finger, or the table wound. */
export function useDrag(data: Ref<Practice | undefined>, move: (by: number) => void) {
  let last: { x: number; y: number } | undefined

  function grab(event: PointerEvent): void {
    if ((event.target as Element).closest('button')) return
    ;(event.currentTarget as Element).setPointerCapture(event.pointerId)
    last = { x: event.clientX, y: event.clientY }
  }
  function drag(event: PointerEvent): void {
    if (!last || !data.value) return
    const here = { x: event.clientX, y: event.clientY }
    if (data.value.turns) {
      const box = (event.currentTarget as Element).getBoundingClientRect()
      const center = { x: box.left + box.width / 2, y: box.top + box.height / 2 }
      const by = ((angle(center, here) - angle(center, last) + 540) % 360) - 180
      move(data.value.gauge_moves ? by : -by)
    } else move((here.x - last.x) * MM_PX)
    last = here
  }
  function drop(): void {
    last = undefined
  }
  return { grab, drag, drop }
}

function angle(center: { x: number; y: number }, p: { x: number; y: number }): number {
  return (Math.atan2(center.y - p.y, p.x - center.x) * 180) / Math.PI
}
