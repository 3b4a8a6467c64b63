import { computed, inject, Injectable } from '@angular/core';
import { curveThrough, edgeOf, mapPoint, svgPath, type Bounds, type Matrix } from '@open-kite/core';
import { Conversion } from '../../../convert/conversion';
import { ProjectStore } from '../../../project/project-store';
import { cornersOf, pulled, type FramePart } from '../../placing/gesture';
import { CopyActs } from '../../placing/copy-acts';
import { NeedleActs } from '../../needle/needle-acts';
import { PlaceActs } from '../../placing/place-acts';
import { StudioState } from '../../studio-state';
import { toStage, type Place } from '../camera';
import { diamond, EMBER, INK, PAPER } from '../overlay';
import { pieceAt } from '../piece-at';
import { StageView } from '../stage-view';
import type { Grip, StageTool } from './stage-tool';

/** Pixels around a handle that still take hold of it. */
const NEAR = 11;
/** Length of the string to the handle that turns, in CSS pixels. */
const STRING = 30;
/** Things smaller than this on the stage are taken hold of anywhere in their frame. */
const SMALL = 26;
/** More outlines than this are not drawn while things are moved: their frame says enough. */
const MOST_OUTLINES = 400;

const CURSORS: Readonly<Record<FramePart, string>> = {
  nw: 'nwse-resize',
  se: 'nwse-resize',
  ne: 'nesw-resize',
  sw: 'nesw-resize',
  turn: 'grab',
  inside: 'move',
};

const LABELS: Readonly<Record<FramePart, string>> = {
  nw: 'scaled',
  ne: 'scaled',
  se: 'scaled',
  sw: 'scaled',
  turn: 'turned',
  inside: 'moved',
};

/** Takes hold of what is chosen: pressed and pulled it moves, its corners scale, the diamond on the string turns. */
@Injectable()
export class PlaceTool implements StageTool {
  private readonly view = inject(StageView);
  private readonly state = inject(StudioState);
  private readonly store = inject(ProjectStore);
  private readonly conversion = inject(Conversion);
  private readonly acts = inject(PlaceActs);
  private readonly copies = inject(CopyActs);
  private readonly needle = inject(NeedleActs);

  /** Steps in which things are moved: before them the picture itself is worked on. */
  private readonly active = computed(() => {
    const knot = this.state.knot();
    const steps = knot === 'pieces' || knot === 'stitches' || knot === 'tidy';
    return (
      steps &&
      this.needle.piece() === undefined &&
      this.state.row() === undefined &&
      !this.state.picking() &&
      this.acts.movable()
    );
  });

  /** Frame of what is chosen, in mm. */
  readonly box = computed(() => (this.active() ? this.acts.box() : undefined));

  /** Outlines of what is chosen as it was found, in mm: they are shown where it is pulled to. */
  private readonly outline = computed((): Path2D => {
    const path = new Path2D();
    const design = this.conversion.design();
    const objects = this.store.recipe()?.objects ?? [];
    const { objects: ids } = this.acts.things();
    const own = new Set(ids);
    const selected = this.state.selected();
    let count = 0;
    design?.pieces.forEach((piece, i) => {
      if ((!selected.has(i) && !own.has(piece.object)) || count > MOST_OUTLINES) return;
      count++;
      for (const curve of piece.outline) path.addPath(new Path2D(svgPath(curve, 2, true)));
    });
    for (const id of ids) {
      if (objects.find((object) => object.id === id)?.kind !== 'picture') continue;
      for (const ring of edgeOf(objects, id) ?? []) path.addPath(new Path2D(svgPath(curveThrough(ring), 2, true)));
    }
    return path;
  });

  grab(place: Place): Grip | undefined {
    const box = this.box();
    const part = box && this.partAt(box, place);
    if (!part) return undefined;
    const from = this.view.toHoop(place);
    return {
      cursor: CURSORS[part],
      drag: (to, _, free, alt) => {
        const copy = alt && part === 'inside';
        this.acts.gesture.set({ by: pulled(part, box, from, this.view.toHoop(to), free, alt && !copy), copy });
      },
      drop: (moved) => moved && this.drop(LABELS[part]),
      cancel: () => this.acts.gesture.set(undefined),
    };
  }

