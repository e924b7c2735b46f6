/** What a drawing looks like comes from style sheets; on its own it has to carry that itself. */
const LOOKS = [
  'fill',
  'fill-opacity',
  'stroke',
  'stroke-width',
  'stroke-dasharray',
  'stroke-linecap',
  'stroke-linejoin',
  'opacity',
  'font-size',
  'font-weight',
  'text-anchor',
  'dominant-baseline',
  'visibility',
]
/** A picture of points is drawn so much finer than it is shown. */
const FINER = 2

/**
 * A drawing that stands by itself: its looks in its elements, nothing fetched from anywhere.
 *
 * @param drawing as it is on the page
 */
export function svgOf(drawing: SVGSVGElement): string {
  const copy = drawing.cloneNode(true) as SVGSVGElement
  const shown = [drawing, ...drawing.querySelectorAll<SVGElement>('*')]
  const copied = [copy, ...copy.querySelectorAll<SVGElement>('*')]
  shown.forEach((from, index) => {
    const to = copied[index]
    const looks = getComputedStyle(from)
    if (!to) return
    to.removeAttribute('class')
    to.removeAttribute('style')
    for (const name of LOOKS) {
      const value = looks.getPropertyValue(name)
      if (value) to.setAttribute(name, value)
    }
    to.setAttribute('font-family', 'sans-serif')
  })
  const { width, height } = drawing.viewBox.baseVal
  copy.setAttribute('xmlns', 'http://www.w3.org/2000/svg')
  copy.setAttribute('width', String(width))
  copy.setAttribute('height', String(height))
  return new XMLSerializer().serializeToString(copy)
}

/**
 * The same as points, on white.
 *
 * @param drawing as it is on the page
 */
export async function pngOf(drawing: SVGSVGElement): Promise<Blob> {
  const image = new Image()
  image.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(svgOf(drawing))}`
  await image.decode()
  const canvas = document.createElement('canvas')
  canvas.width = image.width * FINER
  canvas.height = image.height * FINER
  const ink = canvas.getContext('2d')
  if (!ink) throw new Error('Nothing can be drawn here.')
  ink.fillStyle = 'white'
  ink.fillRect(0, 0, canvas.width, canvas.height)
  ink.drawImage(image, 0, 0, canvas.width, canvas.height)
  return new Promise((resolve, reject) =>
    canvas.toBlob((blob) => (blob ? resolve(blob) : reject(new Error('It gave no picture.'))), 'image/png'),
  )
}
