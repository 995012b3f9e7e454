import libheif from 'libheif-js/libheif-wasm/libheif-bundle.mjs';

let decoder: ReturnType<typeof libheif> | undefined;

/** Pixels of a phone's HEIC: the first picture in it, turned and mirrored as its own boxes say (they win over EXIF). */
export async function decodeHeic(bytes: Uint8Array): Promise<ImageData> {
  const heif = (decoder ??= libheif());
  const [image] = new heif.HeifDecoder().decode(bytes);
  if (!image) throw new Error('No picture could be read from it.');
  try {
    return await new Promise<ImageData>((resolve, reject) => {
      image.display(new ImageData(image.get_width(), image.get_height()), (filled) => {
        if (filled) resolve(filled);
        else reject(new Error('Its pixels could not be read.'));
      });
    });
  } finally {
    image.free();
  }
}
