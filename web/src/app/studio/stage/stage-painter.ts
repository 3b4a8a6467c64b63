import { computed, inject, Injectable, Injector, signal } from '@angular/core';
import { fabricNamed, fabricUnder, frameOf, PREVIEW_MARGIN_MM, pulledDesign, type Design } from '@open-kite/core';
import { Conversion } from '../../convert/conversion';
import { SpareWorkers } from '../../convert/spare-workers';
import { ProjectStore } from '../../project/project-store';
import { Preferences } from '../../shared/preferences';
import { LitPicture } from '../lit-picture';
import { OpenPicture } from '../open-picture';
import { RenderingActs } from '../rendering/rendering-acts';
import { StudioState, type StageLook } from '../studio-state';
import { NeedleActs } from '../needle/needle-acts';
import { PlaceActs } from '../placing/place-acts';
import { TidyActs } from '../tidy/tidy-acts';
import { toStage } from './camera';
import {
  diamond,
  EMBER,
  paintCompare,
  paintFindings,
  paintHoop,
  paintMarks,
  paintOutlines,
  paintRulers,
  paintSolo,
  paintWhere,
} from './overlay';
import { StageView } from './stage-view';
import { Tiles } from './tiles';
import { STAGE_TOOLS } from './tools';
import { FrameTool } from './tools/frame-tool';
import { NeedleTool } from './tools/needle-tool';
import { HandleTool } from './tools/handle-tool';
import { StrokeTool } from './tools/stroke-tool';

/** A design as it leaves the hoop: each piece drawn together as the fabric it lies on. */
function forecastOf(design: Design): Design {
  const whole = fabricUnder(design);
  const own = design.pieces.map(({ choices }) => fabricNamed(choices.values['fabric']) ?? whole);
  return pulledDesign(design, (piece) => own[piece] ?? whole);
}

/** Paints cloth, stitches, the picture beside them, what is chosen, and what the tools show. */
@Injectable()
export class StagePainter {
  private readonly view = inject(StageView);
  private readonly state = inject(StudioState);
  private readonly store = inject(ProjectStore);
  private readonly conversion = inject(Conversion);
  private readonly preferences = inject(Preferences);
  private readonly rendering = inject(RenderingActs);
  private readonly lit = inject(LitPicture);
  private readonly open = inject(OpenPicture);
  private readonly strokes = inject(StrokeTool);
  private readonly handles = inject(HandleTool);
  private readonly tidy = inject(TidyActs);
  private readonly frames = inject(FrameTool);
  private readonly needle = inject(NeedleActs);
  private readonly needleTool = inject(NeedleTool);
  private readonly place = inject(PlaceActs);
  private readonly injector = inject(Injector);
  private readonly tools = STAGE_TOOLS.map((tool) => this.injector.get(tool));

  /** Where a colour of the picture is, while that is asked for. */
  readonly where = signal<ImageBitmap | undefined>(undefined);
  private canvas: HTMLCanvasElement | undefined;
  private haze: SVGFEGaussianBlurElement | undefined;
  private readonly workers = inject(SpareWorkers);
  private readonly tiles = new Tiles(
    () => this.soon(),
    () => this.workers.take('draw'),
    () => this.conversion.stageComplete(),
  );
  private planned = false;
  private closed = false;
  private drawn: { readonly design: Design; readonly look: StageLook } | undefined;
  /** What is shown of the picture: all of it while a place on it is asked for. */
  private readonly shown = computed(() => (this.state.picking() ? 'picture' : this.state.compare()));

  begin(canvas: HTMLCanvasElement, haze: SVGFEGaussianBlurElement | undefined): void {
    this.canvas = canvas;
    this.haze = haze;
  }

  close(): void {
    this.closed = true;
    this.tiles.close();
    this.where()?.close();
    // A canvas keeps its pixels until somebody collects garbage.
    if (this.canvas) this.canvas.width = this.canvas.height = 0;
  }

  /** Shows a design; what is still right of the last one stays. */
  show(design: Design, look: StageLook): void {
    if (design === this.drawn?.design && look === this.drawn.look) return;
    if (look === 'forecast') this.tiles.show(forecastOf(design), 'sewn');
    else this.tiles.show(design, look, this.conversion.takeSpares(design));
    this.drawn = { design, look };
    if (look === 'sewn') void this.standIn(design);
  }

  /** The picture on the shelf is there before any tile is drawn. */
  private async standIn(design: Design): Promise<void> {
    const bitmap = await this.conversion.takeStoredPreview();
    if (!bitmap) return;
    if (this.closed || this.drawn?.design !== design || this.drawn.look !== 'sewn') {
      bitmap.close();
      return;
    }
    const { left, top, width } = frameOf(design, PREVIEW_MARGIN_MM);
    this.tiles.standIn({ bitmap, scale: bitmap.width / width, left, top });
    performance.mark('kite-stand-in');
    this.soon();
  }

