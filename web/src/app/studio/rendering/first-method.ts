import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { FIRST_METHODS, PIECES_METHOD, renderMethodOf } from '@open-kite/core';
import { Conversion } from '../../convert/conversion';
import { ProjectStore } from '../../project/project-store';
import { OpenPicture } from '../open-picture';
import { kindsInWords } from '../pieces/kinds-in-words';
import { StudioState } from '../studio-state';
import { TidyActs } from '../tidy/tidy-acts';
import { MethodCards } from './method-cards';

/** How many of something there are, in words; nothing of none. */
const counted = (count: number, one: string, more: string): string =>
  count === 0 ? '' : `${count} ${count === 1 ? one : more}`;

/** Says, until anything is changed, what a picture became by itself, and what could be decided otherwise. */
@Component({
  selector: 'kite-first-method',
  imports: [MethodCards],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (said(); as now) {
      <section role="note" aria-label="How this photograph is sewn">
        <p>
          This picture is a photograph, sewn as <strong>{{ now.name.toLowerCase() }}</strong>.
          {{ isBeside() ? 'It can be sewn otherwise:' : 'The other methods are below.' }}
        </p>
        @if (isBeside()) {
          <kite-method-cards />
        }
        <button type="button" class="link done" (click)="read.set(true)">Good so</button>
      </section>
    } @else if (happened(); as what) {
      <section role="note" aria-label="What happened">
        <p>{{ what.text }}</p>
        <div class="acts">
          @if (what.ground !== undefined) {
            <button type="button" class="link" (click)="setGround(!what.ground)">
              {{ what.ground ? 'Sew the ground' : 'Leave the ground bare' }}
            </button>
          }
          @if (what.small > 0 && state.knot() !== 'pieces') {
            <button type="button" class="link" (click)="state.knot.set('pieces')">Look at what was too small</button>
          }
          @if (what.findings > 0 && state.knot() !== 'tidy') {
            <button type="button" class="link" (click)="state.knot.set('tidy')">Tidy it</button>
          }
          <button type="button" class="link done" (click)="read.set(true)">Good so</button>
        </div>
      </section>
    }
  `,
  styleUrl: '../sheet/sheet-parts.scss',
  styles: `
    section {
      display: grid;
      gap: 8px;
      margin: 0 0 12px;
      padding: 8px 12px;
      border-radius: 10px;
      background: var(--sailcloth);
      font-size: 13px;
    }
    p {
      margin: 0;
    }
    .acts {
      display: flex;
      flex-wrap: wrap;
      gap: 2px 14px;
    }
    .link {
      color: color-mix(in srgb, var(--glass) 72%, var(--ink));
    }
    .done {
      justify-self: start;
      color: var(--mute);
    }
  `,
})
export class FirstMethod {
  private readonly store = inject(ProjectStore);
  private readonly conversion = inject(Conversion);
  private readonly open = inject(OpenPicture);
  protected readonly state = inject(StudioState);
  private readonly tidy = inject(TidyActs);
  protected readonly read = signal(false);

  /** The method a photograph has by itself, while nothing has been changed. */
  protected readonly said = computed(() => {
    const method = this.store.view()?.method;
    return this.isFresh() && method === FIRST_METHODS.photograph ? renderMethodOf(method) : undefined;
  });
  /** Nothing was changed yet, and nobody has read this. */
  private readonly isFresh = computed(
    () => !this.read() && this.store.undoLabel() === undefined && this.store.redoLabel() === undefined,
  );

  /** What became of flat art. */
  protected readonly happened = computed(() => {
    const design = this.conversion.design();
    const result = this.open.result();
    const picture = this.store.object();
    if (!this.isFresh() || !design || !result || !picture || picture.method !== PIECES_METHOD) return undefined;
    if (this.conversion.state() !== 'done' || picture.sketch) return undefined;
    const small = design.tooSmall.length;
    const bare = picture.picture.dropGround;
    const parts = [
      `${result.vector ? 'Vector artwork' : 'Flat art'}, sewn with ${counted(design.threads.length, 'thread', 'threads')} as ${kindsInWords(design.pieces)}.`,
      result.plainGround ? (bare ? 'Its plain ground stays bare.' : 'Its plain ground is sewn.') : '',
      small > 0 ? `${counted(small, 'spot', 'spots')} too small to sew ${small === 1 ? 'was' : 'were'} left out.` : '',
    ];
    return {
      text: parts.filter((part) => part !== '').join(' '),
      ground: result.plainGround ? bare : undefined,
      small,
      findings: this.tidy.list().length,
    };
  });

  protected setGround(bare: boolean): void {
    this.store.change('ground', (view) => (view.picture.dropGround = bare));
  }

  /** The third step has the methods by itself. */
  protected readonly isBeside = computed(() => this.state.knot() !== 'pieces');
}
