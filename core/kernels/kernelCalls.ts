/**
 * What the compiled module offers; every pointer is a byte offset into its own memory. See assembly/ for the meaning of each. Made by “npm run
 * kernels” from there; do not edit.
 */
export interface KernelCalls {
  readonly warpLanczos: (
    src: number,
    w: number,
    h: number,
    firstRow: number,
    firstColumn: number,
    columns: number,
    bytes: number,
    whole: number,
    exact: number,
    dst: number,
    plane: number,
    outW: number,
    rows: number,
    x0: number,
    y0: number,
    scale: number,
    m0: number,
    m1: number,
    m2: number,
    m3: number,
    m4: number,
    m5: number,
    m6: number,
    m7: number,
    m8: number,
  ) => void;
  readonly warpBilinear: (
    src: number,
    w: number,
    h: number,
    firstRow: number,
    firstColumn: number,
    columns: number,
    bytes: number,
    dst: number,
    plane: number,
    outW: number,
    rows: number,
    x0: number,
    y0: number,
    scale: number,
    m0: number,
    m1: number,
    m2: number,
    m3: number,
    m4: number,
    m5: number,
    m6: number,
    m7: number,
    m8: number,
  ) => void;
  readonly warpGrid: (
    src: number,
    w: number,
    h: number,
    firstRow: number,
    firstColumn: number,
    columns: number,
    bytes: number,
    whole: number,
    exact: number,
    dst: number,
    plane: number,
    outW: number,
    rows: number,
    grid: number,
    gridW: number,
    cell: number,
    scale: number,
    inside: number,
    slack: number,
  ) => void;
  readonly splitPlanes: (
    src: number,
    bytes: number,
    n: number,
    dst: number,
    plane: number,
    scale: number,
  ) => void;
  readonly reduceLevel: (src: number, w: number, h: number, dst: number, ring: number) => void;
  readonly addExpandedLevel: (
    fine: number,
    w: number,
    h: number,
    coarse: number,
    cw: number,
    ch: number,
    gain: number,
    line: number,
  ) => void;
  readonly blendLevel: (
    sum: number,
    weight: number,
    fine: number,
    w: number,
    h: number,
    coarse: number,
    cw: number,
    ch: number,
    line: number,
  ) => void;
  readonly mertensWeights: (
    planes: number,
    plane: number,
    w: number,
    h: number,
    contrast: number,
    saturation: number,
    narrow: number,
    grey: number,
    out: number,
  ) => void;
  readonly featherWeights: (
    weight: number,
    outW: number,
    rows: number,
    x0: number,
    y0: number,
    maxX: number,
    maxY: number,
    feather: number,
    m0: number,
    m1: number,
    m2: number,
    m3: number,
    m4: number,
    m5: number,
    m6: number,
    m7: number,
    m8: number,
  ) => void;
  readonly normaliseAll: (list: number, frames: number, n: number) => void;
  readonly spreadCellRows: (
    cells: number,
    w: number,
    h: number,
    first: number,
    scale: number,
    x0: number,
    y0: number,
    outW: number,
    rows: number,
    least: number,
    line: number,
    out: number,
  ) => void;
  readonly toBytes: (src: number, n: number, dst: number) => void;
  readonly toCodes16: (planes: number, plane: number, n: number, dst: number) => void;
  readonly luminancePlane: (
    src: number,
    bytes: number,
    n: number,
    table: number,
    limit: number,
    channel: number,
    light: number,
    valid: number,
  ) => void;
  readonly halveLuminancePlanes: (
    light: number,
    valid: number,
    W: number,
    H: number,
    out: number,
    cover: number,
    ring: number,
  ) => void;
  readonly logPlane: (
    light: number,
    n: number,
    floor: number,
    inverseGain: number,
    perLevel: number,
    value: number,
    variance: number,
  ) => void;
  readonly smoothPlane: (src: number, w: number, h: number, dst: number, ring: number) => void;
  readonly scorePlane: (value: number, variance: number, w: number, h: number, score: number) => void;
  readonly pickPoints: (
    score: number,
    valid: number,
    w: number,
    x0: number,
    x1: number,
    y0: number,
    y1: number,
    threshold: number,
    out: number,
    most: number,
  ) => number;
  readonly scoreHistogram: (
    score: number,
    valid: number,
    w: number,
    x0: number,
    x1: number,
    y0: number,
    y1: number,
    bins: number,
  ) => void;
  readonly tilePass: (
    points: number,
    plane: number,
    from: number,
    to: number,
    value: number,
    valid: number,
    variance: number,
    W: number,
    H: number,
    map: number,
    cx: number,
    cy: number,
    scale: number,
    gain: number,
    offset: number,
    mean: number,
    limit: number,
    tukey: number,
    out: number,
    residuals: number,
  ) => number;
  readonly nearestTwo: (a: number, n: number, b: number, m: number, out: number, back: number) => void;
  readonly gatherSpread: (
    src: number,
    W: number,
    H: number,
    places: number,
    n: number,
    table: number,
    phases: number,
    taps: number,
    out: number,
  ) => void;
  readonly gatherColours: (
    src: number,
    W: number,
    H: number,
    places: number,
    n: number,
    table: number,
    phases: number,
    taps: number,
    out: number,
    plane: number,
  ) => void;
  readonly layBeside: (src: number, plane: number, n: number, out: number) => void;
  readonly denoisePlanes: (
    planes: number,
    plane: number,
    w: number,
    h: number,
    amount: number,
    lumaRadius: number,
    lumaEven: number,
    chromaRadius: number,
    chromaEven: number,
    scratch: number,
    column: number,
  ) => void;
  readonly sharpenPlanes: (
    planes: number,
    plane: number,
    w: number,
    h: number,
    blur: number,
    reach: number,
    edge: number,
    edgeReach: number,
    wide: number,
    wideReach: number,
    radius: number,
    amount: number,
    full: number,
    overshoot: number,
    scratch: number,
    line: number,
  ) => void;
  readonly blurPlane: (
    src: number,
    w: number,
    h: number,
    weights: number,
    reach: number,
    dst: number,
    across: number,
    line: number,
  ) => void;
  readonly encodeOpenPlane: (plane: number, n: number) => void;
  readonly gainByTone: (
    planes: number,
    plane: number,
    n: number,
    gains: number,
    first: number,
    perStop: number,
    last: number,
  ) => void;
  readonly mixChannels: (planes: number, plane: number, n: number, matrix: number) => void;
  readonly mixPlane: (changed: number, before: number, mask: number, n: number, amount: number) => void;
  readonly noisePlane: (out: number, w: number, h: number, x0: number, y0: number, seed: number) => void;
  readonly scaleChroma: (planes: number, plane: number, n: number, factor: number) => void;
  readonly scalePlane: (plane: number, n: number, gain: number) => void;
  readonly throughTables: (
    planes: number,
    plane: number,
    n: number,
    matrix: number,
    tables: number,
    tableBytes: number,
    top: number,
    last: number,
  ) => void;
  readonly tintByTone: (
    planes: number,
    plane: number,
    n: number,
    tables: number,
    bytes: number,
    perLightness: number,
    last: number,
  ) => void;
  readonly turnHues: (
    planes: number,
    plane: number,
    n: number,
    tables: number,
    bytes: number,
    perTurn: number,
    least: number,
    rise: number,
  ) => void;
  readonly blendColours: (
    mode: number,
    back: number,
    source: number,
    plane: number,
    alpha: number,
    under: number,
    n: number,
  ) => void;
  readonly blendPlane: (
    mode: number,
    back: number,
    source: number,
    alpha: number,
    under: number,
    n: number,
  ) => void;
  readonly coverPlane: (under: number, alpha: number, n: number) => void;
  readonly ellipsePlane: (
    out: number,
    w: number,
    h: number,
    stride: number,
    u0: number,
    ux: number,
    uy: number,
    v0: number,
    vx: number,
    vy: number,
    outer: number,
    perFade: number,
  ) => void;
  readonly fadePlane: (
    out: number,
    w: number,
    h: number,
    stride: number,
    first: number,
    across: number,
    down: number,
  ) => void;
  readonly halveRow: (
    src: number,
    below: number,
    right: number,
    pixels: number,
    bytes: number,
    out: number,
  ) => void;
  readonly joinPlane: (
    mask: number,
    part: number,
    n: number,
    adds: number,
    gain: number,
    offset: number,
  ) => void;
  readonly opacityPlane: (alpha: number, mask: number, n: number, opacity: number, out: number) => void;
  readonly rangePlane: (plane: number, n: number, from: number, to: number, perSoft: number) => void;
  readonly readBetween: (
    src: number,
    sw: number,
    sh: number,
    columns: number,
    shares: number,
    w: number,
    rows: number,
    downs: number,
    h: number,
    lines: number,
    line: number,
    out: number,
  ) => void;
  readonly layCodes: (
    planes: number,
    plane: number,
    n: number,
    white: number,
    bytes: number,
    out: number,
  ) => void;
  readonly showPlanes: (r: number, g: number, b: number, n: number, out: number) => void;
  readonly mixRipples: (
    src: number,
    mask: number,
    distance: number,
    w: number,
    rows: number,
    waves: number,
    count: number,
    rightward: number,
    byTime: number,
    steps: number,
    padded: number,
    ways: number,
    sines: number,
    turn: number,
    focal: number,
    aside: number,
    wideFrom: number,
    margin: number,
    here: number,
    offsets: number,
    out: number,
    plane: number,
  ) => void;
  readonly readPixels: (
    light: number,
    reaches: number,
    n: number,
    fullWell: number,
    readNoise: number,
    few: number,
    seed: number,
    other: number,
    first: number,
    gain: number,
    full: number,
    normals: number,
    signal: number,
    clipped: number,
    table: number,
    codes: number,
  ) => void;
  readonly spreadCells: (
    places: number,
    shapes: number,
    light: number,
    count: number,
    table: number,
    sums: number,
    w: number,
    h: number,
  ) => void;
  readonly overlaySums: (
    sums: number,
    field: number,
    w: number,
    left: number,
    top: number,
    right: number,
    bottom: number,
  ) => void;
  readonly overlayDoubled: (
    coarse: number,
    w: number,
    h: number,
    fine: number,
    width: number,
    left: number,
    top: number,
    right: number,
    bottom: number,
  ) => void;
  readonly decodePlane: (plane: number, n: number, gain: number) => void;
  readonly encodePlane: (plane: number, n: number) => void;
  readonly hideOutside: (
    planes: number,
    plane: number,
    outW: number,
    rows: number,
    x0: number,
    y0: number,
    maxX: number,
    maxY: number,
    m0: number,
    m1: number,
    m2: number,
    m3: number,
    m4: number,
    m5: number,
    m6: number,
    m7: number,
    m8: number,
  ) => void;
  readonly stackRow: (
    list: number,
    frames: number,
    n: number,
    weights: number,
    method: number,
    pairs: number,
    pairCount: number,
    scratch: number,
    out: number,
    shares: number,
  ) => number;
  readonly meanPlane: (
    src: number,
    w: number,
    h: number,
    r: number,
    dst: number,
    rows: number,
    column: number,
  ) => void;
  readonly guideMeans: (
    guide: number,
    w: number,
    h: number,
    r: number,
    mean: number,
    square: number,
    work: number,
    rows: number,
    column: number,
  ) => void;
  readonly guidedUnder: (
    input: number,
    guide: number,
    meanGuide: number,
    square: number,
    w: number,
    h: number,
    r: number,
    smoothness: number,
    out: number,
    scratch: number,
    plane: number,
    column: number,
  ) => void;
  readonly structurePlane: (
    value: number,
    variance: number,
    held: number,
    w: number,
    h: number,
    r: number,
    divide: number,
    least: number,
    some: number,
    scratch: number,
    plane: number,
    column: number,
  ) => void;
  readonly greyRows: (
    src: number,
    bytes: number,
    w: number,
    rows: number,
    scale: number,
    rim: number,
    dst: number,
    stride: number,
  ) => void;
  readonly laplacianCells: (
    row: number,
    up1: number,
    down1: number,
    up4: number,
    down4: number,
    n: number,
    share: number,
    fine: number,
    coarse: number,
    grey: number,
  ) => void;
  readonly layCells: (
    src: number,
    plane: number,
    w: number,
    h: number,
    imageW: number,
    imageH: number,
    width: number,
    height: number,
    noise: number,
    dst: number,
    outPlane: number,
    m0: number,
    m1: number,
    m2: number,
    m3: number,
    m4: number,
    m5: number,
    m6: number,
    m7: number,
    m8: number,
  ) => void;
  readonly ownShares: (
    fine: number,
    smooth: number,
    grey: number,
    frames: number,
    n: number,
    unsure: number,
    guide: number,
    sure: number,
    shares: number,
  ) => void;
  readonly takeAnswers: (
    mixed: number,
    left: number,
    known: number,
    answers: number,
    frames: number,
    n: number,
    trust: number,
  ) => void;
  readonly aboveZero: (src: number, n: number, dst: number) => void;
  readonly blockMeans: (src: number, w: number, h: number, dst: number) => void;
  readonly settleShares: (
    mixed: number,
    left: number,
    far: number,
    fine: number,
    frames: number,
    n: number,
    planes: number,
    depth: number,
  ) => void;
  readonly countLost: (
    energy: number,
    planes: number,
    frames: number,
    n: number,
    floor: number,
    little: number,
  ) => number;
  readonly energyPlane: (r: number, g: number, b: number, n: number, dst: number) => void;
  readonly addBySalience: (
    local: number,
    seen: number,
    n: number,
    own: number,
    inverse: number,
    planes: number,
    sums: number,
    total: number,
  ) => void;
  readonly dividePlane: (plane: number, by: number, n: number) => void;
  readonly outlineWeights: (weight: number, inside: number, n: number) => void;
  readonly settleWeights: (
    weights: number,
    insides: number,
    frames: number,
    n: number,
    covered: number,
    most: number,
  ) => void;
  readonly fillOutside: (
    pictures: number,
    plane: number,
    weights: number,
    insides: number,
    frames: number,
    n: number,
  ) => void;
  readonly clearUncovered: (picture: number, plane: number, covered: number, n: number) => void;
  readonly slopePlanes: (src: number, w: number, h: number, gx: number, gy: number) => void;
  readonly multiplyPlanes: (a: number, b: number, n: number, out: number) => void;
  readonly cornerStrength: (xx: number, xy: number, yy: number, n: number, out: number) => void;
  readonly reduceLightRow: (
    src: number,
    bytes: number,
    width: number,
    size: number,
    w: number,
    table: number,
    low: number,
    high: number,
    light: number,
    red: number,
    blue: number,
    lost: number,
    dark: number,
  ) => void;
  readonly addRadiance: (
    picture: number,
    plane: number,
    n: number,
    tables: number,
    stride: number,
    steps: number,
    share: number,
    scale: number,
    full: number,
    none: number,
    open: number,
    resort: number,
    shot: number,
    read: number,
    sums: number,
  ) => void;
  readonly overTotal: (list: number, count: number, total: number, n: number) => void;
  readonly layEncoded: (planes: number, plane: number, n: number, out: number) => void;
  readonly tonePlane: (planes: number, plane: number, n: number, out: number) => void;
  readonly toneMapPixels: (
    planes: number,
    plane: number,
    n: number,
    slope: number,
    offset: number,
    detail: number,
    middle: number,
    aim: number,
    down: number,
    up: number,
    turn: number,
    zero: number,
    start: number,
    round: number,
    knee: number,
  ) => void;
  readonly gatherPairs: (
    light: number,
    plane: number,
    map: number,
    w: number,
    h: number,
    y: number,
    rays: number,
    steps: number,
    room: number,
    inside: number,
    outside: number,
  ) => void;
  readonly sharePairs: (
    light: number,
    plane: number,
    map: number,
    w: number,
    y: number,
    pairs: number,
    pairPlane: number,
    wide: number,
    margin: number,
    side: number,
    step: number,
    room: number,
    share: number,
    rest: number,
    apart: number,
  ) => void;
  readonly multiplyMatte: (
    matrix: number,
    own: number,
    dense: number,
    wide: number,
    runs: number,
    count: number,
    out: number,
  ) => number;
  readonly stepMatte: (
    x: number,
    r: number,
    z: number,
    p: number,
    q: number,
    diagonal: number,
    by: number,
    n: number,
  ) => number;
  readonly turnMatte: (z: number, p: number, by: number, dense: number, runs: number, count: number) => void;
  readonly sweepColours: (
    light: number,
    alpha: number,
    w: number,
    h: number,
    inside: number,
    outside: number,
    smooth: number,
    atEdges: number,
  ) => void;
}
