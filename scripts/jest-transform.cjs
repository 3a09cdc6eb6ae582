const swc = require('@swc/jest');

/**
 * Jest runs modules in a sandbox whose globals are looked up through a slow proxy; hot loops that call Math thousands of times a row pay for it
 * tenfold. So each module gets the globals it names as its own variables.
 */
const globals = [
  'Math',
  'Number',
  'Float32Array',
  'Float64Array',
  'Uint8Array',
  'Uint8ClampedArray',
  'Int32Array',
  'Infinity',
  'NaN',
];

module.exports = {
  createTransformer(options) {
    const inner = swc.createTransformer(options);
    const local = ({ code, ...rest }) => {
      const named = globals.filter((g) => new RegExp(`\\b${g}\\b`).test(code));
      // On the first line, so that line numbers stay.
      return {
        code: named.length ? code.replace(/^("use strict";)?/, `$1 var { ${named.join(', ')} } = globalThis; `) : code,
        ...rest,
      };
    };
    return {
      ...inner,
      getCacheKey: (...all) => `${inner.getCacheKey(...all)}-local`,
      process: (...all) => local(inner.process(...all)),
    };
  },
};
