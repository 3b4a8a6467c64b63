import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { until } from '../test/rig';
import { SewnSample, type Sample } from './sewn-sample';

const SAMPLE: Sample = {
  widthMm: 20,
  heightMm: 10,
  threads: ['#c8502b', '#22304a'],
  // A jump, three stitches, a trim, a jump with another thread, two stitches.
  x: [-500, -500, 0, 500, 500, 0, 0, 400],
  y: [0, 0, 100, 0, 0, 300, 300, 300],
  command: [1, 0, 0, 0, 2, 1, 0, 0],
  thread: [0, 0, 0, 0, 0, 1, 1, 1],
};

describe('the sample of the shelf', () => {
  let fixture: ComponentFixture<SewnSample>;
  let http: HttpTestingController;

  beforeEach(() => {
    TestBed.configureTestingModule({ providers: [provideHttpClient(), provideHttpClientTesting()] });
    fixture = TestBed.createComponent(SewnSample);
    fixture.detectChanges();
    http = TestBed.inject(HttpTestingController);
  });
  const page = (): HTMLElement => fixture.nativeElement as HTMLElement;

  it('lays every stitch, counts them, and can be sewn again', async () => {
    spyOn(window, 'matchMedia').and.returnValue({ matches: true } as MediaQueryList);
    http.expectOne('/sample/kite.json').flush(SAMPLE);
    await fixture.whenStable();
    await until(() => page().textContent?.includes('5 stitches, 2 threads') === true);
    const canvas = page().querySelector('canvas');
    const context = canvas?.getContext('2d');
    if (!canvas || !context) throw new Error('there is no canvas');
    const inked = (): number =>
      context.getImageData(0, 0, canvas.width, canvas.height).data.filter((v, i) => i % 4 === 3 && v > 0).length;
    expect(inked()).toBeGreaterThan(20);
    context.clearRect(-2000, -2000, 4000, 4000);
    page().querySelector('button')?.click();
    expect(inked()).toBeGreaterThan(20);
  });

  it('leaves its place empty where it cannot be had', async () => {
    http.expectOne('/sample/kite.json').flush('no', { status: 404, statusText: 'none' });
    await fixture.whenStable();
    expect(page().querySelector('figure')).toBeNull();
  });
});
