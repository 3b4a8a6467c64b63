import { inject, Injectable, signal } from '@angular/core';
import { Conversion } from '../../../convert/conversion';
import { StudioState } from '../../studio-state';
import type { Place } from '../camera';
import { EMBER } from '../overlay';
import { StageView } from '../stage-view';
import type { Grip, StageTool } from './stage-tool';

/** A frame that is pulled open, in CSS pixels. */
interface Frame {
  readonly from: Place;
  readonly to: Place;
}

/** Pulled over empty cloth: a frame that chooses all pieces inside it. */
@Injectable()
export class FrameTool implements StageTool {
  private readonly view = inject(StageView);
  private readonly state = inject(StudioState);
  private readonly conversion = inject(Conversion);
  readonly frame = signal<Frame | undefined>(undefined);
  private start: Place = { x: 0, y: 0 };
  private adds = false;
  private readonly grip: Grip = {
    cursor: '',
    begin: (place) => (this.start = place),
    drag: (to, _, adds) => {
      this.adds = adds;
      this.frame.set({ from: this.start, to });
    },
    drop: (moved) => moved && this.choose(),
    cancel: () => this.frame.set(undefined),
  };

  grab(): Grip {
    return this.grip;
  }

  paint(context: CanvasRenderingContext2D): void {
    const frame = this.frame();
    if (!frame) return;
    const { from, to } = frame;
    context.save();
    context.setLineDash([6, 4]);
    context.lineWidth = 1.5;
    context.strokeStyle = EMBER;
    context.fillStyle = 'rgb(200 72 31 / 8%)';
    context.beginPath();
    context.rect(Math.min(from.x, to.x), Math.min(from.y, to.y), Math.abs(to.x - from.x), Math.abs(to.y - from.y));
    context.fill();
    context.stroke();
    context.restore();
  }

  private choose(): true {
    const frame = this.frame();
    this.frame.set(undefined);
    const design = this.conversion.design();
    if (!frame || !design) return true;
    const [a, b] = [this.view.toHoop(frame.from), this.view.toHoop(frame.to)];
    const box = {
      left: Math.min(a.x, b.x),
      top: Math.min(a.y, b.y),
      right: Math.max(a.x, b.x),
      bottom: Math.max(a.y, b.y),
    };
    const inside = design.pieces.flatMap(({ bounds }, i) =>
      bounds.left >= box.left && bounds.right <= box.right && bounds.top >= box.top && bounds.bottom <= box.bottom
        ? [i]
        : [],
    );
    this.state.selectAll(this.adds ? [...this.state.selected(), ...inside] : inside);
    return true;
  }
}
