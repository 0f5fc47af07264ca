import { randomUUID } from 'node:crypto';
import sharp from 'sharp';
import { newDesign } from '@/core/design/new-design';
import { startsAsPicture } from '@/core/bench/picture';
import { createDesign } from './designs';
import { asKept, findPicture, keepPicture } from './pictures';
import { pool } from './pool';

// Against the real throw-away database that ./test starts and migrates.
beforeEach(() => pool().query('TRUNCATE designs CASCADE'));
afterAll(() => pool().end());

const plain = (width = 60, height = 40) => sharp({ create: { width, height, channels: 3, background: '#7a5a3c' } });

describe('a picture is kept as it looks', () => {
  it('without the place, time and camera that its file tells of', async () => {
    const told = await plain()
      .withExif({
        IFD0: { Make: 'Camera of nobody', Model: 'Nothing' },
        IFD3: { GPSLatitudeRef: 'N', GPSLatitude: '51/1 30/1 0/1', GPSLongitudeRef: 'E', GPSLongitude: '7/1 0/1 0/1' },
      })
      .jpeg()
      .toBuffer();
    expect((await sharp(told).metadata()).exif).toBeDefined();
    expect(told.includes('Camera of nobody')).toBe(true);
    const kept = (await asKept(told))!;
    const read = await sharp(kept).metadata();
    expect(read).toMatchObject({ format: 'jpeg', width: 60, height: 40 });
    expect([read.exif, read.xmp, read.iptc]).toEqual([undefined, undefined, undefined]);
    expect(kept.includes('Camera of nobody')).toBe(false);
  });

  it('upright, and no larger than a screen shows', async () => {
    const lying = await plain().withMetadata({ orientation: 6 }).jpeg().toBuffer();
    expect(await sharp((await asKept(lying))!).metadata()).toMatchObject({ width: 40, height: 60 });
    const large = await plain(5000, 2500).png().toBuffer();
    expect(await sharp((await asKept(large))!).metadata()).toMatchObject({ width: 2400, height: 1200 });
  });

  it.each(['jpeg', 'png', 'webp'] as const)('%s is taken, whatever it is called', async (format) => {
    const file = await plain().toFormat(format).toBuffer();
    expect(startsAsPicture(file)).toBe(true);
    expect(await asKept(file)).not.toBeNull();
  });
});

it.each([
  ['a program', Buffer.concat([Buffer.from('MZ\x90\x00\x03'), Buffer.alloc(4000, 7)])],
  ['nothing', Buffer.alloc(0)],
  ['a page', Buffer.from('<html><script>alert(1)</script></html>')],
  ['a drawing that may hold a script', Buffer.from('<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"/>')],
  [
    'a beginning of a picture with a program behind',
    Buffer.concat([Buffer.from([0xff, 0xd8, 0xff]), Buffer.alloc(900, 1)]),
  ],
])('%s is no picture', async (_, file) => {
  expect(await asKept(file)).toBeNull();
});

it('a picture stands under its design alone, once, as it was first sent', async () => {
  const [mine, other] = [await createDesign(newDesign('Mine')), await createDesign(newDesign('Other'))];
  const id = randomUUID();
  const [first, second] = await Promise.all(
    [plain(), plain(10, 10)].map(async (one) => (await asKept(await one.png().toBuffer()))!),
  );
  await keepPicture(mine.id, id, first);
  await keepPicture(mine.id, id, second);
  expect(await findPicture(mine.id, id)).toEqual(first);
  expect(await findPicture(other.id, id)).toBeNull();
  await expect(keepPicture(other.id, id, first)).rejects.toMatchObject({ why: 'of another design' });
  await expect(keepPicture(randomUUID(), randomUUID(), first)).rejects.toMatchObject({ why: 'no design' });
});
