// Writes inc/walker.inc and inc/lantern.inc: a warden of 1.76 m in coat and cap with a lantern, walking along +x. STRIDE (0…1) and ARM (degrees from
// hanging straight down, forwards) come from the command line.
import fs from 'node:fs';
import { rng } from './exr.mjs';
import { Mesh, addv } from './mesh.mjs';
import { sweep } from './sweep.mjs';

const [stride, arm] = process.argv.slice(2).map(Number);
const random = rng(7);
const [COAT, CLOTH, LEATHER, SKIN, CAP, WOOL, HAIR] = [0, 1, 2, 3, 4, 5, 6];
const figure = new Mesh();
const turned = (length, degrees) => [
  length * Math.sin((degrees * Math.PI) / 180),
  -length * Math.cos((degrees * Math.PI) / 180),
  0,
];
const seed = () => 50 * random();

const swing = 26 * Math.sin(2 * Math.PI * stride);
const hip = [0, 0.92, 0];
for (const side of [-1, 1]) {
  const forwards = side * swing;
  const from = addv(hip, [0, 0, 1], side * 0.085);
  const knee = addv(from, turned(0.45, forwards + Math.max(0, -forwards) * 0.15));
  const foot = addv(knee, turned(0.42, forwards - 8 - Math.max(0, -forwards) * 0.9));
  sweep(
    figure,
    [from, addv(from, knee).map((v) => v / 2), knee, addv(knee, foot).map((v) => v / 2), foot],
    [
      [0.095, 0.1],
      [0.085, 0.088],
      [0.068, 0.07],
      [0.068, 0.066],
      [0.06, 0.062],
    ],
    CLOTH,
    { rings: 40, folds: 0.016, grain: [9, 1.4], seed: seed() },
  );
  const pitch = Math.max(0, -forwards) * 0.9;
  const toe = addv(foot, turned(0.2, 90 - pitch));
  sweep(
    figure,
    [
      addv(foot, [-0.05, -0.03, 0]),
      addv(foot, [0.03, -0.035, 0]),
      addv(toe, [-0.04, -0.05, 0]),
      addv(toe, [0, -0.055, 0]),
    ],
    [
      [0.045, 0.04],
      [0.052, 0.058],
      [0.052, 0.038],
      [0.03, 0.022],
    ],
    LEATHER,
    { folds: 0.003, grain: [40, 3], seed: seed() },
  );
  const shin = (part) => addv(foot, addv(knee, foot, -1), part);
  sweep(
    figure,
    [shin(0.34), shin(0.08), addv(foot, [0.01, -0.035, 0])],
    [
      [0.062, 0.066],
      [0.054, 0.058],
      [0.05, 0.054],
    ],
    LEATHER,
    { folds: 0.008, grain: [25, 2], seed: seed() },
  );
}

