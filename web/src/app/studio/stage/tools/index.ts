import type { Type } from '@angular/core';
import { HandleTool } from './handle-tool';
import { LensTool } from './lens-tool';
import { PanTool } from './pan-tool';
import { SplitTool } from './split-tool';
import type { StageTool } from './stage-tool';
import { StrokeTool } from './stroke-tool';

/** Every tool of the stage; the first that has something at a place takes hold of it. */
export const STAGE_TOOLS: readonly Type<StageTool>[] = [LensTool, SplitTool, StrokeTool, HandleTool, PanTool];
