// Writes inc/heron.inc: a wading bird, 0.95 m tall, looking along +x.
import fs from 'node:fs';
import { rng } from './exr.mjs';
import { Mesh, addv, norm, sub } from './mesh.mjs';
import { curveAt, feather, frameAt, sweep } from './sweep.mjs';

const random = rng(41);
const [SKIN, BACK, NECK, QUILL, PLUME, HORN, CREST] = [0, 1, 2, 3, 4, 5, 6];
const bird = new Mesh();
const jitter = (by) => by * (random() - 0.5);

// tail to breast, then the neck on to the head
const BODY = [
  [-0.34, 0.45, 0],
  [-0.22, 0.5, 0],
  [-0.08, 0.555, 0],
  [0.05, 0.61, 0],
  [0.13, 0.655, 0],
];
const BODY_SIZE = [
  [0.02, 0.015],
  [0.062, 0.06],
  [0.085, 0.1],
  [0.08, 0.095],
  [0.045, 0.055],
];
const THROAT = [
  [0.1, 0.63, 0],
  [0.175, 0.655, 0],
  [0.215, 0.71, 0],
  [0.185, 0.775, 0],
  [0.125, 0.825, 0],
  [0.125, 0.885, 0],
  [0.165, 0.93, 0],
  [0.21, 0.945, 0],
];
const THROAT_SIZE = [
  [0.05, 0.058],
  [0.036, 0.042],
  [0.027, 0.031],
  [0.022, 0.025],
  [0.02, 0.022],
  [0.019, 0.022],
  [0.022, 0.026],
  [0.021, 0.023],
];
sweep(bird, BODY, BODY_SIZE, SKIN);
sweep(bird, THROAT, THROAT_SIZE, SKIN, { rings: 60 });

/** Feathers all over a swept body, lying towards its start. */
function clothe(path, sizes, rows, perRow, length, width, texture, from = 0, to = 1) {
  for (let i = 0; i < rows; i++) {
    const t = from + ((to - from) * (i + 0.5)) / rows;
    for (let j = 0; j < perRow; j++) {
      const w = (2 * Math.PI * (j + (i % 2) / 2 + jitter(0.4))) / perRow;
      const { p, d, across, up } = frameAt(path, t + jitter(0.5 / rows));
      const [a, b] = curveAt(sizes, t);
      const out = norm(addv(addv([0, 0, 0], across, Math.cos(w) / a), up, Math.sin(w) / b));
      const at = addv(addv(p, across, 0.98 * a * Math.cos(w)), up, 0.98 * b * Math.sin(w));
      const [sa, sb] = curveAt(sizes, t - 0.04);
      const behind = addv(addv(frameAt(path, t - 0.04).p, across, sa * Math.cos(w)), up, sb * Math.sin(w));
      const along = norm(addv(addv(norm(sub(behind, at)), across, jitter(0.16)), out, 0.05));
      const grown = 0.8 + 0.4 * random();
      feather(bird, at, along, out, length(t) * grown, width(t) * grown, 0.1 * length(t), texture);
    }
  }
}
clothe(
  BODY,
  BODY_SIZE,
  34,
  40,
  (t) => 0.068 - 0.03 * t,
  (t) => 0.024 - 0.011 * t,
  BACK,
  0.1,
  0.93,
);
clothe(
  BODY,
  BODY_SIZE,
  9,
  44,
  () => 0.03,
  () => 0.009,
  NECK,
  0.86,
  1,
);
clothe(
  THROAT,
  THROAT_SIZE,
  110,
  18,
  () => 0.022,
  () => 0.007,
  NECK,
  0.02,
  0.98,
);

