import { inject, Injectable, signal } from '@angular/core';
import { STITCH, type HandRow } from '@open-kite/core';
import { movedRows, pointAt } from '../../needle/hand-rows';
import { NeedleActs } from '../../needle/needle-acts';
import { toStage, type Place } from '../camera';
import { diamond, EMBER, INK, PAPER } from '../overlay';
import { StageView } from '../stage-view';
import type { Grip, StageTool } from './stage-tool';

/** Pixels around a needle point that still take hold of it. */
const NEAR = 9;
/** More points in sight than this are not marked one by one. */
const MOST_MARKED = 3000;

/** Chooses and moves single needle points of a piece. */
@Injectable()
export class NeedleTool implements StageTool {
  private readonly view = inject(StageView);
  private readonly acts = inject(NeedleActs);
  /** How far the chosen points have been pulled so far, in mm. */
  readonly by = signal<Place | undefined>(undefined);
  /** Frame that is pulled open, in mm. */
  readonly frame = signal<readonly [Place, Place] | undefined>(undefined);

  grab(place: Place): Grip | undefined {
    if (this.acts.piece() === undefined) return undefined;
    const from = this.view.toHoop(place);
    const at = pointAt(this.acts.rows(), from.x, from.y, NEAR / this.view.camera().scale);
    return at === undefined ? this.framing(from) : this.moving(at, from);
  }

  private moving(at: number, from: Place): Grip {
    let adds = false;
    return {
      cursor: 'move',
      drag: (place, _, free) => {
        adds = free;
        if (!this.acts.chosen().has(at)) this.acts.chosen.set(new Set([at]));
        const to = this.view.toHoop(place);
        this.by.set({ x: to.x - from.x, y: to.y - from.y });
      },
      drop: (moved) => {
        const by = this.by();
        this.by.set(undefined);
        if (moved && by) this.acts.move(by.x, by.y);
        else if (!moved) this.choose(at, adds);
        return true;
      },
      cancel: () => this.by.set(undefined),
    };
  }

  private framing(from: Place): Grip {
    let adds = false;
    return {
      cursor: 'crosshair',
      drag: (place, _, free) => {
        adds = free;
        this.frame.set([from, this.view.toHoop(place)]);
      },
      drop: (moved) => {
        const frame = this.frame();
        this.frame.set(undefined);
        if (moved && frame) this.acts.chosen.set(this.inside(frame, adds));
        else this.acts.chosen.set(new Set());
        // A click beside the points of the piece lets them go, and chooses another piece no sooner than Done.
        return true;
      },
      cancel: () => this.frame.set(undefined),
    };
  }

  private choose(at: number, adds: boolean): void {
    const next = new Set(adds ? this.acts.chosen() : []);
    if (adds && next.has(at)) next.delete(at);
    else next.add(at);
    this.acts.chosen.set(next);
  }

  private inside([a, b]: readonly [Place, Place], adds: boolean): ReadonlySet<number> {
    const [left, right] = [Math.min(a.x, b.x), Math.max(a.x, b.x)];
    const [top, bottom] = [Math.min(a.y, b.y), Math.max(a.y, b.y)];
    const found = this.acts
      .rows()
      .flatMap(([x, y, command], i) =>
        command === STITCH && x >= left && x <= right && y >= top && y <= bottom ? [i] : [],
      );
    return new Set([...(adds ? this.acts.chosen() : []), ...found]);
  }

  paint(context: CanvasRenderingContext2D): void {
    const rows = this.acts.rows();
    if (rows.length === 0) return;
    const chosen = this.acts.chosen();
    const by = this.by();
    const shown = by ? movedRows(rows, chosen, by.x, by.y) : rows;
    this.paintWay(context, shown);
    this.paintPoints(context, shown, chosen);
    const frame = this.frame();
    if (!frame) return;
    const [a, b] = frame.map((place) => this.on(place.x, place.y));
    context.save();
    context.setLineDash([6, 4]);
    context.strokeStyle = EMBER;
    context.strokeRect(Math.min(a.x, b.x), Math.min(a.y, b.y), Math.abs(a.x - b.x), Math.abs(a.y - b.y));
    context.restore();
  }

  private paintWay(context: CanvasRenderingContext2D, rows: readonly HandRow[]): void {
    context.beginPath();
    let down = false;
    for (const [x, y, command] of rows) {
      const at = this.on(x, y);
      if (command !== STITCH) down = false;
      else if (down) context.lineTo(at.x, at.y);
      else context.moveTo(at.x, at.y);
      down = command === STITCH;
    }
    context.lineWidth = 1.4;
    context.strokeStyle = INK;
    context.stroke();
  }

  private paintPoints(context: CanvasRenderingContext2D, rows: readonly HandRow[], chosen: ReadonlySet<number>): void {
    const { width, height } = this.view.size();
    const seen = rows.flatMap(([x, y, command], i) => {
      const at = this.on(x, y);
      const inSight = at.x > -9 && at.y > -9 && at.x < width + 9 && at.y < height + 9;
      return inSight ? [{ at, i, command }] : [];
    });
    const all = seen.length <= MOST_MARKED;
    const radius = Math.min(3.5, Math.max(1.2, this.view.camera().scale * 0.25));
    for (const { at, i, command } of seen) {
      if (command !== STITCH) paintCut(context, at);
      else if (chosen.has(i)) diamond(context, at.x, at.y, 6, EMBER);
      else if (all) diamond(context, at.x, at.y, radius, PAPER, INK);
    }
  }

  private on(x: number, y: number): Place {
    return toStage(this.view.camera(), this.view.size(), x, y);
  }
}

/** A short cut mark beside a point. */
function paintCut(context: CanvasRenderingContext2D, { x, y }: Place): void {
  context.beginPath();
  context.moveTo(x + 5, y - 9);
  context.lineTo(x + 11, y - 3);
  context.moveTo(x + 11, y - 9);
  context.lineTo(x + 5, y - 3);
  context.lineWidth = 2;
  context.strokeStyle = EMBER;
  context.stroke();
}
