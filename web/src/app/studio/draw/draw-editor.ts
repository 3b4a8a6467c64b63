import Konva from 'konva';
import type { DrawnPath } from '@open-kite/core';
import { EMBER, INK, PAPER } from '../stage/overlay';
import type { DrawTool } from './draw-acts';
import {
  boxShape,
  corner,
  gap,
  mirror,
  NEAR,
  pathOf,
  smoothed,
  splitNearest,
  toggleCorner,
  toPath,
  toRun,
  type DrawMap,
  type Node,
  type Run,
} from './draw-runs';

import { close, cutAt, joined, nearestEnds, simplified, straighten } from './run-edits';

/** How the editor sees the stage. */
export interface DrawView extends DrawMap {
  readonly width: number;
  readonly height: number;
  readonly tool: DrawTool;
  /** Paths whose points are moved. */
  readonly paths: readonly DrawnPath[];
  /** Ends of lines that new points snap to, in CSS pixels. */
  readonly ends: readonly { readonly x: number; readonly y: number }[];
}

export interface DrawEvents {
  readonly drawn: (paths: DrawnPath[]) => void;
  readonly reshaped: (paths: DrawnPath[]) => void;
  readonly pointed: (u: number, v: number) => void;
  /** Other points are chosen. */
  readonly chose?: () => void;
}

/** What can be done to points. */
export type PointEdit = 'corner' | 'cut' | 'close' | 'join' | 'straighten' | 'simplify';

/** A simpler line leaves the one before it by no more than this, in CSS pixels. */
const SIMPLER = 1.5;

/** Draws and moves points over the stage with konva: knows nothing of the application around it. */
export class DrawEditor {
  private readonly stage: Konva.Stage;
  private readonly layer = new Konva.Layer();
  private readonly shape: Konva.Shape;
  private view: DrawView | undefined;
  private runs: Run[] = [];
  /** Points of a line drawn freely, or of the box of a shape. */
  private free: number[] = [];
  private pointer: { x: number; y: number } | undefined;
  private held: { run: Run; node: Node; part: 'node' | 'in' | 'out' | 'new'; moved?: boolean } | undefined;
  private selected: Node | undefined;
  /** Points that are chosen together, the one last pressed among them. */
  private chosen = new Set<Node>();
  private adds = false;

  constructor(
    container: HTMLDivElement,
    private readonly events: DrawEvents,
  ) {
    this.stage = new Konva.Stage({ container, width: 10, height: 10 });
    this.shape = new Konva.Shape({ listening: false, sceneFunc: (context) => this.paint(context._context) });
    this.layer.add(this.shape);
    this.stage.add(this.layer);
    this.stage.on('pointerdown', (event) => {
      this.adds = event.evt.shiftKey;
      if (event.evt.button === 0) this.pressed();
    });
    this.stage.on('pointermove', () => this.moved());
    this.stage.on('pointerup', () => this.lifted());
    this.stage.on('pointerdblclick', () => this.doubled());
  }

  close(): void {
    this.stage.destroy();
  }

  update(view: DrawView): void {
    const before = this.view;
    this.view = view;
    if (this.stage.width() !== view.width || this.stage.height() !== view.height) {
      this.stage.size({ width: view.width, height: view.height });
    }
    if (JSON.stringify(before?.tool) !== JSON.stringify(view.tool)) {
      this.runs = [];
      this.free = [];
      this.selected = undefined;
    } else if (before && this.runs.length > 0 && view.tool.kind !== 'edit') {
      // The cloth was moved: what is being drawn stays on its place.
      const kept = this.runs.map((run) => toPath(run, before));
      this.runs = kept.map((path) => toRun(path, view));
    }
    if (view.tool.kind === 'edit' && !this.held) {
      const at = this.indexOf(this.selected);
      const all = [...this.chosen].flatMap((node) => [this.indexOf(node) ?? []]);
      this.runs = view.paths.map((path) => toRun(path, view));
      this.selected = at && this.runs[at[0]]?.nodes[at[1]];
      this.chosen = new Set(
        all.flatMap(([r, k]) => (r === undefined || k === undefined ? [] : (this.runs[r]?.nodes[k] ?? []))),
      );
    }
    this.layer.batchDraw();
  }

  /** Ends what is being drawn as an open line. */
  finish(): void {
    const [run] = this.runs;
    if (this.view?.tool.kind !== 'points' || !run || run.nodes.length < 2) return;
    this.give(run);
  }

