/** Work that waits for the browser to have nothing else to do, one piece after the other. */
const waiting: Array<() => void> = [];
let asked = false;

function next(): void {
  asked = false;
  waiting.shift()?.();
  ask();
}
function ask(): void {
  if (asked || waiting.length === 0) return;
  asked = true;
  if ('requestIdleCallback' in window) window.requestIdleCallback(next, { timeout: 1500 });
  else setTimeout(next, 30);
}

/** Does something when the browser is idle. @returns takes it back, as long as it has not been done. */
export function whenIdle(work: () => void): () => void {
  waiting.push(work);
  ask();
  return () => {
    const at = waiting.indexOf(work);
    if (at >= 0) waiting.splice(at, 1);
  };
}
