// Writes inc/close.inc: sprigs of samphire, a wet stone and the drops on it; metres, seen from 25 cm.
import fs from 'node:fs';
import { rng, noise, fbm, smooth, mix } from './exr.mjs';
import { Mesh, addv, cross, norm, scl } from './mesh.mjs';

const random = rng(99);
const AROUND = 14;
const RINGS = 9;

/** One swollen joint of a stem from `p` along `d`; returns where the next one starts. */
function joint(mesh, p, d, length, r0, r1, texture) {
  const side = norm(cross(d, [0.31, 0.17, 0.93]));
  const up = cross(side, d);
  const rings = [];
  for (let i = 0; i <= RINGS; i++) {
    const f = i / RINGS;
    let radius = mix(r0, r1, f) * (0.8 + 0.34 * Math.sin(Math.PI * Math.min(1, f * 1.06)));
    if (f > 0.9) radius *= 1 - 0.55 * ((f - 0.9) / 0.1) ** 2;
    const ring = [];
    for (let j = 0; j < AROUND; j++) {
      const t = (2 * Math.PI * j) / AROUND;
      const lumps = 1 + 0.03 * noise(p[0] * 900 + Math.cos(t) * 2, p[1] * 900 + f * 5, Math.sin(t) * 2);
      const cuff = f > 0.84 ? 1 + 0.1 * Math.cos(2 * t) : 1;
      const r = radius * lumps * cuff;
      const at = addv(addv(addv(p, d, length * f), side, Math.cos(t) * r), up, Math.sin(t) * r);
      ring.push(mesh.addv(...at, f, t));
    }
    rings.push(ring);
  }
  for (let i = 0; i < RINGS; i++)
    for (let j = 0; j < AROUND; j++) {
      const k = (j + 1) % AROUND;
      mesh.quad(rings[i][j], rings[i][k], rings[i + 1][k], rings[i + 1][j], texture);
    }
  const tip = mesh.addv(...addv(p, d, length * 1.02), 1, 0);
  for (let j = 0; j < AROUND; j++) mesh.tri(rings[RINGS][j], rings[RINGS][(j + 1) % AROUND], tip, texture);
  return addv(p, d, length * 0.965);
}

/** A stem of `joints` with opposite branches, two levels deep. */
function sprig(mesh, p, d, r, joints, level) {
  for (let i = 0; i < joints; i++) {
    const length = 0.0085 * (0.85 + 0.4 * random()) * (level ? 0.82 : 1);
    const woody = level === 0 && i < 3;
    p = joint(mesh, p, d, length, r, r * 0.98, woody ? 1 : random() < 0.12 ? 2 : 0);
    if (level < 2 && i >= 1 && i < joints - 1) {
      const a = (i % 2 ? 0 : Math.PI / 2) + random() * 0.4;
      const side = norm(cross(d, [0.3, 0.1, 0.9]));
      const up = cross(side, d);
      for (const turn of [0, Math.PI]) {
        if (random() < 0.12) continue;
        const out = addv(addv(scl(d, 1.05), side, Math.cos(a + turn) * 0.75), up, Math.sin(a + turn) * 0.75);
        const more = level ? 2 + Math.floor(random() * 3) : Math.max(2, Math.round((joints - i) * 0.75));
        sprig(mesh, addv(p, d, -0.0006), norm(out), r * 0.86, more, level + 1);
      }
    }
    const wander = [(random() - 0.5) * 0.1 + (level ? 0 : 0.02), level ? 0.09 : 0, (random() - 0.5) * 0.1];
    d = norm(addv(d, wander));
    r *= 0.965;
  }
}

function plant(...stems) {
  const mesh = new Mesh();
  for (const [from, along, r, joints] of stems) sprig(mesh, from, norm(along), r, joints, 0);
  mesh.smoothNormals();
  return mesh.pov(['T_Sa', 'T_SaB', 'T_SaR'], { d: 6, uv: true });
}

/** Height of the stone at a place without its finest grain. */
function stoneHeight(x, z) {
  const cracks = smooth(0.05, 0, Math.abs(fbm(x * 16 + 4, 9, z * 16, 3)));
  return (
    0.018 * fbm(x * 14, 3, z * 14, 4) +
    0.0045 * fbm(x * 70, 5, z * 70, 4) -
    0.01 * cracks -
    0.25 * Math.max(0, z - 0.1) ** 1.5
  );
}

function stone() {
  const mesh = new Mesh();
  const n = 420;
  const size = 0.34;
  const at = [];
  for (let j = 0; j <= n; j++)
    at.push(
      Array.from({ length: n + 1 }, (_, i) => {
        const [x, z] = [(i / n - 0.5) * size, (j / n - 0.35) * size];
        return mesh.addv(x, stoneHeight(x, z) + 0.0013 * fbm(x * 320, 8, z * 320, 3), z);
      }),
    );
  for (let j = 0; j < n; j++)
    for (let i = 0; i < n; i++) mesh.quad(at[j][i], at[j + 1][i], at[j + 1][i + 1], at[j][i + 1]);
  mesh.smoothNormals();
  return mesh.pov(null, { d: 5 });
}

function drops(count) {
  return Array.from({ length: count }, () => {
    const [x, z, r] = [(random() - 0.5) * 0.2, (random() - 0.4) * 0.2, 0.0005 + 0.0018 * random() ** 3];
    const y = stoneHeight(x, z) + 0.0002;
    return `sphere{0,1 scale<${r * 1.2},${r * 0.62},${r * 1.1}> translate<${x.toFixed(5)},${y.toFixed(5)},${z.toFixed(5)}>}`;
  }).join('\n');
}

fs.mkdirSync('inc', { recursive: true });
const tall = plant(
  [[0, 0, 0], [0.12, 1, 0.05], 0.0023, 11],
  [[0.006, 0, 0.012], [0.45, 1, 0.25], 0.002, 8],
  [[-0.008, 0, 0.004], [-0.5, 1, -0.1], 0.0019, 7],
);
const low = plant([[0, 0, 0], [-0.1, 1, 0.1], 0.0022, 10], [[0.01, 0, 0], [0.4, 1, 0], 0.0019, 7]);
fs.writeFileSync(
  'inc/close.inc',
  `#declare O_S1=${tall}#declare O_S2=${low}#declare O_Stone=${stone()}#declare O_Drops=union{${drops(420)}}\n`,
);
