import { ChangeDetectionStrategy, Component, effect, ElementRef, inject } from '@angular/core';
import { ProjectStore } from '../../project/project-store';
import { StudioState } from '../studio-state';
import { ColoursSheet } from '../colours/colours-sheet';
import { PictureSheet } from '../picture/picture-sheet';
import { PiecesSheet } from '../pieces/pieces-sheet';
import { FirstMethod } from '../rendering/first-method';
import { LinesSheet } from '../rendering/lines-sheet';
import { RenderingSheet } from '../rendering/rendering-sheet';
import { SewSheet } from '../sew/sew-sheet';
import { StitchesSheet } from '../stitches/stitches-sheet';
import { TidySheet } from '../tidy/tidy-sheet';

/** Controls of the open step, each beside the figures it changes. */
@Component({
  selector: 'kite-sheet',
  imports: [
    ColoursSheet,
    FirstMethod,
    LinesSheet,
    PictureSheet,
    PiecesSheet,
    RenderingSheet,
    SewSheet,
    StitchesSheet,
    TidySheet,
  ],
  templateUrl: './sheet.html',
  styleUrls: ['./sheet-parts.scss', './sheet.scss'],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Sheet {
  protected readonly state = inject(StudioState);
  protected readonly recipe = inject(ProjectStore).view;

  constructor() {
    const host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
    // Another step begins at its top, however far down the last one was read.
    effect(() => {
      this.state.knot();
      host.scrollTop = 0;
    });
  }
}
