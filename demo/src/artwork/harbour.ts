import { seededRandom } from '@open-kite/core';

type Colour = [number, number, number];

const WIDTH = 1600;
const HEIGHT = 1200;
const HORIZON = 640;

const mix = (a: Colour, b: Colour, t: number): Colour => {
  const k = Math.min(1, Math.max(0, t));
  return [a[0] + (b[0] - a[0]) * k, a[1] + (b[1] - a[1]) * k, a[2] + (b[2] - a[2]) * k];
};

const smooth = (from: number, to: number, v: number): number => {
  const t = Math.min(1, Math.max(0, (v - from) / (to - from)));
  return t * t * (3 - 2 * t);
};

const LAMPS: readonly (readonly [number, number, number])[] = [
  [470, 612, 1],
  [610, 606, 0.8],
  [745, 610, 0.9],
  [900, 602, 0.7],
  [1265, 300, 1.7],
];

/** An evening at the harbour, rendered point by point so that it behaves like a photograph: gradients, glow, noise. */
export function harbourPixels(): { width: number; height: number; data: Uint8Array } {
  const data = new Uint8Array(WIDTH * HEIGHT * 3);
  const random = seededRandom(20260);
  const noise = valueNoise(random);
  for (let y = 0; y < HEIGHT; y++) {
    for (let x = 0; x < WIDTH; x++) {
      const colour = pointAt(x, y, noise);
      const grain = (random() + random() - 1) * 9;
      const at = (y * WIDTH + x) * 3;
      for (let j = 0; j < 3; j++) data[at + j] = Math.min(255, Math.max(0, Math.round(colour[j] + grain)));
    }
  }
  return { width: WIDTH, height: HEIGHT, data };
}

function pointAt(x: number, y: number, noise: (x: number, y: number) => number): Colour {
  let colour = y < HORIZON ? sky(x, y, noise) : sea(x, y, noise);
  colour = hills(colour, x, y, noise);
  colour = quay(colour, x, y, noise);
  colour = lighthouse(colour, x, y);
  colour = boat(colour, x, y, noise);
  for (const [lx, ly, power] of LAMPS) {
    const d = Math.sqrt((x - lx) ** 2 + (y - ly) ** 2);
    const glow = power * (Math.exp(-d / 14) * 1.2 + Math.exp(-d / 70) * 0.35);
    colour = [colour[0] + 255 * glow, colour[1] + 190 * glow, colour[2] + 95 * glow];
  }
  const corner = ((x - WIDTH / 2) / WIDTH) ** 2 + ((y - HEIGHT / 2) / HEIGHT) ** 2;
  const shade = 1 - corner * 0.55;
  return [colour[0] * shade, colour[1] * shade, colour[2] * shade];
}

function sky(x: number, y: number, noise: (x: number, y: number) => number): Colour {
  const t = y / HORIZON;
  let colour = mix([38, 48, 92], [122, 92, 130], smooth(0, 0.55, t));
  colour = mix(colour, [236, 142, 92], smooth(0.45, 0.92, t));
  colour = mix(colour, [250, 206, 140], smooth(0.85, 1.05, t) * (1 - Math.abs(x - 980) / 1400));
  const cloud = noise(x / 260, y / 60) * 0.65 + noise(x / 90, y / 28) * 0.35;
  return mix(colour, [214, 128, 112], smooth(0.52, 0.78, cloud) * 0.6 * smooth(0.1, 0.6, t));
}

function sea(x: number, y: number, noise: (x: number, y: number) => number): Colour {
  const t = (y - HORIZON) / (HEIGHT - HORIZON);
  let colour = mix([206, 128, 96], [40, 74, 98], smooth(0, 0.42, t));
  colour = mix(colour, [18, 36, 58], smooth(0.35, 1, t));
  const size = 14 + t * 60;
  const wave = noise(x / (size * 3), y / (size * 0.35)) - 0.5;
  colour = mix(colour, wave > 0 ? [250, 196, 140] : [10, 24, 44], Math.abs(wave) * (0.75 - 0.35 * t));
  for (const [lx, ly, power] of LAMPS) {
    const spread = 10 + (y - ly) * 0.07;
    const streak = Math.exp(-(((x - lx + wave * 60) / spread) ** 2)) * power * (1 - t) * 0.7;
    colour = mix(colour, [255, 214, 140], streak);
  }
  return colour;
}

