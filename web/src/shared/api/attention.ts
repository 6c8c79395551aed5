/** Nothing was touched for this long: what the page asks from then on it asks by itself. */
const AFTER_MS = 120_000;

let lastInput = Date.now();

if (typeof window !== 'undefined')
  for (const kind of ['pointerdown', 'keydown', 'wheel', 'touchstart'])
    window.addEventListener(kind, () => (lastInput = Date.now()), { capture: true, passive: true });

/** Whether somebody sits before the page: what is asked for nobody must not keep a session open. */
export function isUnattended(now = Date.now()): boolean {
  return now - lastInput > AFTER_MS;
}
