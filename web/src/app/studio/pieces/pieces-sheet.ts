import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MOST_COPIES, stitchKindOf, type DesignThread, type ShapeObject, type ThreadChoice } from '@open-kite/core';
import { Conversion } from '../../convert/conversion';
import type { Draft } from '../../project/history';
import { ProjectStore } from '../../project/project-store';
import { Fold } from '../../shared/fold';
import { Preferences } from '../../shared/preferences';
import { SliderField } from '../../shared/slider-field';
import { formatCount, formatLength } from '../../shared/units';
import { DrawActs } from '../draw/draw-acts';
import { HIDDEN, OUTLINE, SMALLEST } from '../sheet/settings';
import { SettingsList } from '../sheet/settings-list';
import { MethodChoice } from '../rendering/method-choice';
import { OutlineSection } from '../objects/outline-section';
import { ThreadField } from '../objects/thread-field';
import { OpenPicture } from '../open-picture';
import { around, StudioState } from '../studio-state';
import { DrawSection } from './draw-section';
import { PieceActs } from './piece-acts';
import { Problems } from './problems';
import { WidthChart } from './width-chart';
import { StitchKindField } from './stitch-kind-field';
import { ObjectSection } from '../objects/object-section';

/** Controls of the Pieces step: how outlines are found, how pieces are sewn, and what is said of the chosen ones. */
@Component({
  selector: 'kite-pieces-sheet',
  imports: [
    Fold,
    ObjectSection,
    StitchKindField,
    ThreadField,
    DrawSection,
    MethodChoice,
    OutlineSection,
    Problems,
    SettingsList,
    SliderField,
    WidthChart,
  ],
  templateUrl: './pieces-sheet.html',
  styleUrls: ['../sheet/sheet-parts.scss', './pieces-sheet.scss'],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PiecesSheet {
  private readonly conversion = inject(Conversion);
  private readonly preferences = inject(Preferences);
  protected readonly state = inject(StudioState);
  protected readonly acts = inject(PieceActs);
  protected readonly draw = inject(DrawActs);

  protected readonly outline = OUTLINE;
  protected readonly smallest = [SMALLEST];
  protected readonly hidden = [HIDDEN];
  protected readonly count = formatCount;
  protected readonly design = this.conversion.design;
  protected readonly open = inject(OpenPicture);
  protected readonly picture = inject(ProjectStore).object;
  protected readonly mostCopies = MOST_COPIES;

  /** Whether pieces may lie over others, so that something is hidden. */
  protected readonly layered = computed(() => {
    const pieces = this.design()?.pieces ?? [];
    return this.open.result()?.vector === true || pieces.some(({ layer }) => layer !== pieces[0].layer);
  });

  protected readonly chosen = computed(() => {
    const design = this.design();
    const stitches = this.conversion.pieceStitches();
    if (!design) return undefined;
    const indices = [...this.state.selected()].filter((i) => i < design.pieces.length);
    if (indices.length === 0) return undefined;
    const pieces = indices.map((i) => design.pieces[i]);
    const [piece] = pieces;
    const threads = new Set(pieces.map((p) => p.thread));
    return {
      indices,
      piece,
      count: indices.length,
      name: indices.length === 1 ? this.state.nameOf(indices[0]) : `${indices.length} pieces`,
      kind: stitchKindOf(piece.kind).name.toLowerCase(),
      paint: threads.size === 1 ? paintOf(design.threads[piece.thread]) : undefined,
      stitches: indices.reduce((n, i) => n + stitches[i], 0),
      area: pieces.reduce((n, p) => n + p.areaMm2, 0),
      place: indices.length === 1 ? design.order.indexOf(indices[0]) + 1 : 0,
      over: pieces.some((p) => p.neighbours.some((n) => design.pieces[n.piece].layer > p.layer)),
      said: [...new Set(pieces.flatMap((p) => p.decisions))],
    };
  });

  protected length(mm: number, digits = 1): string {
    return formatLength(mm, this.preferences.unit(), digits);
  }

  /** Brings the chosen pieces into the middle of the stage. */
  protected find(): void {
    const pieces = this.design()?.pieces ?? [];
    const boxes = [...this.state.selected()].flatMap((i) => (pieces[i] ? [pieces[i].bounds] : []));
    if (boxes.length === 0) return;
    this.state.lookAt(
      around({
        left: Math.min(...boxes.map((b) => b.left)),
        top: Math.min(...boxes.map((b) => b.top)),
        right: Math.max(...boxes.map((b) => b.right)),
        bottom: Math.max(...boxes.map((b) => b.bottom)),
      }),
    );
  }

  /** Changes one number of a drawn piece. */
  protected setter(key: 'widthMm' | 'count' | 'radius', value: number): (piece: Draft<ShapeObject>) => void {
    return (piece) => {
      if (key === 'widthMm') piece.widthMm = value;
      else piece.copies[key] = value;
    };
  }
}

/** A thread of a design as it is chosen. */
const paintOf = ({ chart, code, hex }: DesignThread): ThreadChoice => (chart === 'own' ? { hex } : { chart, code });
