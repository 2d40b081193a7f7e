const { TestEnvironment } = require('jest-environment-node');

/**
 * Jest lends its sandbox Node's own Uint8Array but not its Float64Array. Libraries that ask whether one is a kind of the
 * other (msgpackr does) then see two worlds; here they are one, as they are outside of Jest.
 */
module.exports = class extends TestEnvironment {
  constructor(config, context) {
    super(config, context);
    this.global.Float64Array = Float64Array;
  }
};
