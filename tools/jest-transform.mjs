// @swc/jest, with the globals that tight loops touch bound once per module: a global that is looked up in the test
// runner's sandbox costs some thirty times what it costs outside, and loops over pixels touch nothing else.
import swcJest from '@swc/jest';

const BOUND = [
  'Array',
  'BigInt',
  'Float32Array',
  'Float64Array',
  'Infinity',
  'Int16Array',
  'Int32Array',
  'Map',
  'Math',
  'NaN',
  'Number',
  'Object',
  'Set',
  'String',
  'Uint16Array',
  'Uint32Array',
  'Uint8Array',
  'Uint8ClampedArray',
  'undefined',
  'Symbol',
  'JSON',
  'Error',
  'RegExp',
  'WeakMap',
  'isNaN',
  'parseInt',
  'parseFloat',
  'Boolean',
  'Promise',
];

export default {
  createTransformer(options) {
    const swc = swcJest.createTransformer(options);
    const bind = (result) => {
      const used = BOUND.filter((name) => new RegExp(`\\b${name}\\b`).test(result.code));
      // On the first line, so that every line keeps its number.
      return used.length
        ? { ...result, code: `const {${used.map((n) => `${n}`).join(',')}}=globalThis;${result.code}` }
        : result;
    };
    return {
      ...swc,
      process: (...args) => bind(swc.process(...args)),
      processAsync: async (...args) => bind(await swc.processAsync(...args)),
      getCacheKey: (...args) => `${swc.getCacheKey?.(...args) ?? ''}-bound-1`,
    };
  },
};
