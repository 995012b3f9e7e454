// Which test files begin first: those that take longest, so that two processes end together. A fresh machine has no
// times of its own to go by.
import Sequencer from '@jest/test-sequencer';

/** The browser's longest, in the order of what they take. */
const LONGEST = ['walk', 'composing', 'hostile', 'access', 'memory', 'kills', 'type-and-colour', 'layouts', 'safety'];

const place = ({ path }) => {
  const at = LONGEST.findIndex((name) => path.endsWith(`/e2e/src/${name}.spec.ts`));
  return at < 0 ? LONGEST.length : at;
};

export default class LongestFirst extends (Sequencer.default ?? Sequencer) {
  async sort(tests) {
    const sorted = await super.sort(tests);
    return [...sorted].sort((a, b) => place(a) - place(b));
  }
}
