import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { TestBed } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import { GuidePage } from './guide-page';
import { GUIDE_PAGES, pageFor } from './pages';

describe('the guide', () => {
  const at = { knot: 'pieces', method: 'pieces', vector: false, gradient: false };

  it('is opened at the page of the job at hand', () => {
    expect(pageFor(at).id).toBe('patch-from-a-logo');
    expect(pageFor({ ...at, vector: true }).id).toBe('vector-artwork');
    expect(pageFor({ ...at, vector: true, gradient: true }).id).toBe('gradient-word');
    expect(pageFor({ ...at, method: 'rows' }).id).toBe('portrait-on-a-dark-bag');
    expect(pageFor({ ...at, method: 'cross', knot: 'tidy' }).id).toBe('mend-after-a-test');
    for (const method of ['painting', 'rows', 'inks', 'cross', 'pieces', undefined]) {
      expect(GUIDE_PAGES).toContain(pageFor({ ...at, method }));
    }
  });

  it('shows a page with its pictures and links, and nothing that could run', async () => {
    TestBed.configureTestingModule({
      providers: [provideRouter([]), provideHttpClient(), provideHttpClientTesting()],
    });
    const fixture = TestBed.createComponent(GuidePage);
    fixture.componentRef.setInput('page', 'counted-cross');
    fixture.detectChanges();
    TestBed.tick();
    const http = TestBed.inject(HttpTestingController);
    http
      .expectOne('/guide-pages/counted-cross.md')
      .flush(
        '# Crosses\n\n![The block](../screenshots/counted-cross.png)\n\n1. **Drop it** and see [vectors](vector-artwork.md).\n\n<img src=x onerror="window.ran = true">',
      );
    await fixture.whenStable();
    const page = fixture.nativeElement as HTMLElement;
    expect(page.querySelector('article h1')?.textContent).toBe('Crosses');
    expect(page.querySelector('article img')?.getAttribute('src')).toBe('/guide-pictures/counted-cross.png');
    expect(page.querySelector('article li a')?.getAttribute('href')).toBe('/guide/vector-artwork');
    expect(page.querySelector('[onerror]')).toBeNull();
    expect(page.querySelectorAll('nav a').length).toBe(GUIDE_PAGES.length);
  });

  it('says so where a page cannot be had', async () => {
    TestBed.configureTestingModule({
      providers: [provideRouter([]), provideHttpClient(), provideHttpClientTesting()],
    });
    const fixture = TestBed.createComponent(GuidePage);
    fixture.componentRef.setInput('page', 'vector-artwork');
    fixture.detectChanges();
    TestBed.tick();
    TestBed.inject(HttpTestingController)
      .expectOne('/guide-pages/vector-artwork.md')
      .flush('no', { status: 503, statusText: 'away' });
    await fixture.whenStable();
    expect((fixture.nativeElement as HTMLElement).querySelector('[role=alert]')?.textContent).toContain('Try again');
  });
});
