/** The kernels as the WebAssembly module exports them. Addresses are byte offsets into the engine's memory. */
export interface Kernels {
  yuvToRgba(
    y: number,
    yStride: number,
    u: number,
    v: number,
    cStride: number,
    width: number,
    height: number,
    dst: number,
    row: number,
    yOff: number,
    yMul: number,
    rV: number,
    gU: number,
    gV: number,
    bU: number,
    y0: number,
    y1: number,
  ): void
  yuvToHalfRgba(
    y: number,
    u: number,
    v: number,
    width: number,
    dst: number,
    yOff: number,
    yMul: number,
    rV: number,
    gU: number,
    gV: number,
    bU: number,
    y0: number,
    y1: number,
  ): void
  rgbaToYuv(
    src: number,
    width: number,
    height: number,
    y: number,
    u: number,
    v: number,
    yR: number,
    yG: number,
    yB: number,
    yBias: number,
    uR: number,
    uG: number,
    uB: number,
    vR: number,
    vG: number,
    vB: number,
  ): void
  halvePlanes(y: number, width: number, height: number, dst: number): void
  resampleColumns(
    src: number,
    srcStride: number,
    rows: number,
    dst: number,
    width: number,
    starts: number,
    weights: number,
    taps: number,
  ): void
  resampleBand(
    rows: number,
    stride: number,
    first: number,
    starts: number,
    weights: number,
    taps: number,
    dst: number,
    width: number,
    y0: number,
    y1: number,
  ): void
  resamplePlaneColumns(
    src: number,
    srcStride: number,
    rows: number,
    dst: number,
    width: number,
    starts: number,
    lanes: number,
    taps: number,
    places: number,
  ): void
  resamplePlaneBand(
    rows: number,
    stride: number,
    first: number,
    starts: number,
    weights: number,
    taps: number,
    dst: number,
    width: number,
    y0: number,
    y1: number,
  ): void
  drawAffine(
    src: number,
    sw: number,
    sh: number,
    dst: number,
    dstWidth: number,
    x0: number,
    y0: number,
    x1: number,
    y1: number,
    ia: number,
    ib: number,
    ic: number,
    id: number,
    ie: number,
    iff: number,
    perU: number,
    perV: number,
    sizeU: number,
    sizeV: number,
    opacity: number,
  ): void
  halve(src: number, sw: number, sh: number, dst: number): void
  enlarge(src: number, sw: number, sh: number, dst: number, y0: number, y1: number): void
  blendPixels(src: number, dst: number, n: number, mode: number): void
  blurRows(src: number, dst: number, w: number, h: number, radius: number): void
  blurColumns(src: number, dst: number, w: number, h: number, radius: number, sums: number): void
  filterRows(src: number, dst: number, w: number, h: number, weights: number, radius: number): void
  filterColumns(
    src: number,
    dst: number,
    w: number,
    h: number,
    weights: number,
    radius: number,
    y0: number,
    y1: number,
  ): void
  lumaPlane(src: number, plane: number, n: number): void
  planeRows(plane: number, dst: number, w: number, h: number, weights: number, radius: number): void
  sharpenLuma(
    pixels: number,
    plane: number,
    rows: number,
    w: number,
    h: number,
    weights: number,
    radius: number,
    amount: number,
    y0: number,
    y1: number,
  ): void
  sharpenFrom(pixels: number, plane: number, blurred: number, n: number, amount: number): void
  shapeEdge(
    pixels: number,
    w: number,
    h: number,
    x0: number,
    y0: number,
    x1: number,
    y1: number,
    radius: number,
    feather: number,
    border: number,
    r: number,
    g: number,
    b: number,
  ): void
  tint(src: number, dst: number, n: number, r: number, g: number, b: number, strength: number): void
  fadeDown(pixels: number, w: number, h: number, strength: number, length: number): void
  flipRows(src: number, dst: number, w: number, h: number): void
  dissolve(a: number, b: number, dst: number, n: number, weight: number): void
  mixByMap(
    a: number,
    b: number,
    map: number,
    dst: number,
    n: number,
    threshold: number,
    steep: number,
    r: number,
    g: number,
    bl: number,
    edge: number,
  ): void
  lightMap(src: number, map: number, n: number, invert: number): void
  addUp(src: number, sums: number, n: number): void
  average(sums: number, dst: number, n: number, count: number): void
  addLight(pixels: number, n: number, r: number, g: number, b: number): void
  towards(pixels: number, n: number, r: number, g: number, b: number, amount: number): void
  thin(pixels: number, n: number, factor: number): void
  drawMesh(
    src: number,
    sw: number,
    sh: number,
    dst: number,
    dw: number,
    dh: number,
    grid: number,
    cell: number,
    columns: number,
    opacity: number,
    wrap: number,
    y0: number,
    y1: number,
  ): void
  shiftColours(src: number, dst: number, w: number, h: number, rx: number, ry: number, bx: number, by: number): void
  shiftRows(src: number, dst: number, w: number, h: number, offsets: number): void
  pixelate(src: number, dst: number, w: number, h: number, size: number): void
  blendRow(src: number, dst: number, n: number, opacity: number): void
  layRect(
    src: number,
    srcStride: number,
    dst: number,
    dstStride: number,
    n: number,
    rows: number,
    strength: number,
    left: number,
    right: number,
    top: number,
    bottom: number,
    opaque: number,
    y0: number,
    y1: number,
  ): void
  lookUp(pixels: number, width: number, y0: number, y1: number, lut: number, size: number, axis: number): void
  unsharp(src: number, blurred: number, dst: number, n: number, amount: number): void
  vignette(
    pixels: number,
    w: number,
    y0: number,
    y1: number,
    cx: number,
    cy: number,
    rx: number,
    ry: number,
    table: number,
    entries: number,
    most: number,
    lighten: number,
  ): void
  noiseTile(tile: number, seed: number): void
  grain(
    pixels: number,
    w: number,
    y0: number,
    y1: number,
    tile: number,
    seed: number,
    size: number,
    amount: number,
    colour: number,
  ): void
  drawLines(
    src: number,
    dst: number,
    w: number,
    h: number,
    gain: number,
    floor: number,
    keep: number,
    lineR: number,
    lineG: number,
    lineB: number,
    groundR: number,
    groundG: number,
    groundB: number,
    y0: number,
    y1: number,
  ): void
  emboss(
    src: number,
    dst: number,
    w: number,
    h: number,
    dx: number,
    dy: number,
    gain: number,
    keep: number,
    y0: number,
    y1: number,
  ): void
  beginAlike(pixels: number, sums: number, n: number): void
  addAlike(pixels: number, other: number, sums: number, n: number, level: number): void
  endAlike(sums: number, pixels: number, n: number, amount: number): void
  deviation(src: number, mean: number, dst: number, n: number): void
  calm(pixels: number, mean: number, spread: number, n: number, level: number, amount: number, skin: number): void
  calmest(mean: number, spread: number, dst: number, w: number, h: number, off: number, y0: number, y1: number): void
  halftone(
    src: number,
    dst: number,
    w: number,
    h: number,
    cell: number,
    cos: number,
    sin: number,
    own: number,
    inkR: number,
    inkG: number,
    inkB: number,
    paperR: number,
    paperG: number,
    paperB: number,
    y0: number,
    y1: number,
  ): void
  cells(
    src: number,
    dst: number,
    w: number,
    h: number,
    sites: number,
    columns: number,
    size: number,
    seam: number,
    y0: number,
    y1: number,
  ): void
  scatter(src: number, dst: number, w: number, h: number, seed: number, reach: number, y0: number, y1: number): void
  rowGain(pixels: number, w: number, h: number, gains: number): void
  gainColours(pixels: number, n: number, r: number, g: number, b: number): void
  softDisc(
    pixels: number,
    w: number,
    h: number,
    cx: number,
    cy: number,
    rx: number,
    ry: number,
    cos: number,
    sin: number,
    r: number,
    g: number,
    b: number,
    strength: number,
    soft: number,
    paint: number,
  ): void
  moveRect(
    src: number,
    dst: number,
    w: number,
    h: number,
    x: number,
    y: number,
    rw: number,
    rh: number,
    toX: number,
    toY: number,
  ): void
  farAway(distance: number, n: number, value: number): void
  nearLine(
    distance: number,
    w: number,
    h: number,
    x0: number,
    y0: number,
    x1: number,
    y1: number,
    width: number,
    reach: number,
    erase: number,
  ): void
  crossRows(turns: number, w: number, h: number, x0: number, y0: number, x1: number, y1: number): void
  signInside(turns: number, distance: number, w: number, h: number): void
  boxDistance(
    distance: number,
    w: number,
    h: number,
    cx: number,
    cy: number,
    hx: number,
    hy: number,
    cos: number,
    sin: number,
    corner: number,
    round: number,
  ): void
  slopeDistance(
    distance: number,
    w: number,
    h: number,
    x0: number,
    y0: number,
    dx: number,
    dy: number,
    round: number,
  ): void
  cover(
    distance: number,
    plane: number,
    n: number,
    inner: number,
    outer: number,
    opacity: number,
    invert: number,
    straight: number,
  ): void
  joinCover(plane: number, other: number, n: number, mode: number): void
  invertCover(plane: number, n: number): void
  mixByCover(before: number, after: number, dst: number, plane: number, n: number, weight: number): void
  keepAlpha(pixels: number, before: number, n: number): void
  keepCovered(pixels: number, plane: number, n: number): void
  spreadCover(src: number, dst: number, w: number, h: number, radius: number, most: number, down: number): void
  softenCover(src: number, dst: number, w: number, h: number, radius: number, down: number, sums: number): void
  stretchCover(plane: number, n: number, low: number, high: number): void
  keyColours(
    src: number,
    plane: number,
    n: number,
    samples: number,
    count: number,
    tolerance: number,
    soft: number,
    shade: number,
  ): void
  keyLuma(src: number, plane: number, n: number, low: number, high: number, soft: number): void
  despill(pixels: number, n: number, cb: number, cr: number, amount: number): void
  showCover(pixels: number, plane: number, w: number, h: number, size: number, matte: number): void
  fill(dst: number, n: number, colour: number): void
  premultiply(pixels: number, n: number): void
}
