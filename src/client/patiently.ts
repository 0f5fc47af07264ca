/** Between tries, ms. */
const PAUSE_MILLISECONDS = 2000;

/**
 * Loads a part of the application, again and again until it comes: a page that
 * loses its connection while it opens stays as it is and waits.
 */
export async function patiently<T>(load: () => Promise<T>): Promise<T> {
  for (;;) {
    try {
      return await load();
    } catch {
      await new Promise((resolve) => setTimeout(resolve, PAUSE_MILLISECONDS));
    }
  }
}
