import { inject, Injectable } from '@angular/core';
import { StageView } from '../stage-view';
import type { Grip, StageTool } from './stage-tool';

/** Moves the cloth. */
@Injectable()
export class PanTool implements StageTool {
  private readonly view = inject(StageView);
  private readonly grip: Grip = { cursor: '', drag: (_, by) => this.view.pan(by.x, by.y) };

  grab(): Grip {
    return this.grip;
  }
}
