import { LINEAR, type Rgb } from './srgb.js';

/** CIE L*, a*, b* under D65. */
export interface Lab {
  readonly l: number;
  readonly a: number;
  readonly b: number;
}

const curve = (t: number): number => (t > 216 / 24389 ? Math.cbrt(t) : (t * (24389 / 27) + 16) / 116);

/** Linear sRGB, 0..1, to CIELAB under D65. */
export function linearToLab(r: number, g: number, b: number): Lab {
  const x = curve((0.4123907993 * r + 0.3575843394 * g + 0.1804807884 * b) / 0.9504559271);
  const y = curve(0.2126390059 * r + 0.7151686788 * g + 0.0721923154 * b);
  const z = curve((0.0193308187 * r + 0.1191947798 * g + 0.9505321522 * b) / 1.0890577508);
  return { l: 116 * y - 16, a: 500 * (x - y), b: 200 * (y - z) };
}

/** sRGB bytes to CIELAB. */
export function rgbToLab(c: Rgb): Lab {
  return linearToLab(LINEAR[Math.round(c.r)], LINEAR[Math.round(c.g)], LINEAR[Math.round(c.b)]);
}

const DEGREE = Math.PI / 180;
const POW25_7 = 25 ** 7;

/** CIEDE2000 colour difference with unit weights (Sharma, Wu and Dalal 2005). */
export function ciede2000(p: Lab, q: Lab): number {
  const meanC = (Math.sqrt(p.a * p.a + p.b * p.b) + Math.sqrt(q.a * q.a + q.b * q.b)) / 2;
  const c7 = meanC ** 7;
  const g = 1.5 - 0.5 * Math.sqrt(c7 / (c7 + POW25_7));
  const a1 = p.a * g;
  const a2 = q.a * g;
  const c1 = Math.sqrt(a1 * a1 + p.b * p.b);
  const c2 = Math.sqrt(a2 * a2 + q.b * q.b);
  const h1 = hue(a1, p.b);
  const h2 = hue(a2, q.b);
  const grey = c1 * c2 === 0;

  let dh = grey ? 0 : h2 - h1;
  if (dh > 180) dh -= 360;
  else if (dh < -180) dh += 360;
  const dL = q.l - p.l;
  const dC = c2 - c1;
  const dH = 2 * Math.sqrt(c1 * c2) * Math.sin((dh / 2) * DEGREE);

  const meanL = (p.l + q.l) / 2;
  const mC = (c1 + c2) / 2;
  let mh = h1 + h2;
  if (!grey) {
    if (Math.abs(h1 - h2) <= 180) mh /= 2;
    else mh = mh < 360 ? (mh + 360) / 2 : (mh - 360) / 2;
  }
  const t =
    1 -
    0.17 * Math.cos((mh - 30) * DEGREE) +
    0.24 * Math.cos(2 * mh * DEGREE) +
    0.32 * Math.cos((3 * mh + 6) * DEGREE) -
    0.2 * Math.cos((4 * mh - 63) * DEGREE);
  const l50 = (meanL - 50) * (meanL - 50);
  const sL = 1 + (0.015 * l50) / Math.sqrt(20 + l50);
  const sC = 1 + 0.045 * mC;
  const sH = 1 + 0.015 * mC * t;
  const m7 = mC ** 7;
  const bend = (mh - 275) / 25;
  const rT = -2 * Math.sqrt(m7 / (m7 + POW25_7)) * Math.sin(60 * Math.exp(-bend * bend) * DEGREE);
  const vL = dL / sL;
  const vC = dC / sC;
  const vH = dH / sH;
  return Math.sqrt(Math.max(0, vL * vL + vC * vC + vH * vH + rT * vC * vH));
}

function hue(a: number, b: number): number {
  if (a === 0 && b === 0) return 0;
  const h = Math.atan2(b, a) / DEGREE;
  return h < 0 ? h + 360 : h;
}

/** A difference in a word, as a person would judge two threads side by side. */
export function differenceWord(deltaE: number): 'same' | 'close' | 'visible' | 'far' {
  if (deltaE < 1) return 'same';
  if (deltaE < 3) return 'close';
  return deltaE < 8 ? 'visible' : 'far';
}
