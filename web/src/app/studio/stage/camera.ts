/** What part of the hoop the stage shows: the place in its middle, in mm, and CSS pixels a mm. */
export interface Camera {
  readonly x: number;
  readonly y: number;
  readonly scale: number;
}

/** A place on the stage in CSS pixels, or on the cloth in mm. */
export interface Place {
  readonly x: number;
  readonly y: number;
}

export interface Size {
  readonly width: number;
  readonly height: number;
}

export interface Box {
  readonly left: number;
  readonly top: number;
  readonly width: number;
  readonly height: number;
}

const LEAST_SCALE = 0.5;
const MOST_SCALE = 90;

const limit = (scale: number): number => Math.min(MOST_SCALE, Math.max(LEAST_SCALE, scale));

/** Place on the stage, in CSS pixels, of a point in mm. */
export function toStage(camera: Camera, size: Size, x: number, y: number): { x: number; y: number } {
  return { x: (x - camera.x) * camera.scale + size.width / 2, y: (y - camera.y) * camera.scale + size.height / 2 };
}

/** Point in mm under a place on the stage. */
export function toHoop(camera: Camera, size: Size, x: number, y: number): { x: number; y: number } {
  return { x: (x - size.width / 2) / camera.scale + camera.x, y: (y - size.height / 2) / camera.scale + camera.y };
}

/** Zooms by a factor while the point under a place on the stage stays there. */
export function zoomAt(camera: Camera, size: Size, factor: number, x: number, y: number): Camera {
  const scale = limit(camera.scale * factor);
  const fixed = toHoop(camera, size, x, y);
  return { scale, x: fixed.x - (x - size.width / 2) / scale, y: fixed.y - (y - size.height / 2) / scale };
}

/** Moves what is shown by CSS pixels. */
export function pan(camera: Camera, dx: number, dy: number): Camera {
  return { ...camera, x: camera.x - dx / camera.scale, y: camera.y - dy / camera.scale };
}

/** Shows a whole box with some room around it. */
export function fit(box: Box, size: Size): Camera {
  const scale = limit(Math.min((size.width * 0.9) / box.width, (size.height * 0.9) / box.height));
  return { scale, x: box.left + box.width / 2, y: box.top + box.height / 2 };
}

/** Distance between the numbered ticks of a ruler, in units, so that they stand 50 to 130 pixels apart. */
export function rulerStep(pixelsPerUnit: number): number {
  for (let power = -2; power < 4; power++) {
    for (const digit of [1, 2, 5]) {
      const step = digit * 10 ** power;
      if (step * pixelsPerUnit >= 50) return step;
    }
  }
  return 1e4;
}
