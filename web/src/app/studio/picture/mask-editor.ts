import Konva from 'konva';
import { maskCurve, nodesOf, refitMask, svgPath, type Mask, type MaskNode, type Placement } from '@open-kite/core';
import { toStage, type Camera, type Size } from '../stage/camera';
import { EMBER, INK, PAPER } from '../stage/overlay';

/** What can be done with the mask. */
export type MaskMode = 'shape' | 'points' | 'draw';

export interface EditorView {
  /** Its millimetres count from the middle of the picture. */
  readonly camera: Camera;
  readonly size: Size;
  readonly placement: Placement;
  readonly mode: MaskMode;
}

export interface EditorEvents {
  /** The mask was moved, scaled, turned or bent. */
  readonly changed: (mask: Mask) => void;
  /** The picture was turned. */
  readonly turned: (degrees: number) => void;
  /** A free mask was closed. */
  readonly drawn: (mask: Mask) => void;
  /** Something was taken hold of, or let go: the view must not move meanwhile. */
  readonly held: (holding: boolean) => void;
}

const HANDLE = 11;
/** How near to the first point a click closes a drawn mask, in CSS pixels. */
const CLOSE = 12;

interface Place {
  x: number;
  y: number;
}

/** Points of a mask while it is drawn, in mm around the middle of the picture. */
interface DrawnPoint extends Place {
  /** Handle towards the next point; that towards the one before is its mirror image. */
  outX: number;
  outY: number;
}

/** The handles of a mask over the picture, drawn with konva: knows nothing of the application around it. */
export class MaskEditor {
  private readonly stage: Konva.Stage;
  private readonly layer = new Konva.Layer();
  private readonly outline: Konva.Shape;
  private readonly frame: Konva.Transformer;
  private readonly points = new Konva.Group();
  private readonly sketch = new Konva.Group();
  private readonly kite: Konva.Group;
  private readonly string = new Konva.Line({ stroke: INK, strokeWidth: 1.5, dash: [2, 3], listening: false });
  private view: EditorView | undefined;
  private holding = false;
  private drawn: DrawnPoint[] = [];
  private selected = -1;

  constructor(
    container: HTMLDivElement,
    private readonly events: EditorEvents,
  ) {
    this.stage = new Konva.Stage({ container, width: 10, height: 10 });
    this.outline = new Konva.Shape({
      draggable: true,
      sceneFunc: (context, shape) => {
        const mask = this.view?.placement.mask;
        if (!mask) return;
        // The unit square of the mask, filled by the box the transformer works on.
        const unit: Mask = { ...mask, x: 0.5, y: 0.5, widthMm: 1, heightMm: 1, turn: 0 };
        const path = new Path2D(svgPath(maskCurve(unit), 5, true));
        const native = context._context;
        native.save();
        native.scale(shape.width(), shape.height());
        context.fillStrokeShape(shape);
        native.fillStyle = 'rgba(0,0,0,0.001)';
        native.fill(path);
        native.restore();
      },
      hitFunc: (context, shape) => {
        context.beginPath();
        context.rect(0, 0, shape.width(), shape.height());
        context.closePath();
        context.fillStrokeShape(shape);
      },
    });
    this.frame = new Konva.Transformer({
      rotateAnchorOffset: 26,
      anchorSize: HANDLE,
      anchorCornerRadius: 2,
      anchorStroke: INK,
      anchorFill: PAPER,
      anchorStrokeWidth: 2,
      borderStroke: INK,
      borderDash: [4, 4],
      flipEnabled: false,
      anchorStyleFunc: (anchor) => {
        // The kite's diamond: every handle stands on its corner.
        anchor.offset({ x: HANDLE / 2, y: HANDLE / 2 });
        anchor.rotation(45);
        if (anchor.hasName('rotater')) anchor.fill(EMBER);
      },
      boundBoxFunc: (before, after) => (after.width < 8 || after.height < 8 ? before : after),
    });
    this.kite = this.makeKite();
    this.layer.add(this.outline, this.frame, this.points, this.sketch, this.string, this.kite);
    this.stage.add(this.layer);
    this.outline.on('dragmove transform', () => this.reshaped());
    this.outline.on('dragstart transformstart', () => (this.busy = true));
    this.outline.on('dragend transformend', () => this.settled());
    this.outline.on('dblclick dbltap', () => this.addPoint());
    this.stage.on('pointerdown', (event) => this.pressed(event));
    this.stage.on('pointermove', () => this.moved());
    this.stage.on('pointerup', () => this.lifted());
  }

