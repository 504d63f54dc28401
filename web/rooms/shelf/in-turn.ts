const waiting: (() => void)[] = [];
let going = false;

/**
 * Does what can wait, one thing at a time in the order it was asked for, and lets the page answer in between.
 * @returns takes it back, where it was not begun
 */
export function inTurn(work: () => void): () => void {
  waiting.push(work);
  if (!going) {
    going = true;
    setTimeout(doNext);
  }
  return () => {
    const at = waiting.indexOf(work);
    if (at >= 0) waiting.splice(at, 1);
  };
}

function doNext(): void {
  const work = waiting.shift();
  try {
    work?.();
  } finally {
    going = waiting.length > 0;
    if (going) setTimeout(doNext);
  }
}
