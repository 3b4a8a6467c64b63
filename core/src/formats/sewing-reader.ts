import type { DesignThread } from '../colour/design-thread.js';
import type { PictureBox } from '../picture/frame.js';
import type { SewnCloth, Sewing } from '../sequence/sewing.js';
import type { MeasuredCloth } from '../stitches/measured-cloth.js';
import { COMMANDS, NO_PIECE, StitchWriter } from '../sequence/stitch-list.js';

const MOST_THREADS = 250;
/** How far from the middle a place may be. */
const MOST_MM = 1e5;

/** Says what is wrong at the place that is being read, and goes no further. */
export type Fail = (what: string) => never;

/** Puts a sewing together from values that are read from outside, checking each. */
export class SewingReader {
  private readonly threads: DesignThread[] = [];
  private readonly writer = new StitchWriter();
  private readonly pieceIds: string[] = [];
  private readonly pieceAt = new Map<string, number>();
  private fabric: SewnCloth = { id: 'quilting-cotton', hex: '#f4f1ea' };
  private picture: PictureBox | undefined;

  thread(index: unknown, code: unknown, name: unknown, hex: unknown, chart: unknown, fail: Fail): void {
    const expected = this.threads.length;
    if (Number(index) !== expected) fail(`thread ${String(index)} comes where thread ${expected} was expected`);
    if (expected >= MOST_THREADS) fail(`more than ${MOST_THREADS} threads`);
    const said = (value: unknown): string => (typeof value === 'string' ? value : '');
    this.threads.push({
      code: said(code),
      name: said(name),
      hex: checkHex(hex, fail),
      chart: said(chart) || 'own',
      deltaE: 0,
    });
  }

  onFabric(id: unknown, hex: unknown, fail: Fail, measured?: MeasuredCloth): void {
    this.fabric = { id: typeof id === 'string' ? id : '', hex: checkHex(hex, fail), ...(measured && { measured }) };
  }

  inPicture(box: readonly unknown[], fail: Fail): void {
    const [left, top, width, height] = Array.from({ length: 4 }, (_, i) => readNumber(box[i], fail));
    if (!(width > 0 && height > 0)) fail('the picture has no size');
    this.picture = { left, top, width, height };
  }

  row(x: unknown, y: unknown, command: unknown, thread: unknown, piece: unknown, fail: Fail): void {
    const number = (COMMANDS as readonly unknown[]).indexOf(command);
    if (number < 0) fail(`"${String(command)}" is not a command; known are ${COMMANDS.join(', ')}`);
    const t = readNumber(thread, fail);
    if (!Number.isInteger(t) || t < 0 || t >= Math.max(1, this.threads.length))
      fail(`there is no thread ${String(thread)}`);
    this.writer.add(readNumber(x, fail), readNumber(y, fail), number, t, this.pieceOf(piece, fail));
  }

  /**
   * A row whose values are numbers already; `command` as a number, `piece` empty for none.
   * @returns false where one of them cannot be: nothing is read then
   */
  plainRow(x: number, y: number, command: number, thread: number, piece: string): boolean {
    const known = piece === '' ? NO_PIECE : this.pieceAt.get(piece);
    const isThread = Number.isInteger(thread) && thread >= 0 && thread < Math.max(1, this.threads.length);
    if (known === undefined || command < 0 || !isThread) return false;
    if (!(Math.abs(x) <= MOST_MM && Math.abs(y) <= MOST_MM)) return false;
    this.writer.add(x, y, command, thread, known);
    return true;
  }

  finish(): Sewing {
    const { fabric, picture, threads, pieceIds } = this;
    return { fabric, picture, threads, stitches: this.writer.finish(), pieceIds };
  }

  private pieceOf(piece: unknown, fail: Fail): number {
    if (piece === undefined || piece === '') return NO_PIECE;
    if (typeof piece !== 'string') fail(`"${String(piece)}" is not the name of a piece`);
    const known = this.pieceAt.get(piece);
    if (known !== undefined) return known;
    const at = this.pieceIds.length;
    if (at >= NO_PIECE) fail('too many pieces');
    this.pieceAt.set(piece, at);
    this.pieceIds.push(piece);
    return at;
  }
}

function readNumber(value: unknown, fail: Fail): number {
  const number =
    typeof value === 'number' ? value : typeof value === 'string' && value.trim() !== '' ? Number(value) : NaN;
  if (!Number.isFinite(number) || Math.abs(number) > MOST_MM)
    fail(`"${String(value ?? '')}" is not a number of millimetres`);
  return number;
}

function checkHex(value: unknown, fail: Fail): string {
  if (typeof value !== 'string' || !/^#[0-9a-f]{6}$/i.test(value))
    fail(`"${String(value ?? '')}" is not a colour like #1f2d2c`);
  return value;
}