  private drop(label: string): true {
    const gesture = this.acts.gesture();
    this.acts.gesture.set(undefined);
    if (gesture?.copy) this.copies.duplicate(gesture.by);
    else if (gesture) this.acts.apply(label, gesture.by);
    return true;
  }

  paint(context: CanvasRenderingContext2D): void {
    const box = this.box();
    context.canvas.dataset['frame'] = JSON.stringify(box ? this.placesOf(box) : {});
    if (!box) return;
    const by = this.acts.gesture()?.by;
    if (by) this.paintOutline(context, this.acts.shown());
    this.paintFrame(context, box, by);
  }

  /** What of the frame is at a place. */
  private partAt(box: Bounds, place: Place): FramePart | undefined {
    const places = this.placesOf(box);
    for (const part of ['turn', 'nw', 'ne', 'se', 'sw'] as const) {
      const at = places[part];
      if (Math.abs(at.x - place.x) + Math.abs(at.y - place.y) <= NEAR * 1.4) return part;
    }
    const { nw, se } = places;
    if (place.x < nw.x || place.x > se.x || place.y < nw.y || place.y > se.y) return undefined;
    const small = Math.min(se.x - nw.x, se.y - nw.y) < SMALL;
    if (small || this.state.wholes().size > 0) return 'inside';
    const design = this.conversion.design();
    const { x, y } = this.view.toHoop(place);
    const index = design && pieceAt(design, x, y);
    const piece = index === undefined ? undefined : design?.pieces[index];
    if (index === undefined || !piece) return undefined;
    return this.state.selected().has(index) || this.acts.things().objects.includes(piece.object) ? 'inside' : undefined;
  }

  private placesOf(box: Bounds): Readonly<Record<'nw' | 'ne' | 'se' | 'sw' | 'turn', Place>> {
    const on = ({ x, y }: Place): Place => toStage(this.view.camera(), this.view.size(), x, y);
    const { nw, ne, se, sw } = cornersOf(box);
    const corners = { nw: on(nw), ne: on(ne), se: on(se), sw: on(sw) };
    const x = (corners.nw.x + corners.ne.x) / 2;
    // On a frame that begins above the stage the string hangs below it.
    const above = corners.nw.y > STRING + NEAR + 20;
    return { ...corners, turn: { x, y: above ? corners.nw.y - STRING : corners.sw.y + STRING } };
  }

  private paintOutline(context: CanvasRenderingContext2D, by: Matrix): void {
    const { x, y, scale } = this.view.camera();
    const { width, height } = this.view.size();
    const shown = new Path2D();
    const { a, b, c, d, e, f } = by;
    const onStage = new DOMMatrix([scale, 0, 0, scale, width / 2 - x * scale, height / 2 - y * scale]);
    shown.addPath(this.outline(), onStage.multiply(new DOMMatrix([a, b, c, d, e, f])));
    context.lineJoin = 'round';
    context.lineWidth = 4;
    context.strokeStyle = PAPER;
    context.stroke(shown);
    context.lineWidth = 1.8;
    context.strokeStyle = EMBER;
    context.stroke(shown);
  }

  private paintFrame(context: CanvasRenderingContext2D, box: Bounds, by: Matrix | undefined): void {
    const places = this.placesOf(box);
    const on = (place: Place): Place => {
      if (!by) return place;
      const { x, y } = this.view.toHoop(place);
      const [mx, my] = mapPoint(by, x, y);
      return toStage(this.view.camera(), this.view.size(), mx, my);
    };
    const corners = [on(places.nw), on(places.ne), on(places.se), on(places.sw)];
    context.save();
    context.lineWidth = 1.2;
    context.strokeStyle = INK;
    context.setLineDash([2, 3]);
    context.beginPath();
    corners.forEach(({ x, y }, i) => (i === 0 ? context.moveTo(x, y) : context.lineTo(x, y)));
    context.closePath();
    context.stroke();
    context.setLineDash([]);
    if (!by) {
      const { turn } = places;
      const end = turn.y < places.nw.y ? places.nw.y : places.sw.y;
      context.beginPath();
      context.moveTo(turn.x, end);
      // The string of a kite, with a little slack.
      context.quadraticCurveTo(turn.x + 6, (end + turn.y) / 2, turn.x, turn.y);
      context.stroke();
      diamond(context, turn.x, turn.y, 8, EMBER);
    }
    for (const { x, y } of corners) diamond(context, x, y, 6, PAPER, INK);
    context.restore();
  }
}