  private get busy(): boolean {
    return this.holding;
  }

  private set busy(holding: boolean) {
    if (holding === this.holding) return;
    this.holding = holding;
    this.events.held(holding);
  }

  close(): void {
    this.stage.destroy();
  }

  /** Number of points drawn so far. */
  get drawing(): number {
    return this.drawn.length;
  }

  update(view: EditorView): void {
    const modeBefore = this.view?.mode;
    this.view = view;
    if (modeBefore !== view.mode) {
      this.drawn = [];
      this.selected = -1;
    }
    const { size, placement, mode } = view;
    if (this.stage.width() !== size.width || this.stage.height() !== size.height) this.stage.size(size);
    const { mask } = placement;
    const shaping = mode === 'shape' && mask !== null;
    this.outline.visible(mask !== null && mode !== 'draw');
    this.outline.draggable(shaping);
    if (mask && !this.busy) this.placeOutline(mask, view);
    const nodes = this.frame.nodes();
    if (shaping && nodes.length === 0) this.frame.nodes([this.outline]);
    else if (!shaping && nodes.length > 0) this.frame.nodes([]);
    this.frame.keepRatio(mask?.shape === 'circle');
    if (shaping && !this.busy) this.frame.forceUpdate();
    this.showPoints();
    this.showSketch();
    this.showKite();
    this.layer.batchDraw();
  }

  /** Takes the last drawn point back. @returns whether there was one */
  takeBack(): boolean {
    if (this.drawn.length === 0) return false;
    this.drawn.pop();
    this.showSketch();
    this.layer.batchDraw();
    return true;
  }

  /** Deletes the chosen point of the mask. @returns whether there was one to delete */
  deletePoint(): boolean {
    const mask = this.view?.placement.mask;
    if (!mask || this.view?.mode !== 'points' || this.selected < 0) return false;
    const nodes = nodesOf(mask).filter((_, i) => i !== this.selected);
    if (nodes.length < 3) return false;
    this.selected = -1;
    this.events.changed(refitMask(mask, nodes));
    return true;
  }

  private place(x: number, y: number): Place {
    const { camera, size } = this.view as EditorView;
    return toStage(camera, size, x, y);
  }

  /** Millimetres around the middle of the picture under a place of the pane. */
  private hoop({ x, y }: Place): Place {
    const { camera, size } = this.view as EditorView;
    return { x: (x - size.width / 2) / camera.scale + camera.x, y: (y - size.height / 2) / camera.scale + camera.y };
  }

  private placeOutline(mask: Mask, { camera }: EditorView): void {
    const { x, y } = this.place(mask.x, mask.y);
    const width = mask.widthMm * camera.scale;
    const height = mask.heightMm * camera.scale;
    this.outline.setAttrs({
      x,
      y,
      width,
      height,
      offsetX: width / 2,
      offsetY: height / 2,
      scaleX: 1,
      scaleY: 1,
      rotation: mask.turn,
    });
  }

  private reshaped(): void {
    const mask = this.view?.placement.mask;
    if (!mask || !this.view) return;
    const { scale } = this.view.camera;
    const { x, y } = this.hoop(this.outline.position());
    const round = (v: number): number => Math.round(v * 100) / 100;
    this.events.changed({
      ...mask,
      x: round(x),
      y: round(y),
      widthMm: Math.max(1, round((this.outline.width() * Math.abs(this.outline.scaleX())) / scale)),
      heightMm: Math.max(1, round((this.outline.height() * Math.abs(this.outline.scaleY())) / scale)),
      turn: Math.round(((this.outline.rotation() + 540) % 360) * 10 - 1800) / 10,
    });
  }

