/** What is known of one format of picture files. */
export interface PictureFormat {
  /** What people call it. */
  readonly name: string;
  /** Its media type. IANA, Media Types, image. */
  readonly mime: string;
  /** What names of its files may end in, without the dot; the first is given to files that are made. */
  readonly endings: readonly [string, ...string[]];
  /** Whether it can hold transparent parts. JPEG cannot: ITU-T T.81 knows no alpha. */
  readonly alpha: boolean;
  /** Whether graphics leave as it, and how: at a quality, losing no pixel, or drawn, which is sharp at every size. */
  readonly written: 'with-quality' | 'lossless' | 'drawn' | false;
}

/** Every format that is read, and those that are written. */
export const pictureFormats = {
  jpeg: { name: 'JPEG', mime: 'image/jpeg', endings: ['jpg', 'jpeg'], alpha: false, written: 'with-quality' },
  png: { name: 'PNG', mime: 'image/png', endings: ['png'], alpha: true, written: 'lossless' },
  webp: { name: 'WebP', mime: 'image/webp', endings: ['webp'], alpha: true, written: 'with-quality' },
  avif: { name: 'AVIF', mime: 'image/avif', endings: ['avif'], alpha: true, written: 'with-quality' },
  heic: { name: 'HEIC', mime: 'image/heic', endings: ['heic', 'heif'], alpha: true, written: false },
  gif: { name: 'GIF', mime: 'image/gif', endings: ['gif'], alpha: true, written: false },
  svg: { name: 'SVG', mime: 'image/svg+xml', endings: ['svg'], alpha: true, written: 'drawn' },
} as const satisfies Record<string, PictureFormat>;

/** A format that is read. */
export type PictureType = keyof typeof pictureFormats;

/** A format that graphics leave as. */
export type FileFormat = {
  [K in PictureType]: (typeof pictureFormats)[K]['written'] extends false ? never : K;
}[PictureType];

const all = Object.keys(pictureFormats) as PictureType[];

export const pictureTypes = all as [PictureType, ...PictureType[]];

export const isFileFormat = (type: PictureType): type is FileFormat => pictureFormats[type].written !== false;

/** Whether there is a quality to choose: what loses no pixel, or has none, knows no such thing. */
export const hasQuality = (format: FileFormat): boolean => pictureFormats[format].written === 'with-quality';

/** Whether one file serves all densities: what is drawn is sharp at every size. */
export const isDrawn = (format: FileFormat): boolean => pictureFormats[format].written === 'drawn';

/** The formats that graphics leave as, the one for photographs first. */
export const fileFormats = all.filter(isFileFormat) as [FileFormat, ...FileFormat[]];

/** What a file of a format that is made ends in, without the dot. */
export const endingFor = (type: PictureType): string => pictureFormats[type].endings[0];

/** The format that graphics leave as and that a file's name says it is, by its ending; null for none. */
export function formatNamed(name: string): FileFormat | null {
  const ending = name.slice(name.lastIndexOf('.') + 1).toLowerCase();
  return fileFormats.find((f) => (pictureFormats[f].endings as readonly string[]).includes(ending)) ?? null;
}

/** Whether names of pictures may end so (lower case, without the dot). */
export const isPictureEnding = (ending: string): boolean =>
  all.some((type) => (pictureFormats[type].endings as readonly string[]).includes(ending));

/** Formats in a row, for a sentence: “JPEG, PNG and WebP”. */
export function formatsText(types: readonly PictureType[]): string {
  const names = types.map((t) => pictureFormats[t].name);
  return names.length > 1 ? `${names.slice(0, -1).join(', ')} and ${names.at(-1)}` : (names[0] ?? '');
}
