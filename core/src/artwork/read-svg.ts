import { boundsOf } from '../geometry/polyline.js';
import { flatten, type Curve } from '../geometry/curve.js';
import type { ArtProblem, ArtShape, Artwork, ClipRegion, Gradient } from './artwork.js';
import { meanOfGradient, readGradient, type Box } from './gradients.js';
import { lengthIn, numbersIn, UNITS_PER_MM } from './lengths.js';
import { chain, IDENTITY, mapPoint, parseTransform, scaleOf, viewBoxMap, type Matrix } from './matrix.js';
import { mapCurve } from './matrix.js';
import { DRAWN, outlineOf, type Outline } from './outlines.js';
import { StyleRules } from './style-rules.js';
import { readStyleSheet } from './style-sheet.js';
import { parsePaint, referenceIn, shareOf, styleOf, type PaintValue, type Style } from './style.js';
import { elementsById, readSvgTree, type SvgElement } from './svg-tree.js';

/** A file may draw at most so much, `use` counted as often as it is used. */
const MOST_SHAPES = 20_000;
const MOST_VISITS = 100_000;
const MOST_SEGMENTS = 500_000;
const MOST_USES = 12;
const MOST_PROBLEMS = 200;
/** Less opaque than this, something is not seen. */
const LEAST_OPACITY = 0.02;

/** What is passed down from group to group. */
interface Context {
  readonly map: Matrix;
  readonly style: Style;
  readonly opacity: number;
  readonly clips: readonly ClipRegion[];
  readonly uses: number;
  readonly viewWidth: number;
  readonly viewHeight: number;
}

/**
 * Reads vector artwork as it is: shapes with their fills, lines with their widths, in the order they are painted.
 * What cannot be taken over is listed among the problems.
 * @throws RangeError for a file that is no SVG, has no size, or draws too much
 */
export function readSvg(text: string): Artwork {
  const root = readSvgTree(text);
  const { width, height, map } = viewOf(root, 300, 150);
  if (!(width > 0 && height > 0)) throw new RangeError('SVG: it has no size');
  return new Reader(root, map, width, height).read();
}

/** Size of an `svg` element in user units around it, and the map of what it holds. */
function viewOf(
  element: SvgElement,
  aroundWidth: number,
  aroundHeight: number,
): { width: number; height: number; map: Matrix } {
  const a = element.attributes;
  const box = numbersIn(a['viewBox']);
  const boxed = box.length === 4 && box[2] > 0 && box[3] > 0;
  let width = lengthIn(a['width'], boxed ? box[2] : aroundWidth);
  let height = lengthIn(a['height'], boxed ? box[3] : aroundHeight);
  if (boxed) {
    // One side gives the other.
    width ??= height === undefined ? box[2] : (height * box[2]) / box[3];
    height ??= (width * box[3]) / box[2];
  }
  width ??= aroundWidth;
  height ??= aroundHeight;
  return { width, height, map: boxed ? viewBoxMap(box, width, height, a['preserveAspectRatio'] ?? '') : IDENTITY };
}

class Reader {
  private readonly shapes: ArtShape[] = [];
  private readonly problems: ArtProblem[] = [];
  private readonly ids: ReadonlyMap<string, SvgElement>;
  private readonly rules: StyleRules;
  private readonly clipCache = new Map<string, Outline>();
  /** Lines wider than this cover everything, wherever they lie on the picture; in mm. */
  private readonly widest: number;
  private segments = 0;
  private visits = 0;

  constructor(
    private readonly root: SvgElement,
    private readonly view: Matrix,
    private readonly width: number,
    private readonly height: number,
  ) {
    this.widest = (2 * Math.sqrt(width * width + height * height)) / UNITS_PER_MM;
    this.ids = elementsById(root);
    this.rules = new StyleRules(styleSheets(root).flatMap(readStyleSheet));
  }

  read(): Artwork {
    const k = 1 / UNITS_PER_MM;
    const box = numbersIn(this.root.attributes['viewBox']);
    const context: Context = {
      map: chain({ ...IDENTITY, a: k, d: k }, this.view),
      style: styleOf(this.root, {}, this.rules),
      opacity: shareOf(this.root.attributes['opacity']),
      clips: [],
      uses: 0,
      viewWidth: box.length === 4 ? box[2] : this.width,
      viewHeight: box.length === 4 ? box[3] : this.height,
    };
    for (const child of this.root.children) this.visit(child, context);
    const sized = /(mm|cm|in|pt|pc|q)\s*$/i.test(this.root.attributes['width'] ?? '');
    const { shapes, problems } = this;
    return { widthMm: this.width * k, heightMm: this.height * k, sized, shapes, problems };
  }

