import { describe, expect, it } from 'vitest'
import { svgOf } from './picture'

const NS = 'http://www.w3.org/2000/svg'

describe('a drawing that goes out', () => {
  it('carries its looks itself and needs no style sheet', () => {
    const sheet = document.createElement('style')
    sheet.textContent = '.mark { fill: rgb(1, 2, 3); stroke-width: 7px; }'
    document.head.append(sheet)
    const drawing = document.createElementNS(NS, 'svg')
    const mark = document.createElementNS(NS, 'circle')
    mark.setAttribute('class', 'mark')
    mark.setAttribute('r', '4')
    drawing.append(mark)
    document.body.append(drawing)
    Object.defineProperty(drawing, 'viewBox', { value: { baseVal: { width: 640, height: 480 } } })
    const found = new DOMParser().parseFromString(svgOf(drawing), 'image/svg+xml')
    const circle = found.querySelector('circle')
    expect(found.documentElement.getAttribute('width')).toBe('640')
    expect(circle?.getAttribute('fill')).toBe('rgb(1, 2, 3)')
    expect(circle?.getAttribute('stroke-width')).toBe('7px')
    expect(circle?.getAttribute('class')).toBeNull()
    expect(mark.getAttribute('class')).toBe('mark')
  })
})