  /** Takes the last point back, or the chosen one away. @returns whether there was one */
  removePoint(): boolean {
    const { view } = this;
    if (!view) return false;
    if (view.tool.kind === 'points') {
      const [run] = this.runs;
      if (!run) return false;
      run.nodes.pop();
      if (run.nodes.length === 0) this.runs = [];
      this.layer.batchDraw();
      return true;
    }
    const at = this.indexOf(this.selected);
    if (view.tool.kind !== 'edit' || !at) return false;
    const run = this.runs[at[0]];
    const gone = new Set([...this.chosen, run.nodes[at[1]]]);
    const left = this.runs.map(({ closed, nodes }) => ({ closed, nodes: nodes.filter((node) => !gone.has(node)) }));
    if (left.some(({ closed, nodes }) => nodes.length < (closed ? 3 : 2))) return false;
    this.runs = left;
    this.letGo();
    this.reshaped();
    return true;
  }

  /** Moves the chosen point by CSS pixels. @returns whether there is one */
  nudge(dx: number, dy: number): boolean {
    if (this.view?.tool.kind !== 'edit' || !this.selected) return false;
    for (const node of new Set([...this.chosen, this.selected])) {
      node.x += dx;
      node.y += dy;
    }
    this.reshaped();
    return true;
  }

  /** What of the points is chosen, for whoever offers what can be done with it. */
  get chosenCount(): number {
    return this.chosen.size;
  }

  /** Number of points, and how many a simpler line would have. */
  counts(): { readonly now: number; readonly simpler: number } {
    const count = (runs: readonly Run[]): number => runs.reduce((sum, { nodes }) => sum + nodes.length, 0);
    return { now: count(this.runs), simpler: count(this.runs.map((run) => simplified(run, SIMPLER))) };
  }

  /** How far apart the nearest ends of two lines are, in CSS pixels; undefined where there are not two. */
  endGap(): number | undefined {
    return nearestEnds(this.runs)?.gap;
  }

  /** Does something to the points. @returns whether there was anything to do */
  edit(what: PointEdit): boolean {
    if (this.view?.tool.kind !== 'edit') return false;
    const before = this.runs;
    const { selected } = this;
    const own = before.find(({ nodes }) => selected !== undefined && nodes.includes(selected));
    switch (what) {
      case 'corner':
        if (!own || !selected) return false;
        for (const node of new Set([...this.chosen, selected])) {
          const of = before.find(({ nodes }) => nodes.includes(node));
          if (of) toggleCorner(of, node);
        }
        break;
      case 'cut':
        if (!own || !selected) return false;
        this.runs = before.flatMap((run) => (run === own ? cutAt(run, selected) : [run]));
        break;
      case 'close':
        if (!(own ? [own] : before).map(close).some(Boolean)) return false;
        break;
      case 'join': {
        const ends = nearestEnds(before);
        if (!ends) return false;
        this.runs = [...before.filter((run) => run !== ends.a && run !== ends.b), joined(ends.a, ends.b)];
        break;
      }
      case 'straighten':
        if (!before.map((run) => straighten(run, this.chosen)).some(Boolean)) return false;
        break;
      case 'simplify':
        this.runs = before.map((run) => simplified(run, SIMPLER));
        if (this.counts().now === before.reduce((sum, { nodes }) => sum + nodes.length, 0)) return false;
    }
    if (what !== 'corner' && what !== 'straighten') this.letGo();
    this.reshaped();
    return true;
  }

  private choose(node: Node | undefined): void {
    this.selected = node;
    if (!node) {
      if (!this.adds) this.chosen.clear();
    } else if (this.adds) {
      if (this.chosen.has(node)) this.chosen.delete(node);
      else this.chosen.add(node);
    } else if (!this.chosen.has(node)) this.chosen = new Set([node]);
    this.events.chose?.();
  }

  private letGo(): void {
    this.selected = undefined;
    this.chosen.clear();
    this.events.chose?.();
  }

  private reshaped(): void {
    const { view } = this;
    if (view) this.events.reshaped(this.runs.map((run) => toPath(run, view)));
    this.layer.batchDraw();
  }

  private give(run: Run): void {
    const { view } = this;
    this.runs = [];
    this.free = [];
    this.layer.batchDraw();
    if (view) this.events.drawn([toPath(run, view)]);
  }

