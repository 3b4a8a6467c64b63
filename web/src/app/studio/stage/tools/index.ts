import type { Type } from '@angular/core';
import { HandleTool } from './handle-tool';
import { LensTool } from './lens-tool';
import { FrameTool } from './frame-tool';
import { NeedleTool } from './needle-tool';
import { PanTool } from './pan-tool';
import { PlaceTool } from './place-tool';
import { SplitTool } from './split-tool';
import type { StageTool } from './stage-tool';
import { StrokeTool } from './stroke-tool';

/** Every tool of the stage; the first that has something at a place takes hold of it. */
export const STAGE_TOOLS: readonly Type<StageTool>[] = [
  LensTool,
  SplitTool,
  StrokeTool,
  NeedleTool,
  HandleTool,
  PlaceTool,
];

/** Tools that have something everywhere: what else a press may do. */
export const FALLBACK_TOOLS: readonly Type<StageTool>[] = [FrameTool, PanTool];