  private settled(): void {
    this.busy = false;
    if (this.view) this.update(this.view);
  }

  // Points of the mask.

  private toUnit(mask: Mask, place: Place): Place {
    const { x, y } = this.hoop(place);
    const angle = (-mask.turn * Math.PI) / 180;
    const dx = x - mask.x;
    const dy = y - mask.y;
    return {
      x: (dx * Math.cos(angle) - dy * Math.sin(angle)) / mask.widthMm,
      y: (dx * Math.sin(angle) + dy * Math.cos(angle)) / mask.heightMm,
    };
  }

  private fromUnit(mask: Mask, u: number, v: number): Place {
    const angle = (mask.turn * Math.PI) / 180;
    const px = u * mask.widthMm;
    const py = v * mask.heightMm;
    return this.place(
      mask.x + px * Math.cos(angle) - py * Math.sin(angle),
      mask.y + px * Math.sin(angle) + py * Math.cos(angle),
    );
  }

  private showPoints(): void {
    const view = this.view as EditorView;
    const { mask } = view.placement;
    if (view.mode !== 'points' || !mask) {
      this.points.destroyChildren();
      return;
    }
    // A handle under the pointer must stay the same object while it is dragged.
    if (this.busy) return;
    this.points.destroyChildren();
    nodesOf(mask).forEach((node, i) => {
      const at = this.fromUnit(mask, node[0], node[1]);
      if (i === this.selected) {
        for (const side of [2, 4] as const) this.addHandle(mask, node, i, side, at);
      }
      const knot = new Konva.Rect({
        ...at,
        width: HANDLE,
        height: HANDLE,
        offsetX: HANDLE / 2,
        offsetY: HANDLE / 2,
        rotation: 45,
        fill: i === this.selected ? EMBER : PAPER,
        stroke: INK,
        strokeWidth: 2,
        draggable: true,
      });
      knot.on('pointerdown', () => {
        this.selected = i;
      });
      knot.on('dragstart', () => (this.busy = true));
      knot.on('dragmove', () => {
        const { x, y } = this.toUnit(mask, knot.position());
        this.bend(mask, i, [x, y, node[2], node[3], node[4], node[5]]);
      });
      knot.on('dragend click tap', () => this.settled());
      this.points.add(knot);
    });
  }

  private addHandle(mask: Mask, node: MaskNode, i: number, side: 2 | 4, at: Place): void {
    // A corner's handles start a little way out, so that there is something to take hold of.
    const sharp = node[side] === 0 && node[side + 1] === 0;
    const u = node[0] + (sharp ? (side === 2 ? -0.08 : 0.08) : node[side]);
    const v = node[1] + (sharp ? 0 : node[side + 1]);
    const end = this.fromUnit(mask, u, v);
    const line = new Konva.Line({
      points: [at.x, at.y, end.x, end.y],
      stroke: INK,
      strokeWidth: 1.2,
      listening: false,
    });
    const grip = new Konva.Circle({ ...end, radius: 5, fill: PAPER, stroke: EMBER, strokeWidth: 2, draggable: true });
    grip.on('dragstart', () => (this.busy = true));
    grip.on('dragmove', () => {
      const unit = this.toUnit(mask, grip.position());
      const [dx, dy] = [unit.x - node[0], unit.y - node[1]];
      line.points([at.x, at.y, grip.x(), grip.y()]);
      const bent: MaskNode =
        side === 2 ? [node[0], node[1], dx, dy, node[4], node[5]] : [node[0], node[1], node[2], node[3], dx, dy];
      this.bend(mask, i, bent);
    });
    grip.on('dragend', () => this.settled());
    this.points.add(line, grip);
  }

  private bend(mask: Mask, i: number, node: MaskNode): void {
    this.events.changed(
      refitMask(
        mask,
        nodesOf(mask).map((n, k) => (k === i ? node : n)),
      ),
    );
  }

