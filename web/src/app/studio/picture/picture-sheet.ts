import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatTooltipModule } from '@angular/material/tooltip';
import { MatSlideToggleModule } from '@angular/material/slide-toggle';
import {
  finishedSize,
  isPlain,
  LIMITS,
  maskCurve,
  PLAIN_LIGHT,
  reachesBeyond,
  svgPath,
  type Mask,
  type MaskShape,
  type PictureView,
  type Tone,
} from '@open-kite/core';
import { LucideAngularModule, FlipHorizontal2, Pipette, RotateCcw, RotateCw, X } from 'lucide-angular';
import { Conversion } from '../../convert/conversion';
import { ProjectStore } from '../../project/project-store';
import type { Draft } from '../../project/history';
import { Fold } from '../../shared/fold';
import { Preferences } from '../../shared/preferences';
import { SliderField } from '../../shared/slider-field';
import type { Unit } from '../../shared/units';
import { GROUND_TOLERANCE, LIGHT, POINTS, THRESHOLD } from '../sheet/settings';
import { SettingsList } from '../sheet/settings-list';
import { OpenPicture } from '../open-picture';
import { StudioState } from '../studio-state';
import { PictureTools } from './picture-tools';
import { ToneChart } from './tone-chart';

const SHAPES: readonly { shape: MaskShape; label: string; high?: number }[] = [
  { shape: 'rectangle', label: 'Rectangle', high: 15 },
  { shape: 'ellipse', label: 'Ellipse', high: 13 },
  { shape: 'free', label: 'Drawn by hand' },
  { shape: 'circle', label: 'Circle' },
  { shape: 'oval', label: 'Oval' },
  { shape: 'heart', label: 'Heart' },
  { shape: 'shield', label: 'Shield' },
  { shape: 'scallop', label: 'Scallop' },
  { shape: 'hexagon', label: 'Hexagon' },
  { shape: 'kite', label: 'Kite' },
];

const TONE_LABELS: readonly { tone: Tone; label: string }[] = [
  { tone: 'colour', label: 'Colour' },
  { tone: 'grey', label: 'Grey' },
  { tone: 'sepia', label: 'Sepia' },
  { tone: 'one', label: 'One ink' },
];

/** Measures of a mask that can be typed. */
const MEASURES: readonly {
  readonly key: 'widthMm' | 'heightMm' | 'x' | 'y' | 'turn';
  readonly label: string;
  readonly min: number;
  readonly max: number;
  readonly unit?: string;
  readonly resting?: number;
}[] = [
  { key: 'widthMm', label: 'Mask width', min: 1, max: 400 },
  { key: 'heightMm', label: 'Mask height', min: 1, max: 400 },
  { key: 'x', label: 'To the right', min: -200, max: 200, resting: 0 },
  { key: 'y', label: 'Downwards', min: -200, max: 200, resting: 0 },
  { key: 'turn', label: 'Mask turned by', min: -180, max: 180, unit: '°', resting: 0 },
];

/** A mask drawn small. */
function outlineOf(mask: Pick<Mask, 'shape' | 'nodes'>, width = 20, height = 20): string {
  if (mask.shape === 'free' && !mask.nodes) return 'M3 15C3 5 9 2 12 7S20 3 21 10S15 22 10 20S3 20 3 15Z';
  return svgPath(maskCurve({ ...mask, x: 12, y: 12, widthMm: width, heightMm: height, turn: 0 }), 2, true);
}