  private tell(text: string, context?: Context, x = 0, y = 0): void {
    if (this.problems.length >= MOST_PROBLEMS || this.problems.some((p) => p.text === text)) return;
    if (!context) this.problems.push({ text });
    else {
      const [px, py] = mapPoint(context.map, x, y);
      this.problems.push({ text, x: px, y: py });
    }
  }

  private visit(element: SvgElement, around: Context): void {
    if (++this.visits > MOST_VISITS) throw new RangeError(`SVG: it draws more than ${MOST_VISITS} elements`);
    const { name, attributes } = element;
    if (IGNORED.has(name)) return;
    const style = styleOf(element, around.style, this.rules);
    if (style['display'] === 'none') return;
    const transform = parseTransform(attributes['transform']);
    if (!transform) {
      this.tell(`The transform of ${nameOf(element)} cannot be read; it is left where it is.`, around);
    }
    let context: Context = {
      ...around,
      map: chain(around.map, transform ?? IDENTITY),
      style,
      opacity: around.opacity * shareOf(style['opacity']),
    };
    if (context.opacity < LEAST_OPACITY) return;
    if (style['filter'] && style['filter'] !== 'none') {
      this.tell(`${nameOf(element)} has a filter, which thread cannot follow; it is sewn without.`, context);
    }
    if (style['mask'] && style['mask'] !== 'none') {
      this.tell(`${nameOf(element)} has a mask; it is sewn whole.`, context);
    }
    context = this.clipped(element, context);
    if ((DRAWN as readonly string[]).includes(name)) return this.draw(element, context);
    switch (name) {
      case 'g':
      case 'a':
        for (const child of element.children) this.visit(child, context);
        return;
      case 'switch': {
        const [first] = element.children.filter((child) => !IGNORED.has(child.name));
        if (first) this.visit(first, context);
        return;
      }
      case 'svg':
        return this.nested(element, context);
      case 'use':
        return this.use(element, context);
      case 'text':
        return this.text(element, context);
      case 'image':
        this.tell(
          'The file holds a picture made of pixels; only its shapes are sewn. Place the picture by itself to convert it.',
          context,
          lengthIn(attributes['x'], context.viewWidth) ?? 0,
          lengthIn(attributes['y'], context.viewHeight) ?? 0,
        );
        return;
      default:
        this.tell(`<${name.slice(0, 40)}> is not known here and is left out.`, context);
    }
  }

  private nested(element: SvgElement, context: Context): void {
    const { width, height, map } = viewOf(element, context.viewWidth, context.viewHeight);
    if (!(width > 0 && height > 0)) return;
    const x = lengthIn(element.attributes['x'], context.viewWidth) ?? 0;
    const y = lengthIn(element.attributes['y'], context.viewHeight) ?? 0;
    const inner = { ...context, map: chain(context.map, chain({ ...IDENTITY, e: x, f: y }, map)) };
    const box = numbersIn(element.attributes['viewBox']);
    const sized = { ...inner, viewWidth: box[2] ?? width, viewHeight: box[3] ?? height };
    for (const child of element.children) this.visit(child, sized);
  }

  private use(element: SvgElement, context: Context): void {
    const href = element.attributes['href'] ?? '';
    if (!href.startsWith('#')) {
      this.tell(`${nameOf(element)} refers to something outside the file; it is left out.`, context);
      return;
    }
    const target = this.ids.get(href.slice(1));
    if (!target) {
      this.tell(`${nameOf(element)} refers to “${href.slice(1, 40)}”, which is not in the file.`, context);
      return;
    }
    if (context.uses >= MOST_USES) {
      this.tell(`${nameOf(element)} refers to itself, or too many times over; it is left out.`, context);
      return;
    }
    const x = lengthIn(element.attributes['x'], context.viewWidth) ?? 0;
    const y = lengthIn(element.attributes['y'], context.viewHeight) ?? 0;
    const placed = { ...context, uses: context.uses + 1, map: chain(context.map, { ...IDENTITY, e: x, f: y }) };
    if (target.name === 'symbol' || target.name === 'svg') {
      const { width, height } = element.attributes;
      const attributes = { ...target.attributes, x: '0', y: '0', ...(width && { width }), ...(height && { height }) };
      const style = styleOf(target, placed.style, this.rules);
      this.nested({ ...target, attributes }, { ...placed, style });
    } else this.visit(target, placed);
  }

