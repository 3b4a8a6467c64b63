import { inject, Injectable } from '@angular/core';
import { StudioState } from '../../studio-state';
import type { Place } from '../camera';
import { StageView } from '../stage-view';
import type { Grip, StageTool } from './stage-tool';

/** Moves the lens. */
@Injectable()
export class LensTool implements StageTool {
  private readonly view = inject(StageView);
  private readonly state = inject(StudioState);
  private readonly grip: Grip = { cursor: 'move', drag: (_, by) => this.move(by.x, by.y) };

  grab(place: Place): Grip | undefined {
    if (this.state.compare() !== 'lens') return undefined;
    const { x, y } = this.view.toHoop(place);
    const lens = this.view.lens();
    const gap = Math.sqrt((x - lens.x) ** 2 + (y - lens.y) ** 2) * this.view.camera().scale;
    return gap <= lens.radius ? this.grip : undefined;
  }

  /** Moves it by CSS pixels. */
  move(dx: number, dy: number): void {
    const { scale } = this.view.camera();
    this.view.lens.update((lens) => ({ ...lens, x: lens.x + dx / scale, y: lens.y + dy / scale }));
  }
}
