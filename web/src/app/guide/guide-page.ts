import { HttpClient } from '@angular/common/http';
import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { RouterLink, RouterLinkActive } from '@angular/router';
import { marked, Renderer } from 'marked';
import { PageHead } from '../shared/page-head';
import { GUIDE_PAGES } from './pages';

/** Pages and pictures of the guide lie here on the server. */
const TEXTS = '/guide-pages/';
const PICTURES = '/guide-pictures/';

/** Links between pages, and to pictures, as they stand in the files and as they are here. */
const renderer = new Renderer();
const plainLink = renderer.link.bind(renderer);
const plainImage = renderer.image.bind(renderer);
renderer.link = (token) => plainLink({ ...token, href: token.href.replace(/^([a-z-]+)\.md$/, '/guide/$1') });
renderer.image = (token) => plainImage({ ...token, href: token.href.replace(/^\.\.\/screenshots\//, PICTURES) });

/** One job, told from the picture to the machine. */
@Component({
  selector: 'kite-guide-page',
  imports: [PageHead, RouterLink, RouterLinkActive],
  template: `
    <kite-page-head name="Guide" />
    <main>
      <nav aria-label="Jobs">
        @for (each of pages; track each.id) {
          <a [routerLink]="['/guide', each.id]" routerLinkActive="here" ariaCurrentWhenActive="page">{{
            each.title
          }}</a>
        }
      </nav>
      <!-- The page itself scrolls: it takes the keys. -->
      <article tabindex="0" aria-label="Page of the guide">
        @if (text.isLoading()) {
          <p role="status">Opening the page …</p>
        } @else if (html(); as made) {
          <div [innerHTML]="made"></div>
        } @else {
          <p role="alert">
            This page could not be opened.
            <button type="button" class="solid-button second" (click)="text.reload()">Try again</button>
          </p>
        }
      </article>
    </main>
  `,
  styles: `
    :host {
      display: grid;
      grid-template-rows: 56px 1fr;
      height: 100vh;
    }
    main {
      display: grid;
      grid-template-columns: 270px minmax(0, 1fr);
      min-height: 0;
    }
    nav {
      display: grid;
      gap: 2px;
      align-content: start;
      overflow: auto;
      padding: 18px 12px;
      border-right: 1px solid var(--line);
      background: var(--paper);
    }
    nav a {
      padding: 9px 12px;
      border-radius: 9px;
      color: inherit;
      text-decoration: none;
    }
    nav a:hover {
      background: var(--sailcloth);
    }
    nav a.here {
      background: var(--sailcloth);
      font-weight: 600;
    }
    article {
      overflow: auto;
      padding: 26px 34px 60px;
    }
    article > * {
      max-width: 760px;
    }
    article ::ng-deep {
      h1 {
        margin: 0 0 14px;
        font-size: 25px;
      }
      p,
      li {
        line-height: 1.55;
      }
      li {
        margin: 7px 0;
      }
      ol,
      ul {
        padding-left: 22px;
      }
      img {
        width: 100%;
        border: 1px solid var(--line);
        border-radius: 12px;
      }
      em {
        font-style: normal;
        font-weight: 600;
      }
      code {
        padding: 1px 5px;
        border-radius: 5px;
        background: var(--sailcloth);
      }
      a {
        color: var(--glass);
      }
      table {
        border-collapse: collapse;
      }
      :is(th, td) {
        padding: 4px 12px 4px 0;
        text-align: left;
      }
    }
    @media (max-width: 760px) {
      main {
        grid-template-columns: minmax(0, 1fr);
        grid-template-rows: auto 1fr;
      }
      nav {
        max-height: 30vh;
        border-right: 0;
        border-bottom: 1px solid var(--line);
      }
      article {
        padding: 18px;
      }
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class GuidePage {
  private readonly http = inject(HttpClient);
  /** Which page, from the address. */
  readonly page = input<string>();
  protected readonly pages = GUIDE_PAGES;

  private readonly id = computed(() => (GUIDE_PAGES.find(({ id }) => id === this.page()) ?? GUIDE_PAGES[0]).id);
  protected readonly text = rxResource({
    params: () => this.id(),
    stream: ({ params }) => this.http.get(`${TEXTS}${params}.md`, { responseType: 'text' }),
  });
  /** What it says, as markup; Angular takes out whatever could run. */
  protected readonly html = computed(() =>
    this.text.hasValue() ? marked.parse(this.text.value(), { async: false, renderer }) : '',
  );
}
