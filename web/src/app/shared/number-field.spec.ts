import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { NumberField } from './number-field';

describe('a typed number', () => {
  let fixture: ComponentFixture<NumberField>;
  let given: number[];

  const open = async (inputs: Record<string, unknown>): Promise<void> => {
    localStorage.clear();
    fixture = TestBed.createComponent(NumberField);
    for (const [name, value] of Object.entries({ label: 'Across', value: 2, ...inputs })) {
      fixture.componentRef.setInput(name, value);
    }
    given = [];
    fixture.componentInstance.changed.subscribe((value) => given.push(value));
    await fixture.whenStable();
  };
  const type = async (text: string): Promise<string> => {
    const page = fixture.nativeElement as HTMLElement;
    const field = page.querySelector('input');
    if (!field) throw new Error('there is no field');
    field.value = text;
    field.dispatchEvent(new Event('change'));
    await fixture.whenStable();
    return page.querySelector('[role=alert]')?.textContent ?? '';
  };

  it('stays a whole number where it is a count, and within what recipes take', async () => {
    await open({ unit: '', digits: 0, limit: 'severalAcross' });
    expect(await type('2.7')).toBe('');
    expect(given).toEqual([3]);
    expect(await type('20 + 4')).toContain('from 1 to 20');
    expect(await type('none')).toContain('is no number from 1 to 20');
    expect(given).toEqual([3]);
  });

  it('takes lengths as fine as they are typed, in any unit', async () => {
    await open({ value: 10, limit: 'severalGapMm' });
    await type('12.345');
    await type('1in - 0.4 mm');
    expect(given).toEqual([12.345, 25]);
    expect(await type('200')).toContain('from 0.0 mm to 100.0 mm');
  });
});