  /** Reads whatever makes the stage be painted again. */
  watch(): void {
    this.view.camera();
    this.view.size();
    this.view.lens();
    this.view.mark();
    this.lit.bitmap();
    this.where();
    this.state.fade();
    this.state.distance();
    this.state.stroking();
    this.state.lassoing();
    this.rendering.area();
    this.store.view();
    this.state.picking();
    this.state.compare();
    this.state.hovered();
    this.state.hoveredThread();
    this.state.selected();
    this.state.solo();
    this.state.knot();
    this.tidy.list();
    this.tidy.current();
    this.strokes.line();
    this.handles.dragged();
    this.needle.rows();
    this.needle.chosen();
    this.needleTool.by();
    this.needleTool.frame();
    this.frames.frame();
    this.place.gesture();
    this.place.box();
    this.state.wholes();
    this.state.row();
    this.preferences.unit();
  }

  /** Paints with the next frame. */
  soon(): void {
    if (this.planned || this.closed) return;
    this.planned = true;
    requestAnimationFrame(() => {
      this.planned = false;
      if (!this.closed) this.paint();
    });
  }

  private paint(): void {
    const { canvas } = this;
    const context = canvas?.getContext('2d', { alpha: false });
    if (!canvas || !context) return;
    const size = this.view.size();
    const ratio = Math.min(2, window.devicePixelRatio || 1);
    const width = Math.round(size.width * ratio);
    const height = Math.round(size.height * ratio);
    if (canvas.width !== width || canvas.height !== height) {
      canvas.width = width;
      canvas.height = height;
    }
    const camera = this.view.camera();
    const design = this.conversion.design();
    context.setTransform(1, 0, 0, 1, 0, 0);
    context.fillStyle = design?.fabric.hex ?? this.store.view()?.cloth.hex ?? '#f4f1ea';
    context.fillRect(0, 0, width, height);
    this.tiles.paint(context, camera, size, ratio, this.state.row());
    if (this.state.row() === undefined) performance.mark('kite-painted');
    this.seeFromAfar(context, camera.scale * ratio);
    context.setTransform(ratio, 0, 0, ratio, 0, 0);
    const hoop = this.store.recipe()?.hoop;
    if (hoop) paintHoop(context, camera, size, hoop);
    if (design) {
      this.paintPicture(context, design);
      this.paintPieces(context, design);
      for (const tool of this.tools) tool.paint?.(context);
      this.frames.paint(context);
      const mark = this.view.mark();
      if (mark) {
        const at = toStage(camera, size, mark.x, mark.y);
        diamond(context, at.x, at.y - 12, 9, EMBER);
      }
    }
    paintRulers(context, camera, size, this.preferences.unit());
  }

  private paintPicture(context: CanvasRenderingContext2D, design: Design): void {
    const camera = this.view.camera();
    const size = this.view.size();
    const bitmap = this.lit.bitmap();
    const placement = this.store.view()?.picture;
    if (bitmap && placement) {
      const picture = { bitmap, placement };
      const lens = this.view.lens();
      paintCompare(context, camera, size, this.shown(), lens, this.state.fade(), picture, design.fabric.hex);
    }
    const where = this.where();
    const box = this.open.result()?.box;
    if (where && box) paintWhere(context, camera, size, where, box, design.fabric.hex);
  }

  private paintPieces(context: CanvasRenderingContext2D, design: Design): void {
    const camera = this.view.camera();
    const size = this.view.size();
    const { state } = this;
    const selected = state.selected();
    if (state.solo() && selected.size > 0) paintSolo(context, camera, size, design, selected);
    paintOutlines(context, camera, size, design, state.hovered(), state.hoveredThread(), selected);
    paintMarks(context, camera, size, design, selected, state.row());
    if (state.knot() === 'tidy') paintFindings(context, camera, size, this.tidy.list(), this.tidy.current());
  }

  /** Mixes what is painted as an eye does that looks from some metres: a Gaussian in linear light. */
  private seeFromAfar(context: CanvasRenderingContext2D, pixelsPerMm: number): void {
    const metres = this.state.distance();
    if (metres <= 0) return;
    // An arc minute is about what an eye can tell apart.
    const sigmaMm = (metres * 1000 * Math.tan(Math.PI / 180 / 60)) / 2;
    this.haze?.setStdDeviation(sigmaMm * pixelsPerMm, sigmaMm * pixelsPerMm);
    context.filter = 'url(#kite-haze)';
    context.drawImage(context.canvas, 0, 0);
    context.filter = 'none';
  }
}
