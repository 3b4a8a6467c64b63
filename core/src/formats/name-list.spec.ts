import { namesOf } from './name-list.js';

describe('namesOf', () => {
  it('takes one name a line, with commas and without empty ones', () => {
    expect(namesOf('Mira\r\n\n  Jun \nLantern Bay, north pier\n')).toEqual(['Mira', 'Jun', 'Lantern Bay, north pier']);
    expect(namesOf('')).toEqual([]);
  });

  it('takes the column of names of a table', () => {
    expect(namesOf('\uFEFFSize,Name\n40,"Mira, the younger"\n50,Jun\n60,')).toEqual(['Mira, the younger', 'Jun']);
    expect(namesOf('text,hex\nMira\\nJun,#112233')).toEqual(['Mira\nJun']);
  });

  it('sews a line that only begins like a head', () => {
    expect(namesOf('Name of the kite\nSail')).toEqual(['Name of the kite', 'Sail']);
  });
});
