import { ChangeDetectionStrategy, Component, computed, effect, inject, untracked } from '@angular/core';
import { PIECES_METHOD } from '@open-kite/core';
import { Conversion } from '../../convert/conversion';
import { ProjectStore } from '../../project/project-store';
import { formatCount } from '../../shared/units';
import { MethodPictures } from './method-pictures';
import { RenderingActs } from './rendering-acts';

/** Every method as a small sewn picture of the open picture; one touch sews it that way. */
@Component({
  selector: 'kite-method-cards',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ul>
      @for (item of pictures.list(); track item.method) {
        <li>
          <button
            type="button"
            [attr.data-method]="item.method"
            [attr.aria-pressed]="item.method === now()"
            (click)="acts.setMethod(item.method)"
          >
            <span class="cloth" [class.waits]="!item.url && pictures.making()" aria-hidden="true">
              @if (item.url) {
                <img [src]="item.url" alt="" />
              }
            </span>
            <span class="name">{{ item.name }}</span>
            @if (item.stitches !== undefined) {
              <span class="visually-hidden">, {{ count(item.stitches) }} stitches at this small size</span>
            }
          </button>
        </li>
      }
    </ul>
    @if (!pictures.complete() && !pictures.making()) {
      <button type="button" class="link" (click)="show()">Show how each would look</button>
    }
  `,
  styleUrl: '../sheet/sheet-parts.scss',
  styles: `
    :host {
      display: grid;
      gap: 6px;
    }
    ul {
      display: grid;
      grid-template-columns: repeat(5, minmax(0, 1fr));
      gap: 4px;
      margin: 0;
      padding: 0;
      list-style: none;
    }
    li button {
      display: grid;
      align-content: start;
      gap: 3px;
      width: 100%;
      min-width: 0;
      padding: 3px;
      border: 1px solid transparent;
      border-radius: 9px;
      background: none;
      color: var(--ink);
      font: inherit;
      font-size: 10.5px;
      letter-spacing: -0.01em;
      line-height: 1.15;
      cursor: pointer;
    }
    li button:hover {
      border-color: var(--line);
      background: var(--sailcloth);
    }
    li button[aria-pressed='true'] {
      border-color: var(--ember);
      font-weight: 600;
    }
    .cloth {
      display: grid;
      place-items: center;
      aspect-ratio: 1;
      overflow: hidden;
      border-radius: 6px;
      background: var(--sailcloth);
    }
    .cloth img {
      width: 100%;
      height: 100%;
      object-fit: cover;
    }
    .waits {
      animation: waits 1.4s ease-in-out infinite alternate;
    }
    @keyframes waits {
      to {
        background: var(--line);
      }
    }
    @media (prefers-reduced-motion: reduce) {
      .waits {
        animation: none;
      }
    }
  `,
})
export class MethodCards {
  private readonly store = inject(ProjectStore);
  private readonly conversion = inject(Conversion);
  protected readonly acts = inject(RenderingActs);
  protected readonly pictures = inject(MethodPictures);
  protected readonly count = formatCount;

  protected readonly now = computed(() => this.store.view()?.method ?? PIECES_METHOD);

  constructor() {
    // Pictures that are rendered have other methods worth a look; they are made once the design itself is.
    effect(() => {
      const ready = this.conversion.design() !== undefined && !this.conversion.stale();
      const wanted = this.now() !== PIECES_METHOD || this.pictures.complete();
      const picture = this.store.object()?.picture;
      if (ready && wanted && picture) untracked(() => this.show());
    });
  }

  protected show(): void {
    void this.pictures.make();
  }
}