  private text(element: SvgElement, context: Context): void {
    const words = allText(element).replace(/\s+/g, ' ').trim();
    if (!words) return;
    const font = (context.style['font-family'] ?? '').split(',')[0].replace(/['"]/g, '').trim();
    this.tell(
      `The text “${words.slice(0, 40)}”${font ? ` in ${font.slice(0, 40)}` : ''} is left out: turn it into outlines in your drawing program first.`,
      context,
      lengthIn(element.attributes['x']?.split(/[\s,]/)[0], context.viewWidth) ?? 0,
      lengthIn(element.attributes['y']?.split(/[\s,]/)[0], context.viewHeight) ?? 0,
    );
  }

  /** Takes the clip path of an element into the context. */
  private clipped(element: SvgElement, context: Context): Context {
    const value = context.style['clip-path'];
    if (!value || value === 'none') return context;
    const id = referenceIn(value)?.id;
    const target = id === undefined ? undefined : this.ids.get(id);
    if (target?.name !== 'clipPath') {
      this.tell(`The clip path of ${nameOf(element)} is not in the file; it is sewn whole.`, context);
      return context;
    }
    if (target.attributes['clipPathUnits'] === 'objectBoundingBox') {
      this.tell(`The clip path of ${nameOf(element)} is given in shares of its size; it is sewn whole.`, context);
      return context;
    }
    const curves = [];
    let rule: ClipRegion['rule'] = 'nonzero';
    const own = chain(context.map, parseTransform(target.attributes['transform']) ?? IDENTITY);
    for (const child of target.children) {
      const shape = child.name === 'use' ? this.ids.get((child.attributes['href'] ?? '').slice(1)) : child;
      if (!shape || !(DRAWN as readonly string[]).includes(shape.name)) continue;
      const map = chain(own, parseTransform(child.attributes['transform']) ?? IDENTITY);
      const key = `${id} ${target.children.indexOf(child)}`;
      const outline = this.clipCache.get(key) ?? outlineOf(shape, context.viewWidth, context.viewHeight);
      this.clipCache.set(key, outline);
      curves.push(...outline.curves.map((curve) => mapCurve(curve, map)));
      if (styleOf(shape, {}, this.rules)['clip-rule'] === 'evenodd') rule = 'evenodd';
    }
    return { ...context, clips: [...context.clips, { curves, rule }] };
  }

  private draw(element: SvgElement, context: Context): void {
    const { style, map } = context;
    if (style['visibility'] === 'hidden' || style['visibility'] === 'collapse') return;
    const outline = outlineOf(element, context.viewWidth, context.viewHeight);
    const [x = 0, y = 0] = outline.curves[0]?.points ?? [];
    if (outline.fault) this.tell(`${nameOf(element)}: ${outline.fault}; what comes after is left out.`, context, x, y);
    if (outline.curves.length === 0) return;
    this.segments += outline.curves.reduce((sum, curve) => sum + curve.kinds.length, 0);
    if (this.segments > MOST_SEGMENTS) throw new RangeError(`SVG: its outlines have more than ${MOST_SEGMENTS} points`);
    const curves = outline.curves.map((curve) => mapCurve(curve, map));
    if (curves.some((curve) => curve.points.some((v) => !Number.isFinite(v) || Math.abs(v) > 1e7))) {
      this.tell(`${nameOf(element)} lies beyond all measure; it is left out.`);
      return;
    }
    const name = nameOf(element);
    const { clips } = context;
    const box = boxOf(outline);
    const fill = this.paint(element, parsePaint(style['fill'] ?? '#000000', style), context, box, x, y);
    const filled = fill && context.opacity * fill.opacity * shareOf(style['fill-opacity']);
    // An open run of lines has an inside as well, but a single line has none.
    const solid = outline.curves.some((curve) => curve.kinds.length > 1 || curve.kinds[0] === 'C');
    const addFill = (): void => {
      if (!fill || filled === undefined || filled < LEAST_OPACITY || !solid) return;
      const rule = style['fill-rule'] === 'evenodd' ? 'evenodd' : 'nonzero';
      this.add({
        name,
        curves,
        closed: outline.closed,
        rule,
        hex: fill.hex,
        opacity: filled,
        gradient: fill.gradient,
        clips,
      });
    };
    if (hasMarkers(element.name, style)) {
      this.tell(`The markers of ${name} are left out: draw arrowheads as shapes.`, context, x, y);
    }
    // Painted in the order that is asked for: a line may lie below its own fill.
    const first = /^\s*(fill|stroke|markers)/i.exec(style['paint-order'] ?? '')?.[1].toLowerCase();
    const strokeFirst = first === 'stroke' || (first === 'markers' && /stroke[\s\S]*fill/i.test(style['paint-order']));
    if (!strokeFirst) addFill();
    this.addStroke(element, outline, curves, context, box, x, y);
    if (strokeFirst) addFill();
  }

  private addStroke(
    element: SvgElement,
    outline: Outline,
    curves: readonly Curve[],
    context: Context,
    box: Box,
    x: number,
    y: number,
  ): void {
    const { style, map, clips } = context;
    const name = nameOf(element);
    const stroke = this.paint(element, parsePaint(style['stroke'], style), context, box, x, y);
    if (!stroke) return;
    const opacity = context.opacity * stroke.opacity * shareOf(style['stroke-opacity']);
    const diagonal = Math.sqrt((context.viewWidth ** 2 + context.viewHeight ** 2) / 2);
    // A line wider than all there is to see covers all of it.
    const width = Math.min((lengthIn(style['stroke-width'] ?? '1', diagonal) ?? 1) * scaleOf(map), this.widest);
    if (!(width > 0) || opacity < LEAST_OPACITY) return;
    const dashes = numbersIn(style['stroke-dasharray']);
    if (dashes.some((dash) => dash > 0)) this.tell(`The dashes of ${name} are sewn as one line.`, context, x, y);
    this.add({
      name,
      curves,
      closed: outline.closed,
      rule: 'nonzero',
      stroke: {
        width,
        cap: oneOf(style['stroke-linecap'], ['butt', 'round', 'square']),
        join: oneOf(style['stroke-linejoin'], ['miter', 'round', 'bevel']),
        miterLimit: Math.max(1, lengthIn(style['stroke-miterlimit'], 1) ?? 4),
      },
      hex: stroke.hex,
      opacity,
      gradient: stroke.gradient,
      clips,
    });
  }

  private add(shape: ArtShape): void {
    if (this.shapes.length >= MOST_SHAPES) throw new RangeError(`SVG: it draws more than ${MOST_SHAPES} shapes`);
    this.shapes.push(shape);
  }

  private paint(
    element: SvgElement,
    value: PaintValue | undefined,
    context: Context,
    box: Box,
    x: number,
    y: number,
  ): { hex: string; opacity: number; gradient?: Gradient } | undefined {
    if (!value || value.kind === 'none') return undefined;
    if (value.kind === 'colour') return value;
    if (value.kind === 'unknown') {
      this.tell(`The colour “${value.text}” of ${nameOf(element)} is not known; it is sewn in black.`, context, x, y);
      return { hex: '#000000', opacity: 1 };
    }
    const target = this.ids.get(value.id);
    if (target && /^(linear|radial)Gradient$/.test(target.name)) {
      const gradient = readGradient(target, this.ids, this.rules, box, context.map);
      if (gradient) return { ...meanOfGradient(gradient), gradient };
    }
    if (target?.name === 'pattern') {
      this.tell(`${nameOf(element)} is filled with a pattern; it is sewn in plain grey.`, context, x, y);
      return { hex: '#808080', opacity: 1 };
    }
    if (value.fallback) return this.paint(element, value.fallback, context, box, x, y);
    this.tell(
      `The fill “${value.id.slice(0, 40)}” of ${nameOf(element)} is not in the file; it is left out.`,
      context,
      x,
      y,
    );
    return undefined;
  }
}

/** Elements that draw nothing by themselves. */
const IGNORED = new Set([
  'defs',
  'symbol',
  'style',
  'title',
  'desc',
  'metadata',
  'linearGradient',
  'radialGradient',
  'clipPath',
  'mask',
  'filter',
  'pattern',
  'marker',
  'namedview',
  'script',
  'animate',
  'animateTransform',
  'set',
]);

function styleSheets(element: SvgElement): string[] {
  const own = element.name === 'style' ? [element.text] : [];
  return [...own, ...element.children.flatMap(styleSheets)];
}

const allText = (element: SvgElement): string => element.text + element.children.map(allText).join(' ');

const nameOf = ({ name, attributes }: SvgElement): string =>
  attributes['id'] ? `<${name}> “${attributes['id'].slice(0, 40)}”` : `<${name}>`;

/** Whether arrowheads and the like are asked for on an element that can carry them. */
const hasMarkers = (kind: string, style: Style): boolean =>
  ['path', 'line', 'polyline', 'polygon'].includes(kind) &&
  ['marker', 'marker-start', 'marker-mid', 'marker-end'].some((key) => (style[key] ?? 'none') !== 'none');

function oneOf<T extends string>(value: string | undefined, known: readonly T[]): T {
  return known.find((k) => k === value) ?? known[0];
}

function boxOf(outline: Outline): Box {
  const box = boundsOf(outline.curves.map((curve) => flatten(curve, 1)));
  return [box.left, box.top, box.right - box.left, box.bottom - box.top];
}