/** Controls of the first step: what of the picture is used, how large, and in which light. */
@Component({
  selector: 'kite-picture-sheet',
  imports: [Fold, MatTooltipModule, LucideAngularModule, MatSlideToggleModule, SettingsList, SliderField, ToneChart],
  templateUrl: './picture-sheet.html',
  styleUrls: ['../sheet/sheet-parts.scss', './picture-sheet.scss'],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PictureSheet {
  private readonly conversion = inject(Conversion);
  private readonly store = inject(ProjectStore);
  private readonly state = inject(StudioState);
  protected readonly preferences = inject(Preferences);
  protected readonly tools = inject(PictureTools);

  protected readonly icons = { FlipHorizontal2, Pipette, RotateCcw, RotateCw, X };
  protected readonly units: readonly Unit[] = ['mm', 'in'];
  protected readonly limits = LIMITS;
  protected readonly shapes = SHAPES.map((item) => ({
    ...item,
    path: outlineOf({ shape: item.shape }, 20, item.high),
  }));
  protected readonly measures = MEASURES;
  protected readonly tones = TONE_LABELS;
  protected readonly light = LIGHT;
  protected readonly points = POINTS;
  protected readonly threshold = [THRESHOLD];
  protected readonly tolerance = [GROUND_TOLERANCE];

  private readonly open = inject(OpenPicture);
  protected readonly recipe = this.store.view;
  protected readonly source = this.store.picture;
  protected readonly design = this.conversion.design;
  protected readonly size = computed(() => {
    const picture = this.recipe()?.picture;
    return picture ? finishedSize(picture) : { widthMm: 0, heightMm: 0 };
  });
  protected readonly oblique = computed(() => (this.recipe()?.picture.turn ?? 0) % 90 !== 0);
  /** How the picture is turned, in a few words. */
  protected readonly turned = computed(() => {
    const { turn = 0, mirror = false } = this.recipe()?.picture ?? {};
    return [turn === 0 ? [] : `${turn}°`, mirror ? 'mirrored' : []].flat().join(', ');
  });
  protected readonly lit = computed(() => {
    const light = this.recipe()?.light;
    return light !== undefined && !isPlain(light);
  });
  protected readonly kept = computed(() =>
    (this.recipe()?.picture.keptMasks ?? []).map((mask) => ({
      shape: mask.shape,
      path: outlineOf(
        mask,
        20 * Math.min(1, mask.widthMm / mask.heightMm),
        20 * Math.min(1, mask.heightMm / mask.widthMm),
      ),
    })),
  );
  protected readonly ground = computed(() => {
    const design = this.design();
    const picture = this.recipe()?.picture;
    if (!design || !picture) return undefined;
    const found = this.open.colours().find((colour) => colour.bare === 'ground');
    return {
      found: this.open.result()?.plainGround === true,
      hex: picture.groundHex ?? found?.hex,
      share: found?.share ?? 0,
    };
  });
  protected readonly finest = computed(() => {
    const picture = this.recipe()?.picture;
    const source = this.source();
    return picture && source ? source.width / picture.widthMm : 0;
  });
  protected readonly cost = computed(() => {
    const figures = this.conversion.figures();
    return figures ? `${figures.stitches} stitches, ${figures.minutes.oneNeedle} min on one needle` : '';
  });

  protected set(label: string, edit: (recipe: Draft<PictureView>) => void): void {
    this.store.change(label, edit);
  }

  protected editMask(key: (typeof MEASURES)[number]['key'], value: number): void {
    const mask = this.recipe()?.picture.mask;
    if (!mask) return;
    const isSide = key === 'widthMm' || key === 'heightMm';
    // A circle stays one, whichever side was set.
    if (mask.shape === 'circle' && isSide) this.tools.setMask({ ...mask, widthMm: value, heightMm: value });
    else this.tools.setMask({ ...mask, [key]: value });
  }

  protected pickGround(): void {
    this.state.picking.set({
      label: 'Ground',
      take: (anchor) =>
        this.set('ground colour', ({ picture }) => {
          picture.groundHex = anchor.hex;
          picture.dropGround = true;
        }),
    });
  }

  protected readonly flipGround = ({ picture }: Draft<PictureView>): void => {
    picture.dropGround = !picture.dropGround;
  };

  protected readonly forgetGround = ({ picture }: Draft<PictureView>): void => {
    picture.groundHex = null;
  };

  /** Whether the frame reaches beyond the picture: what is there has a colour of its own, or that of the ground. */
  protected readonly beyond = computed(() => {
    const picture = this.recipe()?.picture;
    return picture !== undefined && reachesBeyond(picture);
  });

  protected fillBeyond(hex: string | null) {
    return ({ picture }: Draft<PictureView>): void => {
      picture.beyondHex = hex;
    };
  }

  protected setEverywhere(everywhere: boolean) {
    return ({ picture }: Draft<PictureView>): void => {
      picture.groundEverywhere = everywhere;
    };
  }

  protected setTone(tone: Tone) {
    return ({ light }: Draft<PictureView>): void => {
      light.tone = tone;
    };
  }

  protected resetLight(): void {
    this.set('light as in the picture', (recipe) => (recipe.light = { ...PLAIN_LIGHT }));
  }
}
