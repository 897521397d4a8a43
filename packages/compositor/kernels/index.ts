export { yuvToHalfRgba, yuvToRgba } from './yuvToRgba'
export { rgbaToYuv } from './rgbaToYuv'
export { halvePlanes } from './halvePlanes'
export { resampleBand, resampleColumns } from './resample'
export { resamplePlaneBand, resamplePlaneColumns } from './resamplePlane'
export { drawAffine, halve } from './affine'
export { enlarge } from './enlarge'
export { blendRow, fill, layRect, premultiply } from './blend'
export { blendPixels } from './blendModes'
export { blurRows, blurColumns, filterRows, filterColumns } from './blur'
export { lumaPlane, planeRows, sharpenLuma, sharpenFrom } from './detail'
export { shapeEdge, tint, fadeDown, flipRows } from './edge'
export { dissolve, mixByMap, lightMap, addUp, average, addLight, towards, thin } from './mix'
export { drawMesh, shiftColours, shiftRows, pixelate } from './warp'
export { lookUp } from './lut'
export { unsharp, vignette, grain, noiseTile } from './texture'
export { drawLines, emboss } from './outline'
export { deviation, calm, calmest, beginAlike, addAlike, endAlike } from './calm'
export { halftone, cells, scatter, rowGain, gainColours, softDisc, moveRect } from './pattern'
export { farAway, nearLine, crossRows, signInside, boxDistance, slopeDistance } from './distance'
export {
  cover,
  joinCover,
  invertCover,
  mixByCover,
  keepAlpha,
  keepCovered,
  spreadCover,
  softenCover,
  stretchCover,
} from './cover'
export { keyColours, keyLuma, despill, showCover } from './key'
