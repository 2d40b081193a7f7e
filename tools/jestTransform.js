const swcJest = require('@swc/jest');

/** What numbers are worked out with. */
const NAMES = ['Math', 'Number', 'Array', 'Infinity', 'Float64Array', 'Float32Array', 'Int32Array', 'Uint32Array'];
NAMES.push('Uint16Array', 'Uint8Array', 'Uint8ClampedArray');

/**
 * Compiles as @swc/jest does. Inside of Jest's sandbox every look at a global costs a call, a hundred times what it costs
 * outside: a module keeps those of its own that tight loops ask for.
 */
module.exports = {
  createTransformer(options) {
    const inner = swcJest.createTransformer(options);
    const keeping = (answer) => ({
      ...answer,
      code: `"use strict";const {${NAMES.join(',')}}=globalThis;${answer.code}`,
    });
    return {
      ...inner,
      process: (source, name, given) => keeping(inner.process(source, name, given)),
      getCacheKey: (...given) => `${inner.getCacheKey(...given)}-globals`,
    };
  },
};