  /** A double click on the outline of a mask puts a point there, without changing the outline. */
  private addPoint(): void {
    const view = this.view;
    const mask = view?.placement.mask;
    const pointer = this.stage.getPointerPosition();
    if (!view || !mask || view.mode !== 'points' || !pointer) return;
    const nodes = nodesOf(mask);
    const aim = this.toUnit(mask, pointer);
    let best = { distance: Infinity, after: 0, t: 0.5 };
    nodes.forEach((from, i) => {
      const to = nodes[(i + 1) % nodes.length];
      for (let k = 1; k < 20; k++) {
        const at = pointOn(from, to, k / 20);
        const distance = (at.x - aim.x) ** 2 + (at.y - aim.y) ** 2;
        if (distance < best.distance) best = { distance, after: i, t: k / 20 };
      }
    });
    const from = nodes[best.after];
    const to = nodes[(best.after + 1) % nodes.length];
    const [a, middle, b] = splitAt(from, to, best.t);
    const next = (best.after + 1) % nodes.length;
    const changed = nodes.map((n, i) => (i === best.after ? a : i === next ? b : n));
    changed.splice(best.after + 1, 0, middle);
    this.selected = best.after + 1;
    this.events.changed(refitMask(mask, changed));
  }

  // Drawing a free mask.

  private pressed(event: Konva.KonvaEventObject<PointerEvent>): void {
    const pointer = this.stage.getPointerPosition();
    if (this.view?.mode !== 'draw' || !pointer || event.evt.button !== 0) return;
    const first = this.drawn.at(0);
    if (first && this.drawn.length >= 3) {
      const start = this.place(first.x, first.y);
      if (Math.abs(start.x - pointer.x) + Math.abs(start.y - pointer.y) < CLOSE) {
        this.finish();
        return;
      }
    }
    this.drawn.push({ ...this.hoop(pointer), outX: 0, outY: 0 });
    this.busy = true;
    this.showSketch();
    this.layer.batchDraw();
  }

  private moved(): void {
    const pointer = this.stage.getPointerPosition();
    if (this.view?.mode !== 'draw' || !this.busy || !pointer) return;
    const point = this.drawn.at(-1);
    if (!point) return;
    const at = this.hoop(pointer);
    const far = Math.abs(at.x - point.x) + Math.abs(at.y - point.y) > 4 / this.view.camera.scale;
    point.outX = far ? at.x - point.x : 0;
    point.outY = far ? at.y - point.y : 0;
    this.showSketch();
    this.layer.batchDraw();
  }

  private lifted(): void {
    if (this.view?.mode === 'draw') this.busy = false;
  }

  private finish(): void {
    this.events.drawn(maskThrough(this.drawn));
    this.drawn = [];
    this.busy = false;
  }

  private showSketch(): void {
    this.sketch.destroyChildren();
    if (this.view?.mode !== 'draw' || this.drawn.length === 0) return;
    const { scale } = this.view.camera;
    const places = this.drawn.map((p) => ({ ...this.place(p.x, p.y), ox: p.outX * scale, oy: p.outY * scale }));
    let path = `M${places[0].x} ${places[0].y}`;
    for (let i = 1; i < places.length; i++) {
      const [a, b] = [places[i - 1], places[i]];
      path += `C${a.x + a.ox} ${a.y + a.oy} ${b.x - b.ox} ${b.y - b.oy} ${b.x} ${b.y}`;
    }
    this.sketch.add(new Konva.Path({ data: path, stroke: PAPER, strokeWidth: 4, listening: false }));
    this.sketch.add(new Konva.Path({ data: path, stroke: EMBER, strokeWidth: 2, listening: false }));
    places.forEach(({ x, y, ox, oy }, i) => {
      if (ox !== 0 || oy !== 0) {
        this.sketch.add(
          new Konva.Line({ points: [x - ox, y - oy, x + ox, y + oy], stroke: INK, strokeWidth: 1, listening: false }),
        );
      }
      const fill = i === 0 ? EMBER : PAPER;
      this.sketch.add(
        new Konva.RegularPolygon({ x, y, sides: 4, radius: 7, fill, stroke: INK, strokeWidth: 2, listening: false }),
      );
    });
  }

