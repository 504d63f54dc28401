import Mocha from 'mocha';

/**
 * On a machine that is busy with other things a test of the interface may fail once: where CI is set it is tried a second
 * time, and said to have been, with what it failed on, so that it is mended.
 */
const again: string[] = [];
/** What tests failed on that are tried again. */
const failures = new Map<string, unknown>();

const { Runner } = Mocha;
const emit = Runner.prototype.emit;
// A runner says it to its reporters alone, and those of several processes are not told what failed.
Runner.prototype.emit = function (this: Mocha.Runner, event: string, ...about: unknown[]): boolean {
  if (event === Runner.constants.EVENT_TEST_RETRY) failures.set((about[0] as Mocha.Test).fullTitle(), about[1]);
  return emit.call(this, event, ...about);
};

export const mochaHooks = {
  afterEach(this: Mocha.Context): void {
    const test = this.currentTest as (Mocha.Test & { currentRetry(): number }) | undefined;
    if (test && test.state === 'passed' && test.currentRetry() > 0) again.push(test.fullTitle());
  },
  afterAll(): void {
    // Two files run at a time, one after the other in each process: this comes at the end of each.
    for (const title of again.splice(0)) {
      console.log(`    passed at the second try only: ${title}`);
      const why = failures.get(title);
      console.log(`      the first: ${why instanceof Error ? (why.stack ?? why.message) : String(why)}`);
    }
  },
};
