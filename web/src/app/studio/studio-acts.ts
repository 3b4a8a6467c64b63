import type { Type } from '@angular/core';
import { ColourActs } from './colours/colour-acts';
import { CopyActs } from './placing/copy-acts';
import { DrawActs } from './draw/draw-acts';
import { GridActs } from './grid/grid-acts';
import { GradientActs } from './stitches/gradient-acts';
import { LetterActs } from './letters/letter-acts';
import { LitPicture } from './lit-picture';
import { MoreActs } from './objects/more-acts';
import { NeedleActs } from './needle/needle-acts';
import { ObjectActs } from './objects/object-acts';
import { OpenPicture } from './open-picture';
import { PictureTools } from './picture/picture-tools';
import { PieceActs } from './pieces/piece-acts';
import { PlaceActs } from './placing/place-acts';
import { RenderingActs } from './rendering/rendering-acts';
import { ShapeActs } from './placing/shape-acts';
import { StudioState } from './studio-state';
import { TidyActs } from './tidy/tidy-acts';
import { MethodPictures } from './rendering/method-pictures';
import { TryOutRunner } from './tryouts/try-out-runner';

/** What the parts of a studio share: each studio has its own of each. Conversion and store come besides. */
export const STUDIO_ACTS: readonly Type<unknown>[] = [
  ColourActs,
  CopyActs,
  DrawActs,
  GridActs,
  GradientActs,
  LetterActs,
  LitPicture,
  MethodPictures,
  MoreActs,
  NeedleActs,
  ObjectActs,
  OpenPicture,
  PictureTools,
  PieceActs,
  PlaceActs,
  RenderingActs,
  ShapeActs,
  StudioState,
  TidyActs,
  TryOutRunner,
];
