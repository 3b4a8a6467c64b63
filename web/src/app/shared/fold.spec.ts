import { ChangeDetectionStrategy, Component, signal } from '@angular/core';
import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { Fold } from './fold';

let made = 0;

@Component({
  selector: 'kite-said-inside',
  template: 'inside',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
class Inside {
  constructor() {
    made++;
  }
}

@Component({
  imports: [Fold, Inside],
  template: `
    <kite-fold name="light" heading="Light and tones" [said]="said()">
      <ng-template><kite-said-inside /></ng-template>
    </kite-fold>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
class Sheet {
  readonly said = signal('as in the picture');
}

describe('Fold', () => {
  let fixture: ComponentFixture<Sheet>;

  const show = async (): Promise<void> => {
    TestBed.resetTestingModule();
    fixture = TestBed.createComponent(Sheet);
    await fixture.whenStable();
  };
  const head = (): HTMLElement => {
    const found = (fixture.nativeElement as HTMLElement).querySelector<HTMLElement>('mat-expansion-panel-header');
    if (!found) throw new Error('there is no heading');
    return found;
  };

  beforeEach(async () => {
    localStorage.removeItem('kite-folds');
    made = 0;
    await show();
  });

  afterAll(() => localStorage.removeItem('kite-folds'));

  it('makes what is in it when it is unfolded, and says in its heading what is chosen', async () => {
    expect(head().getAttribute('aria-expanded')).toBe('false');
    expect(head().innerText).toContain('as in the picture');
    expect(made).toBe(0);
    fixture.componentInstance.said.set('changed');
    await fixture.whenStable();
    expect(head().innerText).toContain('changed');
    head().click();
    await fixture.whenStable();
    expect(made).toBe(1);
    expect((fixture.nativeElement as HTMLElement).innerText).toContain('inside');
  });

  it('is as it was left when it is seen again, by the keyboard as well', async () => {
    head().dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', keyCode: 13 }));
    await fixture.whenStable();
    expect(localStorage.getItem('kite-folds')).toBe('light');
    await show();
    expect(head().getAttribute('aria-expanded')).toBe('true');
    head().click();
    await fixture.whenStable();
    expect(localStorage.getItem('kite-folds')).toBe('');
    await show();
    expect(head().getAttribute('aria-expanded')).toBe('false');
  });
});
