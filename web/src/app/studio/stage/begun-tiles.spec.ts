import { BegunTiles } from './begun-tiles';

describe('BegunTiles', () => {
  const SIDE = 8;
  let begun: BegunTiles;

  beforeEach(() => (begun = new BegunTiles(SIDE)));

  function bitmap(width: number, height: number, colour: string): ImageBitmap {
    const canvas = new OffscreenCanvas(width, height);
    const context = canvas.getContext('2d');
    if (context) {
      context.fillStyle = colour;
      context.fillRect(0, 0, width, height);
    }
    return canvas.transferToImageBitmap();
  }

  function reds(picture: CanvasImageSource): number[] {
    const context = new OffscreenCanvas(SIDE, SIDE).getContext('2d');
    context?.drawImage(picture, 0, 0);
    return [...(context?.getImageData(0, 0, SIDE, SIDE).data ?? [])].filter((_, i) => i % 4 === 0);
  }

  it('puts a tile together from its quarters', () => {
    begun.begin('a');
    const quarters = begun.get('a')?.missing ?? [];
    expect(quarters.length).toBe(4);
    quarters.slice(0, 3).forEach((part) => expect(begun.add('a', part, bitmap(4, 4, '#f00'))).toBeUndefined());
    expect(begun.get('a')?.missing).toEqual(quarters.slice(3));
    const whole = begun.add('a', quarters[3], bitmap(4, 4, '#f00'));
    expect(whole && reds(whole).every((red) => red === 255)).toBeTrue();
    expect(begun.keys).toEqual([]);
  });

  it('keeps what is there around a part that has changed', () => {
    const part = { x: 2, y: 3, width: 4, height: 2 };
    begun.change('a', part, bitmap(SIDE, SIDE, '#400000'));
    const { canvas, missing } = begun.get('a') ?? { canvas: new OffscreenCanvas(1, 1), missing: [] };
    expect(missing).toEqual([part]);
    expect(reds(canvas).filter((red) => red === 0x40).length).toBe(SIDE * SIDE - 8);
    const whole = begun.add('a', part, bitmap(4, 2, '#f00'));
    if (!whole) throw new Error('the tile is not whole');
    const all = reds(whole);
    expect(all.filter((red) => red === 255).length).toBe(8);
    expect(all[3 * SIDE + 2]).toBe(255);
    expect(all[2 * SIDE + 2]).toBe(0x40);
  });

  it('asks once for what another change has swallowed, and for nothing it does not know', () => {
    const small = { x: 2, y: 2, width: 2, height: 2 };
    const large = { x: 1, y: 1, width: 5, height: 5 };
    begun.change('a', small);
    expect(begun.keys).toEqual([]);
    begun.change('a', small, bitmap(SIDE, SIDE, '#400000'));
    begun.change('a', large);
    expect(begun.get('a')?.missing).toEqual([large]);
    expect(begun.add('b', small, bitmap(2, 2, '#f00'))).toBeUndefined();
    expect(begun.add('a', large, bitmap(5, 5, '#f00'))).toBeDefined();
    begun.begin('c');
    begun.clear();
    expect(begun.get('c')).toBeUndefined();
  });
});
