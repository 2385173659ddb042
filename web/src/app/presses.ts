/** Where lines are coded: what is pressed elsewhere is no work on lines. */
const CODING = /^\/books\/[^/]+\/(board|desk)(\/|$)/;
/** Keys that do nothing by themselves. */
const WITH_OTHERS: ReadonlySet<string> = new Set(['Shift', 'Control', 'Alt', 'Meta', 'AltGraph']);
/** What the server takes. */
const MOST = 5_000;

let count = 0;

/** Counts keys and clicks on the Board and the Desk from now on. @returns what ends it */
export function countPresses(): () => void {
  const onKey = ({ key, repeat }: KeyboardEvent) => {
    if (!repeat && !WITH_OTHERS.has(key)) press();
  };
  window.addEventListener('keydown', onKey, true);
  window.addEventListener('pointerdown', press, true);
  return () => {
    window.removeEventListener('keydown', onKey, true);
    window.removeEventListener('pointerdown', press, true);
  };
}

function press(): void {
  if (CODING.test(window.location.pathname)) count = Math.min(count + 1, MOST);
}

/** How many there were since they were taken last; the next are counted from zero. */
export function takePresses(): number {
  const taken = count;
  count = 0;
  return taken;
}
