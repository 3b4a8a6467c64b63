import { inject, Injectable } from '@angular/core';
import { StudioState } from '../../studio-state';
import type { Place } from '../camera';
import { StageView } from '../stage-view';
import type { Grip, StageTool } from './stage-tool';

/** Pixels beside the line that still take hold of it. */
const NEAR = 12;

/** Moves the line between stitches and picture. */
@Injectable()
export class SplitTool implements StageTool {
  private readonly view = inject(StageView);
  private readonly state = inject(StudioState);
  private readonly grip: Grip = {
    cursor: 'ew-resize',
    drag: (_, by) => this.move(by.x),
  };

  /** @param dx CSS pixels */
  move(dx: number): void {
    this.view.lens.update((lens) => ({ ...lens, split: lens.split + dx / this.view.camera().scale }));
  }

  grab(place: Place): Grip | undefined {
    if (this.state.compare() !== 'split') return undefined;
    const gap = Math.abs(this.view.toHoop(place).x - this.view.lens().split) * this.view.camera().scale;
    return gap < NEAR ? this.grip : undefined;
  }
}