  private indexOf(node: Node | undefined): [number, number] | undefined {
    if (!node) return undefined;
    for (const [r, run] of this.runs.entries()) {
      const at = run.nodes.indexOf(node);
      if (at >= 0) return [r, at];
    }
    return undefined;
  }

  private place(): { x: number; y: number } | undefined {
    const at = this.stage.getPointerPosition();
    if (!at) return undefined;
    const end = this.view?.ends.find((e) => gap(e, at) < NEAR);
    return end && this.view?.tool.kind !== 'edit' ? { ...end } : at;
  }

  private pressed(): void {
    const at = this.place();
    const { view } = this;
    if (!at || !view) return;
    switch (view.tool.kind) {
      case 'area': {
        const { u, v } = view.toSource(at.x, at.y);
        return this.events.pointed(u, v);
      }
      case 'free':
      case 'shape':
        this.free = [at.x, at.y];
        return;
      case 'points': {
        const [run] = this.runs;
        if (run && run.nodes.length > 2 && gap(run.nodes[0], at) < NEAR) {
          run.closed = true;
          return this.give(run);
        }
        const node = corner(at.x, at.y);
        if (run) run.nodes.push(node);
        else this.runs = [{ closed: false, nodes: [node] }];
        this.held = { run: this.runs[0], node, part: 'new' };
        break;
      }
      case 'edit':
        this.held = this.grabbed(at);
        this.choose(this.held?.node);
    }
    this.layer.batchDraw();
  }

  private grabbed(at: { x: number; y: number }): typeof this.held {
    if (this.selected) {
      const index = this.indexOf(this.selected);
      const run = index && this.runs[index[0]];
      const { x, y, inX, inY, outX, outY } = this.selected;
      if (run && (outX !== 0 || outY !== 0) && gap({ x: x + outX, y: y + outY }, at) < NEAR)
        return { run, node: this.selected, part: 'out' };
      if (run && (inX !== 0 || inY !== 0) && gap({ x: x + inX, y: y + inY }, at) < NEAR)
        return { run, node: this.selected, part: 'in' };
    }
    let best: typeof this.held;
    let least = NEAR;
    for (const run of this.runs) {
      for (const node of run.nodes) {
        const d = gap(node, at);
        if (d < least) {
          least = d;
          best = { run, node, part: 'node' };
        }
      }
    }
    return best;
  }

  private moved(): void {
    const at = this.place();
    if (!at) return;
    this.pointer = at;
    if (this.free.length > 0) {
      if (this.view?.tool.kind === 'shape') this.free = [...this.free.slice(0, 2), at.x, at.y];
      else this.free.push(at.x, at.y);
    }
    const { held } = this;
    if (held) {
      held.moved = true;
      const { node } = held;
      const [dx, dy] = [at.x - node.x, at.y - node.y];
      if (held.part === 'node') {
        // What is chosen together moves together.
        for (const other of this.chosen) {
          if (other === node) continue;
          other.x += dx;
          other.y += dy;
        }
        node.x = at.x;
        node.y = at.y;
      } else if (held.part === 'in') {
        node.inX = dx;
        node.inY = dy;
        mirror(node, 'out');
      } else if (held.part === 'out' || Math.abs(dx) + Math.abs(dy) > 5) {
        // Pulling at a new point bends the line through it.
        node.outX = dx;
        node.outY = dy;
        if (held.part === 'new') {
          node.inX = -dx;
          node.inY = -dy;
        } else mirror(node, 'in');
      }
    }
    this.layer.batchDraw();
  }

  private lifted(): void {
    const { held, view, free } = this;
    this.held = undefined;
    if (!view) return;
    if (held && view.tool.kind === 'edit') {
      if (held.moved) return this.reshaped();
      // Pressed and let go where it was: it alone is meant, not what was chosen with it.
      if (held.part === 'node' && !this.adds) {
        this.chosen = new Set([held.node]);
        this.events.chose?.();
        this.layer.batchDraw();
      }
      return;
    }
    if (view.tool.kind === 'shape' && free.length === 4) {
      const [x, y, toX, toY] = free;
      this.free = [];
      if (Math.abs(toX - x) < 4 || Math.abs(toY - y) < 4) return this.layer.batchDraw() && undefined;
      this.give(boxShape(view.tool.shape, x, y, toX, toY));
    } else if (view.tool.kind === 'free' && free.length > 0) {
      this.free = [];
      if (free.length < 12) return this.layer.batchDraw() && undefined;
      const n = free.length;
      const closed = gap({ x: free[0], y: free[1] }, { x: free[n - 2], y: free[n - 1] }) < NEAR && n > 40;
      this.give(smoothed(closed ? free.slice(0, -2) : free, closed));
    }
  }

