import { inject, Injectable, signal } from '@angular/core';
import { PieceActs } from '../../pieces/piece-acts';
import { GradientActs } from '../../stitches/gradient-acts';
import { ChosenPiece } from '../chosen-piece';
import type { Place } from '../camera';
import { StageView } from '../stage-view';
import { angleTo, handleAt, paintHandles, shareAlong, type Handle } from '../stitch-handles';
import type { Grip, StageTool } from './stage-tool';

/** Takes hold of the stitches of the chosen piece: angle of its rows, where the needle comes and goes, its gradient. */
@Injectable()
export class HandleTool implements StageTool {
  private readonly view = inject(StageView);
  private readonly chosen = inject(ChosenPiece);
  private readonly acts = inject(PieceActs);
  private readonly gradients = inject(GradientActs);
  /** Where entry or exit has been dragged to so far. */
  readonly dragged = signal<Place | undefined>(undefined);

  grab(place: Place): Grip | undefined {
    const handles = this.chosen.handles();
    const handle = handles && handleAt(handles, place);
    if (!handle) return undefined;
    const cursor = handle === 'angle' ? 'grab' : handle.startsWith('stop') ? '' : 'move';
    return {
      cursor,
      drag: (to, _, snap) => this.drag(handle, to, snap),
      drop: () => this.drop(handle),
    };
  }

  paint(context: CanvasRenderingContext2D): void {
    if (!this.chosen.piece()) return;
    const handles = this.chosen.handles();
    if (handles) paintHandles(context, handles, this.dragged());
    // What is painted is told to whoever cannot see it.
    context.canvas.dataset['handles'] = JSON.stringify(handles ?? {});
  }

  private drag(handle: Handle, place: Place, snap: boolean): void {
    const index = this.chosen.index();
    const handles = this.chosen.handles();
    if (index === undefined || !handles) return;
    if (handle === 'angle') this.acts.setOption([index], 'angle', angleTo(handles.middle, place, snap));
    else if (handle === 'start' || handle === 'end') {
      const { x, y } = this.view.toHoop(place);
      this.gradients.setWay(handle, x, y);
    } else if (handle === 'entry' || handle === 'exit') this.dragged.set(place);
    else this.gradients.setStop(Number(handle.slice(4)), { at: shareAlong(handles, place) });
  }

  private drop(handle: Handle): boolean {
    const place = this.dragged();
    this.dragged.set(undefined);
    if (!place || (handle !== 'entry' && handle !== 'exit')) return false;
    this.acts.setEnd(this.chosen.index() ?? -1, handle, this.view.toHoop(place));
    return true;
  }
}
