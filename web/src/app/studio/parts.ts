/** The parts of the studio in the order they are gone through by F6. */
const PARTS = ['kite-line', 'kite-tray', 'kite-stage', 'kite-sheet', 'kite-reel'];

/** What can have the keys, in a part. */
const STOPS =
  'button:not([disabled]), a[href], input:not([disabled], [type=hidden]), textarea, [tabindex]:not([tabindex="-1"])';

/**
 * Gives the keys to the next part of the studio, or the one before: a part of a hundred pieces is passed by one press. In
 * the Line that is the step that is open.
 */
export function toNextPart(within: ParentNode, from: Element | null, back: boolean): void {
  const parts = PARTS.flatMap((name) => within.querySelector<HTMLElement>(name) ?? []);
  const at = parts.findIndex((part) => part.contains(from));
  for (let k = 1; k <= parts.length; k++) {
    const step = back ? -k : k;
    const start = at < 0 ? (back ? 0 : -1) : at;
    const part = parts[(start + step + 2 * parts.length) % parts.length];
    const stops = [...part.querySelectorAll<HTMLElement>(STOPS)].filter((stop) => stop.offsetParent !== null);
    const stop = stops.find((each) => each.getAttribute('aria-current') === 'step') ?? stops.at(0);
    if (!stop) continue;
    stop.focus();
    return;
  }
}
