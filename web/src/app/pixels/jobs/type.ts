import {
  broughtFamily,
  broughtHash,
  createShaper,
  faceFile,
  familyNamed,
  type Face,
  type Family,
  type Graphic,
  type Shaper,
} from '@bright-slot/core';
import { browserWidth } from '../../type/browser-width';
import { database } from '../../storage/database';
import { ownFile } from '../../storage/own-file';

const files = new Map<string, Uint8Array>();
/** Families the person brought, by name; a name that is not known is looked for again. */
const brought = new Map<string, Family>();
let shaper: Promise<Shaper> | undefined;

/** What ships comes first: no font that is brought can change what was made with it. */
const named = (name: string): Family | undefined => familyNamed(name) ?? brought.get(name);

async function fetchFile(stem: string): Promise<void> {
  if (files.has(stem)) return;
  const own = broughtHash(stem);
  if (own !== null) {
    const record = await database().fonts.get(own);
    if (record) files.set(stem, new Uint8Array(await record.blob.arrayBuffer()));
    return;
  }
  const response = await ownFile(`/type/${stem}.ttf`);
  if (!response.ok) throw new Error(`The type ${stem} could not be fetched.`);
  files.set(stem, new Uint8Array(await response.arrayBuffer()));
}

const facesOf = ({ layers }: Graphic): Face[] =>
  layers.flatMap((l) => (l.role === 'words' ? l.paragraphs.flatMap((p) => p.runs.map((r) => r.face)) : []));

/** A shaper that has every face a graphic uses. */
export function shaperFor(graphic: Graphic): Promise<Shaper> {
  return shaperOf(facesOf(graphic));
}

/** A shaper that has some faces. */
export async function shaperOf(faces: readonly Face[]): Promise<Shaper> {
  // Looked at anew each time one that does not ship is asked for: it may have been removed, and another of its name brought.
  if (faces.some((f) => !familyNamed(f.family))) {
    brought.clear();
    for (const font of await database().fonts.toArray()) brought.set(font.family, broughtFamily(font));
  }
  const stems = new Set(['public-sans']);
  for (const { family, italic } of faces) {
    const known = named(family);
    if (known) stems.add(faceFile(known, italic));
  }
  // The first there is stands in where a face has no file.
  await fetchFile('public-sans');
  await Promise.all([...stems].map(fetchFile));
  return (shaper ??= import('harfbuzzjs').then((library) =>
    createShaper(library, files, { browserWidth, families: named }),
  ));
}

/** Names the fonts of a graphic that the person brought, as they are now; what ships never changes. */
export async function broughtFacesOf(graphic: Graphic): Promise<string> {
  await shaperFor(graphic);
  const families = facesOf(graphic).map((f) => f.family);
  const own = [...new Set(families)].filter((f) => !familyNamed(f));
  return own.map((f) => `${f}:${brought.get(f)?.file ?? ''}`).join();
}
