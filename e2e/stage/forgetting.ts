/** Cookie that names the test being run. */
export const RUN = 'pentachord-test';

/**
 * Runs in every page before anything else: in the first one of a test, forgets what the browser remembers of the player
 * from the tests before. What was measured of the machine stays true.
 */
export function forgetPlayer(cookie: string): void {
  const run = document.cookie.split('; ').find((text) => text.startsWith(`${cookie}=`));
  if (!run || localStorage.getItem(cookie) === run) return;
  for (const key of Object.keys(localStorage))
    if (key !== 'pentachord machine') localStorage.removeItem(key);
  sessionStorage.clear();
  localStorage.setItem(cookie, run);
  // Asked for before the page opens it, so that it is empty when it does.
  for (const name of ['desk', 'logbook']) indexedDB.deleteDatabase(`pentachord ${name}`);
}
