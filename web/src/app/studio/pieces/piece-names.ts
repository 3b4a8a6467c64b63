import {
  colourWord,
  findAgain,
  objectFrame,
  type Design,
  type DesignObject,
  type Piece,
  type PieceRef,
} from '@open-kite/core';
import { candidatesIn, refIn } from './piece-refs';

interface Named {
  readonly ref: PieceRef;
  readonly word: string;
  readonly number: number;
}

/**
 * Names that stay with pieces across edits: the word for the thread of a piece, and a number among those of that word
 * from when it was first asked for. A piece is told from others as everywhere, by `findAgain`.
 */
export class PieceNames {
  private known: Named[] = [];
  private readonly names = new WeakMap<Piece, Named>();
  private readonly used = new Map<string, number>();
  private design: Design | undefined;
  /** Names that pieces of the present design have. */
  private taken = new Set<Named>();

  /** Name of a piece of a design, such as “Beige 2”. */
  nameOf(design: Design, index: number, objects: readonly DesignObject[]): string {
    if (design !== this.design) {
      this.design = design;
      this.taken = new Set(design.pieces.flatMap((piece) => this.names.get(piece) ?? []));
    }
    const piece = design.pieces[index];
    const word = colourWord(design.threads[piece.thread]?.hex ?? '#888888');
    const had = this.names.get(piece) ?? this.again(design, index, objects);
    const name = had?.word === word ? had : this.fresh(design, piece, objects, word);
    if (had && had !== name) this.known = this.known.filter((other) => other !== had);
    this.names.set(piece, name);
    this.taken.add(name);
    return `${name.word[0].toUpperCase()}${name.word.slice(1)} ${name.number}`;
  }

  private again(design: Design, index: number, objects: readonly DesignObject[]): Named | undefined {
    const piece = design.pieces[index];
    if (this.known.length === 0) return undefined;
    const [candidate] = candidatesIn(design, [{ ...piece, partOf: 0 }], objects);
    const { toHoop } = objectFrame(objects, piece.object);
    return this.known.find((named) => !this.taken.has(named) && findAgain([candidate], named.ref, toHoop) === 0);
  }

  private fresh(design: Design, piece: Piece, objects: readonly DesignObject[], word: string): Named {
    const number = (this.used.get(word) ?? 0) + 1;
    this.used.set(word, number);
    const named = { ref: refIn(design, piece, objects), word, number };
    this.known.push(named);
    return named;
  }
}
