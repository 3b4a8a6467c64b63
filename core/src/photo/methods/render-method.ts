import type { Chart } from '../../colour/charts.js';
import type { GridChart } from '../../cross/grid-chart.js';
import type { GridEdits } from '../../cross/grid-edits.js';
import type { DesignThread } from '../../colour/design-thread.js';
import type { Points } from '../../geometry/vector.js';
import type { OptionValues, StitchOption, ValuesOf } from '../../stitches/stitch-kind.js';
import type { LabelMap } from '../../trace/labels.js';
import type { PaletteThread } from '../palette-thread.js';
import type { Plate } from '../plate.js';

/** Stretches of needle points of one thread, in sewing order. */
export interface Layer {
  readonly thread: number;
  readonly runs: readonly Points[];
  /** Millimetres of way between its lines that nothing sewn later hides. */
  readonly openMm: number;
}

/** Something a rendering cannot do well, with its place in mm. */
export interface RenderProblem {
  readonly text: string;
  readonly x: number;
  readonly y: number;
}

/** What a rendering gives. */
export interface Rendered {
  readonly layers: readonly Layer[];
  /** The grid it was sewn on, where there is one. */
  readonly chart?: GridChart;
  readonly problems?: readonly RenderProblem[];
}

/** What a rendering is made from. */
export interface RenderInput {
  readonly plate: Plate;
  readonly threads: readonly DesignThread[];
  /** Which of them is a ground laid below the others; -1 where none is. */
  readonly ground: number;
  /** Of each thread, where somebody wants it sewn: below 0 before the others, above 0 after them; fewer than threads. */
  readonly places: readonly number[];
  readonly clothHex: string;
  /** Ways over this are cut. */
  readonly trimOverMm: number;
  /** Directions somebody drew, as lines in mm on the cloth. */
  readonly strokes: readonly Points[];
  /** Rings, in mm on the cloth, around what matters most: faces. */
  readonly favoured: readonly Points[];
  /** A rough result that is there at once. */
  readonly quick: boolean;
  /** Colours of the picture by pixel, and what of them stays bare. */
  readonly map: LabelMap;
  readonly isBare: (label: number) => boolean;
  /** Thread of each label, from 1 on; only methods that sew the picture's own colours have one. */
  readonly threadOfLabel: readonly number[];
  /** Millimetres a pixel of the map. */
  readonly pixelMm: number;
  /** Whether the picture is flat art rather than a photograph. */
  readonly flat: boolean;
  /** Changes of a grid by hand, and the thread of the design for each thread they name. */
  readonly handmade: { readonly edits?: GridEdits; readonly threadOfEdits: readonly number[] };
  /** What was worked out before for the same picture. */
  readonly memo: Map<string, unknown>;
}

/** Where the threads of a method come from. */
export type ThreadSource =
  /** Named one by one, so many at least and at most; these unless somebody chose others. */
  | { readonly from: 'list'; readonly usual: readonly string[]; readonly least: number; readonly most: number }
  /** Mixed to suit the picture, as many as the colours step allows; so many where it leaves the choice. */
  | { readonly from: 'mix'; readonly usual: number }
  /** Those of the picture's colours. */
  | { readonly from: 'colours'; readonly usual: number };

/** Chooses threads for a picture instead of those that were named. */
export interface ThreadChooser {
  /** Options that decide what is chosen. */
  readonly by: readonly string[];
  readonly choose: (
    plate: Plate,
    named: readonly PaletteThread[],
    given: { readonly values: OptionValues; readonly clothHex: string; readonly charts: readonly Chart[] },
  ) => Generator<number, ChosenThreads> | undefined;
}

/** Threads that were chosen, and one that is laid below them all. */
export interface ChosenThreads {
  readonly threads: readonly PaletteThread[];
  readonly ground?: PaletteThread;
}

type Options = Readonly<Record<string, StitchOption>>;

/** One way of turning a picture into stitches that are not made of traced pieces. */
export interface RenderMethod {
  readonly id: string;
  readonly name: string;
  /** Name of its step on the Line. */
  readonly step: string;
  /** One line for somebody who does not know it. */
  readonly hint: string;
  readonly threads: ThreadSource;
  /** Threads of a list can be chosen to suit the picture; undefined where they are to stay as they are. */
  readonly chooses?: ThreadChooser;
  readonly options: Options;
  /** Strokes drawn on the cloth can lead it. */
  readonly led: boolean;
  /** Its grid can be changed by hand. */
  readonly edited: boolean;
  /** Whether what somebody marks as what matters most counts more, by its options. */
  readonly favours: (values: OptionValues) => boolean;
  /**
   * Settings that need fewer stitches, the more the larger the share (0 to 1), and what they give up in words.
   */
  readonly ease: (values: OptionValues, share: number) => { readonly values: OptionValues; readonly gaveUp: string };
  readonly render: (input: RenderInput, values: OptionValues) => Generator<number, Rendered>;
}

/** Describes a method; `render` and `ease` get the values of its own options, by name. */
export function renderMethod<O extends Options>(
  method: Omit<RenderMethod, 'options' | 'render' | 'ease' | 'led' | 'edited' | 'favours'> & {
    readonly led?: boolean;
    readonly edited?: boolean;
    readonly favours?: (values: ValuesOf<O>) => boolean;
    readonly options: O;
    readonly ease: (
      values: ValuesOf<O>,
      share: number,
    ) => { readonly values: Partial<ValuesOf<O>>; readonly gaveUp: string };
    readonly render: (input: RenderInput, values: ValuesOf<O>) => Generator<number, Rendered>;
  },
): RenderMethod {
  const { ease, render, favours, ...rest } = method;
  return {
    led: false,
    edited: false,
    favours: (values) => favours?.(values as ValuesOf<O>) ?? false,
    ...rest,
    ease: (values, share) => {
      const eased = ease(values as ValuesOf<O>, share);
      return { values: { ...values, ...(eased.values as OptionValues) }, gaveUp: eased.gaveUp };
    },
    render: render as unknown as RenderMethod['render'],
  };
}

/** A number as it is said: no more digits than matter. */
export const said = (value: number, digits = 2): string => String(Number(value.toFixed(digits)));
