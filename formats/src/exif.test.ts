import sharp from 'sharp';
import { focalLength35 } from './exif';

/** libvips writes the tag: an implementation of Exif apart from the one that reads it. */
const photo = (exif: Record<string, string> | null, format: 'jpeg' | 'png' = 'jpeg') => {
  const picture = sharp({ create: { width: 24, height: 16, channels: 3, background: '#ccc' } });
  return (exif ? picture.withExif({ IFD2: exif }) : picture)[format]().toBuffer();
};

test('the focal length is read as a camera writes it', async () => {
  expect(await focalLength35(await photo({ FocalLengthIn35mmFilm: '26' }))).toBe(26);
  const large = await sharp({
    create: { width: 3000, height: 2000, channels: 3, background: '#ccc', noise: { type: 'gaussian', mean: 128, sigma: 40 } },
  })
    .withExif({ IFD2: { FocalLengthIn35mmFilm: '52' } })
    .jpeg()
    .toBuffer();
  // The beginning of a file is enough.
  expect(await focalLength35(large.subarray(0, 128 * 1024))).toBe(52);
});

test('what is missing, strange or no photo tells nothing', async () => {
  expect(await focalLength35(await photo(null))).toBeNull();
  expect(await focalLength35(await photo({ FocalLength: '26/5' }))).toBeNull();
  expect(await focalLength35(await photo({ FocalLengthIn35mmFilm: '0' }))).toBeNull();
  expect(await focalLength35(await photo({ FocalLengthIn35mmFilm: '900' }))).toBeNull();
  expect(await focalLength35(await photo(null, 'png'))).toBeNull();
  expect(await focalLength35(new Uint8Array([0xff, 0xd8, 0xff, 0xe1, 0xff, 0xff, 1, 2]))).toBeNull();
  expect(await focalLength35(new Uint8Array())).toBeNull();
});