// flight feathers folded along each side, long plumes from shoulders and breast
for (const side of [-1, 1]) {
  for (let i = 0; i < 16; i++) {
    const f = i / 15;
    const at = [0.03 - 0.2 * f, 0.585 - 0.075 * f - 0.02 * (i % 2), side * (0.083 - 0.02 * f)];
    feather(
      bird,
      at,
      norm([-1, -0.34 - 0.1 * f, -side * 0.1]),
      [0, 0.25, side],
      0.22 - 0.06 * f,
      0.04,
      0.012,
      QUILL,
    );
  }
  for (let i = 0; i < 34; i++) {
    const at = [0.08 + jitter(0.08), 0.64 + jitter(0.05), side * (0.06 + jitter(0.03))];
    feather(
      bird,
      at,
      norm([-1, -0.3 + jitter(0.35), side * 0.05]),
      norm([0, 0.6, side]),
      0.2 + jitter(0.1),
      0.009,
      0.03,
      PLUME,
    );
  }
}
for (let i = 0; i < 46; i++) {
  const at = [0.16 + jitter(0.05), 0.625 + jitter(0.04), jitter(0.06)];
  feather(
    bird,
    at,
    norm([-0.15 + jitter(0.4), -1, jitter(0.25)]),
    norm([1, 0.1, jitter(1)]),
    0.14 + jitter(0.07),
    0.008,
    0.015,
    PLUME,
  );
}
for (let i = 0; i < 9; i++)
  feather(
    bird,
    [-0.27, 0.475 + jitter(0.015), jitter(0.04)],
    norm([-1, -0.42, jitter(0.3)]),
    [0, 1, jitter(0.4)],
    0.13,
    0.035,
    0.01,
    QUILL,
  );

// head, bill, crest
sweep(
  bird,
  [
    [0.165, 0.932, 0],
    [0.2, 0.948, 0],
    [0.24, 0.945, 0],
    [0.265, 0.938, 0],
  ],
  [
    [0.022, 0.026],
    [0.024, 0.026],
    [0.019, 0.019],
    [0.012, 0.013],
  ],
  NECK,
);
sweep(
  bird,
  [
    [0.25, 0.944, 0],
    [0.32, 0.938, 0],
    [0.395, 0.922, 0],
  ],
  [
    [0.012, 0.009],
    [0.0075, 0.0065],
    [0.0008, 0.0008],
  ],
  HORN,
);
sweep(
  bird,
  [
    [0.25, 0.934, 0],
    [0.31, 0.928, 0],
    [0.388, 0.9205, 0],
  ],
  [
    [0.0105, 0.008],
    [0.006, 0.005],
    [0.0007, 0.0007],
  ],
  HORN,
);
for (const side of [-1, 1])
  for (let i = 0; i < 10; i++)
    feather(
      bird,
      [0.215 - 0.006 * i, 0.962 - 0.001 * i, side * 0.016],
      norm([-1, -0.02 - 0.03 * i, side * 0.08]),
      norm([0.1, 0.6, side]),
      0.1 + 0.008 * i,
      0.005,
      0.016,
      CREST,
    );

// legs: thigh in feathers, knee turned back, three toes ahead and one behind
for (const side of [-1, 1]) {
  const [x, z] = [side * 0.035, side * 0.036];
  const thigh = [
    [0.006 + x, 0.352, z],
    [-0.005 + x, 0.43, z],
    [-0.02 + x, 0.53, z],
  ];
  const thick = [
    [0.006, 0.007],
    [0.018, 0.024],
    [0.034, 0.05],
  ];
  sweep(bird, thigh, thick, SKIN);
  clothe(
    thigh,
    thick,
    18,
    18,
    () => 0.03,
    () => 0.01,
    BACK,
    0.05,
    0.95,
  );
  const leg = [
    [0.005 + x, 0.38, z],
    [0.012 + x, 0.3, z],
    [-0.008 + x, 0.215, z],
    [0.004 + x, 0.1, z],
    [0.012 + x, 0.006, z],
  ];
  sweep(
    bird,
    leg,
    [
      [0.0065, 0.0065],
      [0.0055, 0.0055],
      [0.0082, 0.0085],
      [0.005, 0.005],
      [0.006, 0.006],
    ],
    HORN,
    { rings: 40, around: 12, folds: 0.0006, grain: [120, 2] },
  );
  for (const [turn, long] of [
    [0, 0.085],
    [0.5, 0.075],
    [-0.5, 0.075],
    [Math.PI, 0.05],
  ]) {
    const toe = [0.012 + x + Math.cos(turn) * long, 0.003, z + Math.sin(turn) * long];
    sweep(
      bird,
      [[0.012 + x, 0.01, z], addv(toe, [-0.4 * (toe[0] - x), 0.004, -0.4 * (toe[2] - z)]), toe],
      [
        [0.005, 0.005],
        [0.0042, 0.0042],
        [0.0015, 0.0015],
      ],
      HORN,
      { rings: 10, around: 8 },
    );
  }
}
const names = Array.from({ length: 7 }, (_, i) => `T_He${i}`);
fs.mkdirSync('inc', { recursive: true });
fs.writeFileSync('inc/heron.inc', `#declare O_Heron=${bird.pov(names, { d: 5, uv: true })}\n`);
