import type { Element } from '../../core/network/document'
import { changeElement } from '../../core/network/edit'
import { arrange } from './arrange'
import { CELL } from './cards'

/** The document with a node, group, note or frame at a place. @param x, y pixels */
export const placeAt = (document: Element, id: string, x: number, y: number): Element =>
  changeElement(document, id, e => ({
    ...e,
    attributes: {
      ...e.attributes,
      xpos: String(+(x / CELL.x).toFixed(3)),
      ypos: String(+(y / CELL.y).toFixed(3)),
    },
  }))

/** The document with a place for every card. */
export const withPlaces = (document: Element): Element =>
  arrange(document, new Set()).reduce(
    (d, p) =>
      p.element.attributes.xpos !== undefined && p.element.attributes.ypos !== undefined
        ? d
        : placeAt(d, p.id, p.x, p.y),
    document,
  )
