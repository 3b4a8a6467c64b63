import { computed, effect, inject, Injectable, signal, untracked } from '@angular/core';
import {
  alphabetOf,
  ALPHABETS,
  FIRST_TEXT,
  missingCharacters,
  IDENTITY,
  lineForText,
  newLetters,
  pairsAfter,
  type Baseline,
  type FontOutlines,
  type LettersObject,
} from '@open-kite/core';
import type { FontInfo } from '@open-kite/contract';
import { firstValueFrom } from 'rxjs';
import { Api } from '../../api/api';
import { Conversion } from '../../convert/conversion';
import type { Draft } from '../../project/history';
import { ProjectStore } from '../../project/project-store';
import { ObjectActs } from '../objects/object-acts';
import { StudioState } from '../studio-state';

/** What a new text says until somebody types. */
const FIRST_WORDS = 'Lantern Bay';
/** Room between the design and a text that is put below it. */
const BELOW_MM = 4;

/** Texts of the design: typed on the cloth, set in the Sheet. */
@Injectable()
export class LetterActs {
  private readonly api = inject(Api);
  private readonly conversion = inject(Conversion);
  private readonly store = inject(ProjectStore);
  private readonly state = inject(StudioState);
  private readonly objects = inject(ObjectActs);

  /** Whether the chosen text is being typed on the cloth. */
  readonly typing = signal(false);
  readonly fonts = signal<readonly FontInfo[]>(
    ALPHABETS.map(({ id, name, hint, leastMm }) => ({ id, name, hint, leastMm, kind: 'strokes' as const })),
  );

  /** The one text that is chosen. */
  readonly chosen = computed((): LettersObject | undefined => {
    const pieces = this.conversion.design()?.pieces ?? [];
    const ids = new Set([...this.state.selected()].map((i) => pieces[i]?.object));
    for (const id of this.state.wholes()) ids.add(id);
    if (ids.size !== 1) return undefined;
    const [id] = ids;
    const object = this.store.recipe()?.objects.find((o) => o.id === id);
    return object?.kind === 'letters' ? object : undefined;
  });

  /** Characters of the chosen text that its font has not got. */
  readonly missing = computed(() => {
    const own = this.chosen();
    return own ? missingCharacters(own.font, own.text, own.outlines) : [];
  });

  /** Numbers the latest glyphs asked for: an older answer changes nothing. */
  private asked = 0;

  constructor() {
    effect(() => {
      if (!this.chosen()) untracked(() => this.typing.set(false));
    });
  }

  /** Reads which fonts there are; our own are known without. */
  async load(): Promise<void> {
    try {
      this.fonts.set(await firstValueFrom(this.api.fonts()));
    } catch {
      // Our own alphabets are there all the same.
    }
  }

  /** Puts a text below the design, and lets it be typed. */
  add(): void {
    const design = this.conversion.design();
    const id = this.objects.freshId('letters');
    const bottom = Math.max(0, ...(design?.pieces.map(({ bounds }) => bounds.bottom) ?? []), bottomOf(design?.picture));
    const letters: LettersObject = {
      ...newLetters(id, { text: FIRST_WORDS }, { hex: this.objects.outlineHex() }),
      place: { a: 1, b: 0, c: 0, d: 1, e: 0, f: bottom === 0 ? 0 : bottom + BELOW_MM + FIRST_TEXT.heightMm },
    };
    this.store.changeWhole('letters added', ({ objects }) => {
      objects.push(letters as Draft<LettersObject>);
    });
    this.state.chooseLater([id]);
    this.typing.set(true);
  }

  /** Changes the chosen text. */
  change(label: string, edit: (letters: Draft<LettersObject>) => void): void {
    const id = this.chosen()?.id;
    if (id !== undefined) this.objects.change(label, id, 'letters', edit);
  }

  /** Types a text; a font of outlines is asked for the glyphs it needs. */
  async type(text: string): Promise<void> {
    const own = this.chosen();
    if (!own || text === own.text) return;
    await this.set(own, text, own.font, 'text');
  }

  /** Gives a letter more room before it, or less, by hand. */
  kern(place: number, mm: number): void {
    this.change('kerning by hand', (letters) => {
      const others = Object.entries(letters.pairs).filter(([at]) => at !== String(place));
      letters.pairs = Object.fromEntries(mm === 0 ? others : [...others, [String(place), mm]]);
    });
  }

  /** Shapes and lines a text can be stood on. */
  readonly drawnLines = this.objects.lines;

  /** Stands the chosen text on a drawn line, which it follows from now on. */
  standOn(id: string): void {
    const line = lineForText(this.store.recipe()?.objects ?? [], id);
    if (!line) return;
    this.change('text on a drawn line', (letters) => {
      Object.assign(letters, { line: 'path', path: [line], along: id, on: null, place: IDENTITY });
    });
  }

  /** Another line to stand on, of those that need none drawn. */
  setLine(line: Baseline): void {
    this.change('line of a text', (letters) => {
      letters.line = line;
      if (line === 'path') return;
      letters.path = [];
      delete letters.along;
    });
  }

  async setFont(font: string): Promise<void> {
    const own = this.chosen();
    if (!own || font === own.font) return;
    await this.set(own, own.text, font, 'font');
  }

  private async set(own: LettersObject, text: string, font: string, label: string): Promise<void> {
    const job = ++this.asked;
    let outlines: FontOutlines | null = null;
    if (!alphabetOf(font)) {
      const known = own.font === font ? own.outlines : null;
      const isNew = !known || missingCharacters(font, text, known).length > 0;
      try {
        outlines = isNew ? await firstValueFrom(this.api.glyphs(font, `${own.text}${text}`)) : known;
      } catch (error) {
        this.objects.say(`The font could not be read: ${(error as Error).message}.`);
        return;
      }
      if (job !== this.asked) return;
    }
    this.objects.change(label, own.id, 'letters', (letters) => {
      letters.pairs = { ...pairsAfter(letters.text, text, letters.pairs) };
      letters.text = text;
      letters.font = font;
      if (JSON.stringify(letters.outlines) !== JSON.stringify(outlines)) {
        letters.outlines = outlines;
      }
    });
  }
}

const bottomOf = (box: { readonly top: number; readonly height: number } | undefined): number =>
  box ? box.top + box.height : 0;
