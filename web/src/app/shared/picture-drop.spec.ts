import { fileOf, nameFrom } from './picture-drop';

describe('picture drop', () => {
  it('names a project after its file', () => {
    expect(nameFrom('fair-crest_final.png')).toBe('Fair crest final');
    expect(nameFrom('image.png')).toBe('New picture');
    expect(nameFrom('.png')).toBe('New picture');
  });

  it('takes the first file, if there is one', () => {
    const data = new DataTransfer();
    expect(fileOf(data)).toBeUndefined();
    data.items.add(new File(['x'], 'a.png'));
    expect(fileOf(data)?.name).toBe('a.png');
    expect(fileOf(null)).toBeUndefined();
  });
});
