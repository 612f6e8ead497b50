import { readMtlx } from '../core/formats/mtlx/mtlx'
import type { Element } from '../core/network/document'

/** Reads the inside of a demo document, written as MaterialX text. */
export const network = (body: string): Element =>
  readMtlx(`<?xml version="1.0"?><materialx version="1.39" colorspace="lin_rec709">${body}</materialx>`)

/** The material element of a demo document. @param displacement node that moves its surface */
export const material = (surface: string, name = 'material', x = 5, displacement?: string): string =>
  `<surfacematerial name="${name}" type="material" xpos="${x}" ypos="0">
    <input name="surfaceshader" type="surfaceshader" nodename="${surface}"/>${
      displacement === undefined
        ? ''
        : `<input name="displacementshader" type="displacementshader" nodename="${displacement}"/>`
    }</surfacematerial>`
