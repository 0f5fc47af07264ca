/**
 * Does something now, every so often, and when the line or the page is back: one
 * at a time, and not while the page is out of sight.
 *
 * @returns what ends it
 */
export function keepFresh(refresh: () => Promise<void>, milliseconds: number): () => void {
  let busy = false;
  const again = () => {
    if (busy || document.visibilityState === 'hidden') return;
    busy = true;
    void refresh().finally(() => (busy = false));
  };
  again();
  const timer = setInterval(again, milliseconds);
  window.addEventListener('online', again);
  document.addEventListener('visibilitychange', again);
  return () => {
    clearInterval(timer);
    window.removeEventListener('online', again);
    document.removeEventListener('visibilitychange', again);
  };
}
