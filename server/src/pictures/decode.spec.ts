import { encode as encodeBmp } from 'bmp-ts';
import { gzipSync } from 'node:zlib';
import sharp from 'sharp';
import { UserError } from '../user-error.js';
import { checkSvg } from './check-svg.js';
import { decodePicture, hashOf, pngOf, rasterOf } from './decode.js';

const two = { create: { width: 6, height: 4, channels: 3 as const, background: '#204060' } };

async function refusal(bytes: Buffer): Promise<string> {
  try {
    await decodePicture(bytes);
  } catch (error) {
    if (error instanceof UserError) return error.message;
    throw error;
  }
  return 'accepted';
}

describe('decodePicture', () => {
  for (const format of ['png', 'jpeg', 'webp', 'gif', 'tiff'] as const) {
    it(`reads ${format}`, async () => {
      const { raster, kind } = await decodePicture(await sharp(two).toFormat(format).toBuffer());
      expect([raster.width, raster.height, kind]).toEqual([6, 4, 'raster']);
      [0x20, 0x40, 0x60].forEach((v, i) => expect(Math.abs((raster.data[i] ?? NaN) - v)).toBeLessThan(6));
      expect(raster.data[3]).toBe(255);
    });
  }

  it('reads BMP', async () => {
    const data = Buffer.alloc(6 * 4 * 4);
    for (let i = 0; i < 24; i++) data.set([255, 0x60, 0x40, 0x20], i * 4);
    const bytes = encodeBmp({ data, width: 6, height: 4, bitPP: 24 }).data;
    const { raster } = await decodePicture(Buffer.from(bytes));
    expect([raster.width, raster.height]).toEqual([6, 4]);
    expect([...raster.data.subarray(0, 4)]).toEqual([0x20, 0x40, 0x60, 255]);
  });

  it('draws SVG large enough to trace and keeps its source', async () => {
    const source = Buffer.from(
      '<svg xmlns="http://www.w3.org/2000/svg" width="20mm" height="10mm" viewBox="0 0 2 1"><rect width="1" height="1" fill="#204060"/></svg>',
    );
    const { raster, kind, source: kept } = await decodePicture(source);
    expect(kind).toBe('svg');
    expect(kept).toEqual(source);
    expect(Math.abs(raster.width - 1200)).toBeLessThan(12);
    expect([...raster.data.subarray(0, 4)]).toEqual([0x20, 0x40, 0x60, 255]);
    expect(raster.data[(raster.width - 1) * 4 + 3]).toBe(0);
  });

  it('turns pictures upright and drops what else the file tells', async () => {
    const bytes = await sharp(two).jpeg().withMetadata({ orientation: 6 }).toBuffer();
    const { raster } = await decodePicture(bytes);
    expect([raster.width, raster.height]).toEqual([4, 6]);
    const { orientation, exif } = await sharp(await pngOf(raster)).metadata();
    expect(orientation).toBeUndefined();
    expect(exif).toBeUndefined();
  });

  it('keeps pixels through its own PNG, half transparent ones too', async () => {
    const data = Uint8ClampedArray.from({ length: 5 * 3 * 4 }, (_, i) => (i * 37) % 256);
    const raster = { width: 5, height: 3, data };
    expect((await rasterOf(await pngOf(raster))).data).toEqual(data);
  });

  it('hashes what is seen, not how it was packed', async () => {
    const plain = await decodePicture(await sharp(two).png({ compressionLevel: 0 }).toBuffer());
    const small = await decodePicture(await sharp(two).png({ compressionLevel: 9 }).toBuffer());
    const other = await decodePicture(
      await sharp({ create: { ...two.create, background: '#204061' } })
        .png()
        .toBuffer(),
    );
    expect(hashOf(plain)).toBe(hashOf(small));
    expect(hashOf(other)).not.toBe(hashOf(plain));
  });

  it('reads packed artwork, and artwork behind a long comment, by the same checks', async () => {
    const text = (inside: string): string =>
      `<svg xmlns="http://www.w3.org/2000/svg" width="20mm" height="10mm"><rect width="40" height="40" fill="#204060"/>${inside}</svg>`;
    const packed = await decodePicture(gzipSync(text('')));
    expect([packed.kind, packed.source?.toString()]).toEqual(['svg', text('')]);
    expect(await refusal(gzipSync(text('<script>1</script>')))).toContain('<script>');
    const behind = Buffer.from(`<!--${' '.repeat(70_000)}-->${text('<script>1</script>')}`);
    expect(await refusal(behind)).toContain('<script>');
    expect(await refusal(gzipSync(Buffer.alloc(40_000_000, 32)))).toContain('unpacks to more than 24 MB');
    expect(await refusal(gzipSync(Buffer.from('no artwork')))).toContain('well formed');
    expect(await refusal(Buffer.from([0x1f, 0x8b, 8, 0, 1, 2, 3]))).toContain('damaged');
    const wide = Buffer.concat([Buffer.from([0xff, 0xfe]), Buffer.from(text(''), 'utf16le')]);
    expect((await decodePicture(wide)).kind).toBe('svg');
  });

  it('refuses a BMP whose pixels are not there', async () => {
    const head = (depth: number, compression: number): Buffer => {
      const bytes = Buffer.alloc(10_000);
      bytes.write('BM');
      bytes.writeUInt32LE(54, 10);
      bytes.writeUInt32LE(40, 14);
      bytes.writeInt32LE(7000, 18);
      bytes.writeInt32LE(7000, 22);
      bytes.writeUInt16LE(depth, 28);
      bytes.writeUInt32LE(compression, 30);
      return bytes;
    };
    for (const [depth, compression] of [
      [24, 0],
      [0, 0],
      [32, 3],
      [8, 1],
      [4, 2],
      [1, 0],
      [7, 0],
    ] as const) {
      expect(await refusal(head(depth, compression)))
        .withContext(`${depth} ${compression}`)
        .toContain('damaged');
    }
  });

  it('says what is wrong with what is no picture', async () => {
    const png = await sharp({ create: { ...two.create, width: 300, height: 300 } })
      .png()
      .toBuffer();
    expect(await refusal(Buffer.alloc(0))).toContain('the file is empty');
    expect(await refusal(Buffer.from('just some text'))).toContain('none of PNG, JPEG');
    expect(await refusal(png.subarray(0, png.length / 2))).toContain('damaged or incomplete');
    expect(await refusal(Buffer.from('BM damaged bitmap file that is far too short'))).toContain('none of');
    const cut = Buffer.alloc(40);
    cut.write('BM');
    cut.writeUInt32LE(40, 14);
    expect(await refusal(cut)).toContain('damaged');
  });

  it('refuses a picture of too many pixels before decoding it', async () => {
    const png = await sharp(two).png().toBuffer();
    png.writeUInt32BE(30000, 16);
    png.writeUInt32BE(30000, 20);
    const bmp = Buffer.alloc(60);
    bmp.write('BM');
    bmp.writeUInt32LE(40, 14);
    bmp.writeInt32LE(30000, 18);
    bmp.writeInt32LE(30000, 22);
    expect(await refusal(bmp)).toContain('30000 x 30000 pixels');
    expect(await refusal(png)).toMatch(/30000 x 30000 pixels|damaged/);
  });
});