  // Turning the picture itself: a small kite on a string above its middle.

  private makeKite(): Konva.Group {
    const kite = new Konva.Group({ draggable: true, name: 'turn' });
    kite.add(
      new Konva.Line({
        points: [0, -11, 8, -2, 0, 12, -8, -2],
        closed: true,
        fill: EMBER,
        stroke: PAPER,
        strokeWidth: 2,
      }),
    );
    kite.on('dragstart', () => (this.busy = true));
    kite.on('dragmove', () => {
      const middle = this.place(0, 0);
      const angle = (Math.atan2(kite.x() - middle.x, middle.y - kite.y()) * 180) / Math.PI;
      // Near the upright and level positions the picture snaps to them.
      const near = Math.round(angle / 45) * 45;
      this.events.turned(Math.abs(angle - near) < 1.5 ? near : Math.round(angle * 10) / 10);
    });
    kite.on('dragend', () => this.settled());
    return kite;
  }

  private showKite(): void {
    const { placement, mode, camera, size } = this.view as EditorView;
    // With a mask the handles are the mask's; the picture is turned by its number then.
    const visible = placement.mask === null && mode !== 'draw';
    this.kite.visible(visible);
    this.string.visible(visible);
    if (!visible) return;
    const middle = this.place(0, 0);
    const radius = Math.min(
      (Math.min(placement.widthMm, placement.heightMm) / 2) * camera.scale * 0.72,
      size.height / 2 - 24,
    );
    const angle = (placement.turn * Math.PI) / 180;
    if (!this.busy)
      this.kite.position({ x: middle.x + Math.sin(angle) * radius, y: middle.y - Math.cos(angle) * radius });
    this.string.points([middle.x, middle.y, this.kite.x(), this.kite.y()]);
  }
}

/** A free mask through drawn points. */
export function maskThrough(points: readonly DrawnPoint[]): Mask {
  const nodes = points.map(({ x, y, outX, outY }): MaskNode => [x, y, -outX, -outY, outX, outY]);
  return refitMask({ shape: 'free', x: 0, y: 0, widthMm: 1, heightMm: 1, turn: 0, nodes }, nodes);
}

function pointOn(from: MaskNode, to: MaskNode, t: number): Place {
  const [, m] = splitAt(from, to, t);
  return { x: m[0], y: m[1] };
}

/** Cuts the curve between two points in two (de Casteljau): the points before, at and after the cut. */
function splitAt(from: MaskNode, to: MaskNode, t: number): [MaskNode, MaskNode, MaskNode] {
  const mix = (a: Place, b: Place): Place => ({ x: a.x + (b.x - a.x) * t, y: a.y + (b.y - a.y) * t });
  const p0 = { x: from[0], y: from[1] };
  const p1 = { x: from[0] + from[4], y: from[1] + from[5] };
  const p2 = { x: to[0] + to[2], y: to[1] + to[3] };
  const p3 = { x: to[0], y: to[1] };
  const straight = from[4] === 0 && from[5] === 0 && to[2] === 0 && to[3] === 0;
  const [a, b, c] = [mix(p0, p1), mix(p1, p2), mix(p2, p3)];
  const [d, e] = [mix(a, b), mix(b, c)];
  const m = straight ? mix(p0, p3) : mix(d, e);
  if (straight) return [from, [m.x, m.y, 0, 0, 0, 0], to];
  return [
    [from[0], from[1], from[2], from[3], a.x - p0.x, a.y - p0.y],
    [m.x, m.y, d.x - m.x, d.y - m.y, e.x - m.x, e.y - m.y],
    [to[0], to[1], c.x - p3.x, c.y - p3.y, to[4], to[5]],
  ];
}
