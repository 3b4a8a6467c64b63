import { computed, inject, Injectable, signal } from '@angular/core';
import type { Design } from '@open-kite/core';
import { Conversion } from '../../convert/conversion';
import { fit, pan, toHoop, zoomAt, type Box, type Camera, type Place, type Size } from './camera';
import { RULER, type Lens } from './overlay';
import { wholeBox } from './whole-box';

const LENS_RADIUS = 78;
/** Height of the tools at the lower edge, in CSS pixels, beyond the room that is left around what is shown. */
const TOOLS = 30;
/** How long the place that was asked for is marked. */
const MARK_MS = 4000;

/** What part of the cloth the stage shows, and where its lens and its mark are. Each stage has its own. */
@Injectable()
export class StageView {
  private readonly conversion = inject(Conversion);

  readonly size = signal<Size>({ width: 1, height: 1 });
  readonly camera = signal<Camera>({ x: 0, y: 0, scale: 4 });
  readonly lens = signal<Lens>({ x: 0, y: 0, radius: LENS_RADIUS, split: 0 });
  readonly mark = signal<Place | undefined>(undefined);
  readonly percent = computed(() => `${Math.round((this.camera().scale / (96 / 25.4)) * 100)} %`);
  private markTimer: ReturnType<typeof setTimeout> | undefined;
  private fitted = false;
  /** Whether the user chose what is shown; until then the whole picture is kept in view. */
  private touched = false;
  private shownBox = '';

  /** Point in mm under a place. */
  toHoop({ x, y }: Place): Place {
    return toHoop(this.camera(), this.size(), x, y);
  }

  /**
   * Keeps the whole in view while nobody chose anything else: when the picture gets another size, or the hoop holds more of
   * the design. What is moved on the cloth by hand does not move the cloth.
   */
  follow({ picture, several }: Design): void {
    const key = JSON.stringify([picture, several]);
    if (!this.fitted || (!this.touched && key !== this.shownBox)) this.fitAll();
    this.shownBox = key;
  }

  resize(size: Size): void {
    this.size.set(size);
    if (!this.fitted || !this.touched) this.fitAll();
  }

  fitAll(): void {
    const design = this.conversion.design();
    const whole = design && wholeBox(design);
    if (!whole || this.size().width < 50) return;
    this.fitted = true;
    this.touched = false;
    this.fitBox(whole);
    const { left, top, width: w, height: h } = design.picture ?? whole;
    this.lens.set({ x: left + w * 0.72, y: top + h * 0.66, radius: LENS_RADIUS, split: left + w / 2 });
  }

  /** Shows a part of the hoop, with a mark in its middle for a while. */
  show(box: Box): void {
    this.touched = true;
    this.fitBox(box);
    this.mark.set({ x: box.left + box.width / 2, y: box.top + box.height / 2 });
    clearTimeout(this.markTimer);
    this.markTimer = setTimeout(() => this.mark.set(undefined), MARK_MS);
  }

  zoom(factor: number, place?: Place): void {
    this.touched = true;
    const { width, height } = this.size();
    const { x, y } = place ?? { x: width / 2, y: height / 2 };
    this.camera.update((camera) => zoomAt(camera, this.size(), factor, x, y));
  }

  /** Moves the cloth by CSS pixels. */
  pan(dx: number, dy: number): void {
    this.touched = true;
    this.camera.update((camera) => pan(camera, dx, dy));
  }

  close(): void {
    clearTimeout(this.markTimer);
  }

  private fitBox(box: Box): void {
    const { width, height } = this.size();
    // Rulers cover the left and upper edge, tools the lower one.
    const camera = fit(box, { width: width - RULER, height: height - RULER - TOOLS });
    this.camera.set(pan(camera, RULER / 2, (RULER - TOOLS) / 2));
  }
}
