import { inject, Injectable, signal } from '@angular/core';
import { simplify, sourceToHoop } from '@open-kite/core';
import { ProjectStore } from '../../../project/project-store';
import { PieceActs } from '../../pieces/piece-acts';
import { RenderingActs } from '../../rendering/rendering-acts';
import { StudioState } from '../../studio-state';
import { ChosenPiece } from '../chosen-piece';
import type { Place } from '../camera';
import { StageView } from '../stage-view';
import { paintGuides } from '../stitch-handles';
import type { Grip, StageTool } from './stage-tool';

/** Lines follow the hand this closely, and have so many numbers at most. */
const TOLERANCE_MM = 0.3;
const MOST_NUMBERS = 400;

/** Draws a line by hand: a guide for the rows of a piece, a direction of a rendering, or an area of its lines. */
@Injectable()
export class StrokeTool implements StageTool {
  private readonly view = inject(StageView);
  private readonly state = inject(StudioState);
  private readonly store = inject(ProjectStore);
  private readonly acts = inject(PieceActs);
  private readonly rendering = inject(RenderingActs);
  private readonly chosen = inject(ChosenPiece);
  /** The line so far: x and y in mm in turn. */
  readonly line = signal<readonly number[]>([]);
  private readonly grip: Grip = {
    cursor: 'crosshair',
    begin: (place) => this.add(place),
    drag: (place) => this.add(place),
    drop: () => this.end(),
  };

  grab(): Grip | undefined {
    const guides = (this.state.guiding() || this.state.leading()) && this.chosen.index() !== undefined;
    return guides || this.state.lassoing() || this.isDirecting() ? this.grip : undefined;
  }

  paint(context: CanvasRenderingContext2D): void {
    const drawn = this.line();
    const fresh = drawn.length >= 4 ? [drawn] : [];
    const knot = this.state.knot();
    const piece = this.chosen.piece();
    const way = piece?.choices.connect?.line ?? [];
    if (piece) this.paintLines(context, [...piece.choices.guides, ...(way.length >= 4 ? [way] : []), ...fresh]);
    if (knot === 'pieces' && this.rendering.led()) {
      const strokes = this.store.view()?.rendering.strokes ?? [];
      this.paintLines(context, [...strokes.map((stroke) => this.onCloth(stroke)), ...fresh]);
    }
    if (knot === 'tidy') {
      const area = this.rendering.area();
      const ring = this.onCloth([...area, ...area.slice(0, 2)]);
      this.paintLines(context, [...(ring.length >= 6 ? [ring] : []), ...fresh]);
    }
  }

  private paintLines(context: CanvasRenderingContext2D, lines: readonly (readonly number[])[]): void {
    paintGuides(context, this.view.camera(), this.view.size(), lines);
  }

  private isDirecting(): boolean {
    return this.state.stroking() && this.state.knot() === 'pieces' && this.rendering.led();
  }

  private add(place: Place): void {
    const { x, y } = this.view.toHoop(place);
    this.line.update((line) => [...line, x, y]);
  }

  private end(): true {
    const line = simplify([...this.line()], TOLERANCE_MM).slice(0, MOST_NUMBERS);
    this.line.set([]);
    if (this.state.lassoing()) {
      if (line.length >= 6) this.rendering.setArea(line);
      this.state.lassoing.set(false);
    } else if (this.isDirecting()) {
      if (line.length >= 4) this.rendering.addStroke(line);
    } else {
      const index = this.chosen.index();
      const piece = this.chosen.piece();
      if (this.state.leading()) {
        if (index !== undefined && line.length >= 4) this.acts.lead(index, line);
        this.state.leading.set(false);
      } else if (index !== undefined && piece && line.length >= 4) {
        this.acts.setGuides(index, [...piece.choices.guides, line]);
        this.state.guiding.set(false);
      }
    }
    return true;
  }

  /** Places of the picture, on the cloth. */
  private onCloth(places: readonly number[]): number[] {
    const picture = this.store.view()?.picture;
    const out: number[] = [];
    for (let i = 0; picture && i < places.length; i += 2) {
      const { x, y } = sourceToHoop(picture, places[i], places[i + 1]);
      out.push(x, y);
    }
    return out;
  }
}