function hills(colour: Colour, x: number, y: number, noise: (x: number, y: number) => number): Colour {
  const far = HORIZON - 60 - 50 * Math.sin(x / 330) - 26 * noise(x / 120, 3);
  const near = HORIZON - 12 - 34 * Math.sin(x / 210 + 2) - 18 * noise(x / 60, 9);
  let out = colour;
  if (y < HORIZON) {
    out = mix(out, [96, 76, 108], smooth(far - 1.5, far + 1.5, y) * 0.85);
    out = mix(out, [44, 44, 66], x < 1080 ? smooth(near - 1.5, near + 1.5, y) : 0);
  }
  return out;
}

function quay(colour: Colour, x: number, y: number, noise: (x: number, y: number) => number): Colour {
  const top = 905 + (x - 200) * 0.09;
  const inside = smooth(top - 1.5, top + 1.5, y) * smooth(1050, 1046, x + (y - top) * 0.4);
  const stone = 0.5 + 0.5 * noise(x / 46, y / 22);
  const light = Math.exp(-(((x - 470) / 330) ** 2)) * 0.5;
  const body = mix([46, 42, 48], [122, 98, 82], stone * 0.6 + light);
  return mix(colour, body, inside);
}

function lighthouse(colour: Colour, x: number, y: number): Colour {
  const cx = 1265;
  const half = 34 + (y - 330) * 0.055;
  let out = colour;
  const tower = smooth(half + 1.5, half - 1.5, Math.abs(x - cx)) * smooth(328, 332, y) * smooth(742, 738, y);
  if (tower > 0) {
    const round = 1 - ((x - cx + half * 0.35) / (half * 1.5)) ** 2;
    const band = Math.floor((y - 330) / 82) % 2 === 0;
    const base: Colour = band ? [226, 214, 200] : [178, 58, 44];
    out = mix(out, mix([40, 34, 52], base, 0.25 + 0.75 * round), tower);
  }
  const cap = smooth(31, 28, Math.abs(x - cx) + Math.max(0, 288 - y) * 0.8) * smooth(250, 254, y) * smooth(334, 330, y);
  out = mix(out, [52, 38, 46], cap * 0.9);
  const rock = smooth(0, 3, y - (720 + ((x - cx) / 150) ** 2 * 90)) * smooth(830, 826, y);
  return mix(out, mix([30, 30, 40], [84, 72, 72], (x - cx + 150) / 420), rock);
}

function boat(colour: Colour, x: number, y: number, noise: (x: number, y: number) => number): Colour {
  const cx = 640;
  const t = (x - cx) / 150;
  let out = colour;
  const deck = 800 + 16 * t * t;
  const keel = 852 - 40 * Math.abs(t) ** 3;
  if (Math.abs(t) < 1.02) {
    const hull = smooth(deck - 1.5, deck + 1.5, y) * smooth(keel + 1.5, keel - 1.5, y);
    const body = mix([150, 52, 40], [236, 224, 204], y < deck + 13 ? 1 : 0);
    out = mix(out, mix(body, [26, 24, 38], 0.25 + 0.3 * t), hull);
    const shadow = smooth(keel, keel + 6, y) * smooth(keel + 60, keel + 8, y) * smooth(1, 0.6, Math.abs(t));
    out = mix(out, [16, 26, 44], shadow * (0.4 + 0.3 * noise(x / 40, y / 7)));
  }
  const mast = smooth(3.6, 2, Math.abs(x - cx - 10)) * smooth(610, 614, y) * smooth(802, 798, y);
  out = mix(out, [58, 42, 38], mast);
  const height = (y - 622) / 168;
  if (height > 0 && height < 1) {
    const reach = 118 * height;
    const sail = smooth(0, 3, x - cx - 16) * smooth(reach + 1.5, reach - 1.5, x - cx - 16);
    out = mix(out, mix([250, 226, 182], [196, 130, 96], (x - cx) / 150 + 0.15 * noise(x / 50, y / 50)), sail);
  }
  return out;
}

/** Smooth noise in 0..1 from a lattice of seeded values. */
function valueNoise(random: () => number): (x: number, y: number) => number {
  const size = 256;
  const lattice = Float64Array.from({ length: size * size }, () => random());
  const at = (x: number, y: number): number => lattice[(y & (size - 1)) * size + (x & (size - 1))];
  return (x, y) => {
    const ix = Math.floor(x);
    const iy = Math.floor(y);
    const fx = smooth(0, 1, x - ix);
    const fy = smooth(0, 1, y - iy);
    const top = at(ix, iy) + (at(ix + 1, iy) - at(ix, iy)) * fx;
    const bottom = at(ix, iy + 1) + (at(ix + 1, iy + 1) - at(ix, iy + 1)) * fx;
    return top + (bottom - top) * fy;
  };
}