  /** Ends a line; or, on an outline whose points are moved, adds a point or makes a corner round and back. */
  private doubled(): void {
    const { view } = this;
    const at = this.stage.getPointerPosition();
    if (!view || !at) return;
    if (view.tool.kind === 'points') {
      const [run] = this.runs;
      if (!run) return;
      // Two quick clicks at different places set two points; at one place the second ends the line.
      const n = run.nodes.length;
      if (n < 2 || gap(run.nodes[n - 1], run.nodes[n - 2]) > NEAR / 2) return;
      run.nodes.pop();
      if (run.nodes.length >= 2) this.give(run);
      return;
    }
    if (view.tool.kind !== 'edit') return;
    const grabbed = this.grabbed(at);
    if (grabbed?.part === 'node') {
      toggleCorner(grabbed.run, grabbed.node);
      this.reshaped();
      return;
    }
    const added = splitNearest(this.runs, at);
    if (!added) return;
    this.selected = added;
    this.reshaped();
  }

  private paint(context: CanvasRenderingContext2D): void {
    const stroke = (path: Path2D): void => {
      context.lineJoin = 'round';
      context.lineWidth = 4;
      context.strokeStyle = PAPER;
      context.stroke(path);
      context.lineWidth = 1.8;
      context.strokeStyle = EMBER;
      context.stroke(path);
    };
    for (const run of this.runs) {
      stroke(pathOf(run));
      const last = run.nodes[run.nodes.length - 1];
      if (this.view?.tool.kind === 'points' && this.pointer && last && !this.held) {
        const next = new Path2D();
        next.moveTo(last.x, last.y);
        next.bezierCurveTo(
          last.x + last.outX,
          last.y + last.outY,
          this.pointer.x,
          this.pointer.y,
          this.pointer.x,
          this.pointer.y,
        );
        context.setLineDash([5, 4]);
        context.lineWidth = 1.4;
        context.strokeStyle = INK;
        context.stroke(next);
        context.setLineDash([]);
      }
      for (const node of run.nodes)
        kiteAt(context, node.x, node.y, node === this.selected || this.chosen.has(node) ? EMBER : PAPER);
    }
    if (this.selected) this.paintHandles(context, this.selected);
    if (this.free.length >= 4) {
      const { tool } = this.view as DrawView;
      if (tool.kind === 'shape') {
        const [x, y, toX, toY] = this.free;
        stroke(pathOf(boxShape(tool.shape, x, y, toX, toY)));
      } else {
        const path = new Path2D();
        path.moveTo(this.free[0], this.free[1]);
        for (let i = 2; i < this.free.length; i += 2) path.lineTo(this.free[i], this.free[i + 1]);
        stroke(path);
      }
    }
    if (this.pointer && this.view?.ends.some((end) => gap(end, this.pointer as Node) < 1)) {
      context.beginPath();
      context.arc(this.pointer.x, this.pointer.y, 9, 0, 7);
      context.lineWidth = 2;
      context.strokeStyle = EMBER;
      context.stroke();
    }
  }

  private paintHandles(context: CanvasRenderingContext2D, node: Node): void {
    for (const [dx, dy] of [
      [node.inX, node.inY],
      [node.outX, node.outY],
    ]) {
      if (dx === 0 && dy === 0) continue;
      context.beginPath();
      context.moveTo(node.x, node.y);
      context.lineTo(node.x + dx, node.y + dy);
      context.lineWidth = 1.2;
      context.strokeStyle = INK;
      context.stroke();
      context.beginPath();
      context.arc(node.x + dx, node.y + dy, 4.5, 0, 7);
      context.fillStyle = PAPER;
      context.fill();
      context.stroke();
    }
  }
}

function kiteAt(context: CanvasRenderingContext2D, x: number, y: number, fill: string): void {
  context.beginPath();
  context.moveTo(x, y - 6);
  context.lineTo(x + 5, y);
  context.lineTo(x, y + 6);
  context.lineTo(x - 5, y);
  context.closePath();
  context.fillStyle = fill;
  context.fill();
  context.lineWidth = 1.6;
  context.strokeStyle = INK;
  context.stroke();
}
