import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { Preferences } from './preferences';
import { SliderField } from './slider-field';

describe('SliderField', () => {
  let fixture: ComponentFixture<SliderField>;
  let changes: number[];
  const find = (selector: string): HTMLInputElement =>
    fixture.nativeElement.querySelector(selector) as HTMLInputElement;

  beforeEach(async () => {
    localStorage.clear();
    fixture = TestBed.createComponent(SliderField);
    for (const [name, value] of Object.entries({ label: 'Width', value: 50, min: 5, max: 400 }))
      fixture.componentRef.setInput(name, value);
    changes = [];
    fixture.componentInstance.changed.subscribe((v) => changes.push(v));
    await fixture.whenStable();
  });

  const type = async (text: string): Promise<void> => {
    find('.value').value = text;
    find('.value').dispatchEvent(new Event('change'));
    await fixture.whenStable();
  };

  it('shows the value in the chosen unit', async () => {
    expect(find('.value').value).toBe('50.0 mm');
    TestBed.inject(Preferences).unit.set('in');
    await fixture.whenStable();
    expect(find('.value').value).toBe('1.97 in');
  });

  it('gives slid and typed values in millimetres', async () => {
    find('mat-slider input').value = '60';
    find('mat-slider input').dispatchEvent(new Event('input'));
    await type('4 in');
    expect(changes).toEqual([60, 101.6]);
  });

  it('says what it does not take, and keeps the value', async () => {
    await type('1000');
    expect(find('.refused').textContent).toBe('From 5.0 mm to 400.0 mm');
    expect(find('.value').getAttribute('aria-invalid')).toBe('true');
    await type('much');
    expect(find('.refused').textContent).toContain('"much" is not a number');
    expect(find('.value').value).toBe('50.0 mm');
    expect(changes).toEqual([]);
    await type('70');
    expect(find('.refused')).toBeNull();
  });

  it('takes typed values beyond the end of the slider, up to the limit', async () => {
    fixture.componentRef.setInput('limit', 600);
    await fixture.whenStable();
    await type('500');
    await type('700');
    expect(changes).toEqual([500]);
    expect(find('.refused').textContent).toBe('From 5.0 mm to 600.0 mm');
  });

  it('joins label and slider for those who listen', () => {
    expect(find('label').getAttribute('for')).toBe(find('mat-slider input').id);
    expect(find('mat-slider input').getAttribute('aria-valuetext')).toBe('50.0 mm');
  });
});