// the coat hangs from the shoulders to above the knees and swings a little
const sway = 0.0012 * swing;
sweep(
  figure,
  [
    [-0.02 - sway, 0.6, 0],
    [-0.01, 0.8, 0],
    [0, 1.0, 0],
    [0.01, 1.18, 0],
    [0.02, 1.34, 0],
    [0.025, 1.43, 0],
    [0.03, 1.48, 0],
  ],
  [
    [0.21, 0.2 + 2 * Math.abs(sway)],
    [0.195, 0.175],
    [0.175, 0.145],
    [0.195, 0.15],
    [0.21, 0.14],
    [0.17, 0.11],
    [0.075, 0.075],
  ],
  COAT,
  { rings: 70, around: 60, folds: 0.03, grain: [3, 2.2], seed: seed() },
);
// collar and scarf
sweep(
  figure,
  [
    [0.025, 1.42, 0],
    [0.035, 1.49, 0],
    [0.045, 1.54, 0],
  ],
  [
    [0.11, 0.1],
    [0.09, 0.088],
    [0.078, 0.08],
  ],
  COAT,
  { folds: 0.012, grain: [12, 2], seed: seed() },
);
sweep(
  figure,
  [
    [0.035, 1.47, 0],
    [0.05, 1.52, 0],
    [0.055, 1.555, 0],
  ],
  [
    [0.075, 0.08],
    [0.078, 0.086],
    [0.066, 0.072],
  ],
  WOOL,
  { folds: 0.014, grain: [16, 2], seed: seed() },
);
// head looking ahead, cap with a peak
sweep(
  figure,
  [
    [0.045, 1.53, 0],
    [0.06, 1.585, 0],
    [0.06, 1.645, 0],
    [0.05, 1.7, 0],
    [0.045, 1.74, 0],
  ],
  [
    [0.05, 0.06],
    [0.066, 0.085],
    [0.074, 0.095],
    [0.07, 0.088],
    [0.03, 0.04],
  ],
  SKIN,
  { folds: 0.004, grain: [14, 2], seed: seed() },
);
sweep(
  figure,
  [
    [0.148, 1.632, 0],
    [0.166, 1.61, 0],
    [0.158, 1.592, 0],
  ],
  [
    [0.012, 0.012],
    [0.016, 0.014],
    [0.01, 0.01],
  ],
  SKIN,
);
sweep(
  figure,
  [
    [0.1, 1.56, 0],
    [0.115, 1.54, 0],
    [0.07, 1.535, 0],
  ],
  [
    [0.03, 0.03],
    [0.035, 0.028],
    [0.04, 0.02],
  ],
  SKIN,
);
sweep(
  figure,
  [
    [0.035, 1.66, 0],
    [0.04, 1.7, 0],
    [0.045, 1.745, 0],
    [0.045, 1.762, 0],
  ],
  [
    [0.083, 0.105],
    [0.092, 0.116],
    [0.07, 0.09],
    [0.02, 0.03],
  ],
  CAP,
  { folds: 0.006, grain: [14, 3], seed: seed() },
);
sweep(
  figure,
  [
    [0.12, 1.682, 0],
    [0.175, 1.676, 0],
    [0.21, 1.664, 0],
  ],
  [
    [0.075, 0.012],
    [0.06, 0.008],
    [0.015, 0.004],
  ],
  CAP,
);

// an ear and the hair below the cap
sweep(
  figure,
  [
    [0.03, 1.59, -0.07],
    [0.022, 1.615, -0.084],
    [0.035, 1.64, -0.078],
  ],
  [
    [0.008, 0.014],
    [0.01, 0.02],
    [0.007, 0.014],
  ],
  SKIN,
);
sweep(
  figure,
  [
    [-0.02, 1.55, 0],
    [-0.022, 1.6, 0],
    [0, 1.66, 0],
  ],
  [
    [0.05, 0.032],
    [0.064, 0.036],
    [0.076, 0.05],
  ],
  HAIR,
  { folds: 0.014, grain: [40, 6], seed: seed() },
);

/** An arm in its sleeve with a closed hand; returns where the hand is. */
function limb(side, degrees, bend) {
  const shoulder = [0.02, 1.4, side * 0.185];
  const elbow = addv(addv(shoulder, turned(0.3, degrees)), [0, 0, side * 0.05]);
  const wrist = addv(addv(elbow, turned(0.25, degrees + bend)), [0, 0, -side * 0.02]);
  const hand = addv(wrist, turned(0.07, degrees + bend * 0.7));
  const half = (a, b) => addv(a, b).map((v) => v / 2);
  sweep(
    figure,
    [
      addv(shoulder, [0, 0.05, -side * 0.06]),
      shoulder,
      half(shoulder, elbow),
      elbow,
      half(elbow, wrist),
      wrist,
    ],
    [
      [0.05, 0.06],
      [0.078, 0.082],
      [0.068, 0.07],
      [0.062, 0.064],
      [0.056, 0.056],
      [0.05, 0.048],
    ],
    COAT,
    { rings: 44, folds: 0.018, grain: [10, 1.6], seed: seed() },
  );
  sweep(
    figure,
    [wrist, half(wrist, hand), hand, addv(hand, turned(0.03, degrees - 30))],
    [
      [0.028, 0.03],
      [0.036, 0.045],
      [0.034, 0.042],
      [0.02, 0.022],
    ],
    SKIN,
    { folds: 0.006, grain: [40, 3], seed: seed() },
  );
  return hand;
}
limb(1, -swing * 0.8, 14);
const hand = limb(-1, arm, 22);

const names = Array.from({ length: 7 }, (_, i) => `T_Wa${i}`);
figure.smoothNormals();
fs.mkdirSync('inc', { recursive: true });
fs.writeFileSync('inc/lantern.inc', `#declare Lantern=<${addv(hand, [0.01, -0.17, 0])}>;\n`);
fs.writeFileSync('inc/walker.inc', `#declare O_Walker=${figure.pov(names, { d: 4, uv: true })}\n`);
