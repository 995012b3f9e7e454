import { createShaper, faceFile, familyNamed, type Graphic, type Shaper } from '@bright-slot/core';

const files = new Map<string, Uint8Array>();
let shaper: Promise<Shaper> | undefined;

async function fetchFile(stem: string): Promise<void> {
  if (files.has(stem)) return;
  const response = await fetch(new URL(`/type/${stem}.ttf`, self.location.origin));
  if (!response.ok) throw new Error(`The type ${stem} could not be fetched.`);
  files.set(stem, new Uint8Array(await response.arrayBuffer()));
}

/** A shaper that has every face a graphic uses. */
export async function shaperFor(graphic: Graphic): Promise<Shaper> {
  const stems = new Set(['public-sans']);
  for (const layer of graphic.layers)
    if (layer.role === 'words')
      for (const p of layer.paragraphs)
        for (const r of p.runs) {
          const family = familyNamed(r.face.family);
          if (family) stems.add(faceFile(family, r.face.italic));
        }
  await Promise.all([...stems].map(fetchFile));
  return (shaper ??= import('harfbuzzjs').then((library) => createShaper(library, files)));
}
