import db from 'mime-db';
import { identify, typeOf } from './identify';
import {
  endingFor,
  fileFormats,
  formatsText,
  formatNamed,
  hasQuality,
  isDrawn,
  isFileFormat,
  isPictureEnding,
  pictureFormats,
  pictureTypes,
} from './registry';

it('media types and endings are those of the IANA registry, by the package mime-db', () => {
  for (const type of pictureTypes) {
    const { mime, endings } = pictureFormats[type];
    expect(db[mime]).toBeDefined();
    // HEIF is a type of its own there, with the same content.
    const known = [...(db[mime]!.extensions ?? []), ...(type === 'heic' ? (db['image/heif']!.extensions ?? []) : [])];
    expect([type, endings.filter((e) => !known.includes(e))]).toEqual([type, []]);
  }
});

it('what graphics leave as is told apart from what is only read', () => {
  expect(fileFormats).toEqual(['jpeg', 'png', 'webp', 'avif', 'svg']);
  expect(pictureTypes.filter((t) => !isFileFormat(t))).toEqual(['heic', 'gif']);
  expect(fileFormats.map(endingFor)).toEqual(['jpg', 'png', 'webp', 'avif', 'svg']);
  expect(formatsText(fileFormats)).toBe('JPEG, PNG, WebP, AVIF and SVG');
  expect(fileFormats.filter(hasQuality)).toEqual(['jpeg', 'webp', 'avif']);
  expect(fileFormats.filter(isDrawn)).toEqual(['svg']);
  expect([formatsText(['svg']), formatsText([])]).toEqual(['SVG', '']);
});

it('a name says what its file is by its ending', () => {
  const names = ['header.jpg', 'a.b.JPEG', 'logo.svg', 'x.png.gif', 'header', ''];
  expect(names.map(formatNamed)).toEqual(['jpeg', 'jpeg', 'svg', null, null, null]);
});

it('an ending is a hint only: the content says what a file is', () => {
  expect([isPictureEnding('jpeg'), isPictureEnding('heif'), isPictureEnding('txt')]).toEqual([true, true, false]);
  const gif = new TextEncoder().encode('GIF89a nothing more');
  expect(typeOf(gif)).toBe('gif');
  expect(identify(new TextEncoder().encode('no picture'), 'photo.heif')).toMatchObject({
    ok: false,
    problem: { message: expect.stringContaining('ends in .heif') as string },
  });
});
