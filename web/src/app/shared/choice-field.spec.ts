import { TestbedHarnessEnvironment } from '@angular/cdk/testing/testbed';
import { ChangeDetectionStrategy, Component, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { MatSelectHarness } from '@angular/material/select/testing';
import { ChoiceField, type Choice } from './choice-field';

@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ChoiceField],
  template: `<kite-choice-field
    label="Sail"
    none="Several sails"
    [choices]="choices()"
    [value]="value()"
    (chosen)="said.push($event)"
  />`,
})
class Host {
  readonly choices = signal<readonly Choice[]>([
    { id: 'auto', name: 'By the wind' },
    { id: 'box', name: 'Box kite', group: 'Frames', hex: '#2c6e80' },
    { id: 'delta', name: 'Delta', group: 'Frames' },
    { id: 'tail', name: 'Tail', group: 'Lines' },
  ]);
  readonly value = signal<string | undefined>('box');
  readonly said: string[] = [];
}

describe('ChoiceField', () => {
  const make = async () => {
    const fixture = TestBed.createComponent(Host);
    await fixture.whenStable();
    const select = await TestbedHarnessEnvironment.loader(fixture).getHarness(MatSelectHarness);
    return { fixture, host: fixture.componentInstance, select };
  };

  it('shows what is chosen with its colour, and tells what somebody chooses', async () => {
    const { fixture, host, select } = await make();
    expect(await select.getValueText()).toBe('Box kite');
    expect((fixture.nativeElement as HTMLElement).querySelectorAll('.swatch').length).toBe(1);
    await select.open();
    const groups = await select.getOptionGroups();
    expect(await Promise.all(groups.map((group) => group.getLabelText()))).toEqual(['Frames', 'Lines']);
    await select.clickOptions({ text: 'Tail' });
    expect(host.said).toEqual(['tail']);
  });

  it('says that several differ while nothing is chosen, and has a name for those who hear it', async () => {
    const { fixture, host, select } = await make();
    host.value.set(undefined);
    await fixture.whenStable();
    expect(await select.isEmpty()).toBeTrue();
    const list = (fixture.nativeElement as HTMLElement).querySelector('mat-select');
    expect(list?.getAttribute('aria-label')).toBe('Sail');
    expect(list?.textContent).toContain('Several sails');
  });
});
