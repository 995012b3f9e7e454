// Units: each spec bundled with the sources that it tests, then run by Jest without its sandbox. A sandbox looks every
// global up, some thirty times slower than outside, and loads every module anew for every file.
import { readFileSync, existsSync, rmSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { build } from 'esbuild';
import { jest } from './jest.mjs';
import { buildKernel, filesBelow, root, unpackType } from './prepare.mjs';

const PLACES = ['core', 'server', 'web'];
const isUnit = (f) => f.endsWith('.spec.ts') && !f.endsWith('.component.spec.ts');
export const unitSpecs = () => PLACES.flatMap((place) => filesBelow(`${place}/src`, isUnit));

/** These have files that only a bundler finds. */
const BUNDLED = /^(@bright-slot\/|exifr$|ajv\/|@material\/material-color-utilities)|\.svg$/;

/** Packages stay outside, but for those of which a workspace has a version of its own. */
const packages = {
  name: 'packages outside',
  setup({ onResolve }) {
    onResolve({ filter: /^[^./]/ }, ({ path, kind, importer }) => {
      if (kind === 'entry-point' || BUNDLED.test(path)) return;
      const name = path.split('/', path.startsWith('@') ? 2 : 1).join('/');
      const place = importer.slice(root.length + 1).split('/')[0];
      if (existsSync(join(root, place, 'node_modules', name)) || importer.includes('/node_modules/')) return;
      return { path, external: true };
    });
  },
};

/** `import.meta` speaks of the source, not of the bundle. */
const whereSourcesAre = {
  name: 'where sources are',
  setup({ onLoad }) {
    onLoad({ filter: /\.ts$/ }, ({ path }) => {
      const source = readFileSync(path, 'utf8');
      if (!source.includes('import.meta')) return;
      const contents = source
        .replaceAll('import.meta.url', JSON.stringify(`file://${path}`))
        .replaceAll('import.meta.dirname', JSON.stringify(dirname(path)));
      return { contents, loader: 'ts' };
    });
  },
};

/** Bundles all specs; gives esbuild's account of what each is made of. */
export async function bundleUnits() {
  rmSync(join(root, '.cache/units'), { recursive: true, force: true });
  const { metafile } = await build({
    absWorkingDir: root,
    entryPoints: unitSpecs(),
    outbase: '.',
    outdir: '.cache/units',
    tsconfig: 'web/tsconfig.spec.json',
    bundle: true,
    splitting: true,
    format: 'esm',
    platform: 'node',
    target: 'node20',
    sourcemap: true,
    metafile: true,
    loader: { '.svg': 'text' },
    logLevel: 'warning',
    plugins: [packages, whereSourcesAre],
    banner: { js: "import{createRequire as requiring}from'node:module';var require=requiring(import.meta.url);" },
  });
  return metafile;
}

export async function unitTests(more = []) {
  await unpackType();
  await buildKernel();
  const { outputs } = await bundleUnits();
  const found = await jest(PLACES, more.includes('--runInBand') ? more : ['--maxWorkers', '2', ...more]);
  const source = Object.fromEntries(
    Object.entries(outputs).flatMap(([to, { entryPoint }]) => (entryPoint ? [[join(root, to), entryPoint]] : [])),
  );
  return { ...found, files: found.files.map((f) => ({ ...f, path: source[f.path] ?? f.path })) };
}

if (import.meta.filename === process.argv[1]) {
  // `npm run unit -- words/layout -t wraps`: files by name, cases by name. A source's ending is told as it is written.
  const { passed, failed } = await unitTests(process.argv.slice(2).map((a) => a.replace(/\.ts$/, '.js')));
  console.log(`${passed} passed, ${failed} failed`);
  process.exit(failed ? 1 : 0);
}
