import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import { RouterLink } from '@angular/router';

/** Head of a page beside the studio: the way back to the shelf, the page's name, and what else it has to say. */
@Component({
  selector: 'kite-page-head',
  imports: [RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <header>
      <a class="home" routerLink="/" aria-label="Shelf"
        ><img src="kite.svg" alt="" width="24" height="30" /><span>Shelf</span></a
      >
      <span aria-hidden="true">/</span>
      <h1>{{ name() }}</h1>
      <ng-content />
    </header>
  `,
  styles: `
    header {
      display: flex;
      align-items: center;
      gap: 12px;
      height: 56px;
      padding: 0 26px;
      border-bottom: 1px solid var(--line);
      background: var(--paper);
    }
    h1 {
      flex: 1;
      font-size: 18px;
    }
    .home {
      display: flex;
      align-items: center;
      gap: 10px;
      color: inherit;
      text-decoration: none;
    }
  `,
})
export class PageHead {
  readonly name = input.required<string>();
}