describe('checkSvg', () => {
  const svg = (inside: string): string =>
    `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink">${inside}</svg>`;
  const refused: readonly [string, string, RegExp][] = [
    ['a script', svg('<script>1</script>'), /<script>/],
    ['an event handler', svg('<rect onclick="a()"/>'), /onclick/],
    ['a reference elsewhere', svg('<image href="http://a.test/b.png"/>'), /outside the file/],
    ['a linked reference elsewhere', svg('<use xlink:href="other.svg#a"/>'), /other\.svg/],
    ['a style that fetches', svg('<style>@import "a.css";</style>'), /imports/],
    ['a fill that fetches', svg('<rect style="fill:url(http://a.test/#g)"/>'), /a\.test/],
    ['foreign content', svg('<foreignObject/>'), /foreignobject/],
    ['entities of entities', '<!DOCTYPE svg [<!ENTITY a "b"><!ENTITY c "&a;&a;">]>' + svg('&c;'), /entities/],
    ['entities elsewhere', '<!DOCTYPE svg [<!ENTITY a SYSTEM "file:///etc/passwd">]>' + svg('&a;'), /entities/],
    ['a link that runs something', svg('<a href="javascript:alert(1)"/>'), /outside the file/],
    ['broken markup', '<svg><g></svg>', /well formed/],
    ['another root', '<html><svg/></html>', /outermost/],
    ['endless nesting', svg('<g>'.repeat(300) + '</g>'.repeat(300)), /levels/],
  ];
  for (const [what, text, message] of refused) {
    it(`refuses ${what}`, () => expect(() => checkSvg(text)).toThrowError(UserError, message));
  }

  it('accepts gradients, clips and references inside the file', () => {
    const inside =
      '<defs><linearGradient id="g"/></defs><rect fill="url(#g)"/><use xlink:href="#g"/><image href="data:image/png;base64,AA"/>';
    expect(() => checkSvg(svg(inside))).not.toThrow();
  });

  it('accepts what drawing programs write: quotes, links, namespaces by entities', () => {
    const inside = `<rect fill="url('#g')"/><rect style="fill: url( #g )"/><a href="https://a.test/"><rect/></a>`;
    expect(() => checkSvg(svg(inside))).not.toThrow();
    const named = '<!DOCTYPE svg [<!ENTITY ns "http://www.w3.org/2000/svg">]><svg xmlns="&ns;"/>';
    expect(() => checkSvg(named)).not.toThrow();
  });
});
