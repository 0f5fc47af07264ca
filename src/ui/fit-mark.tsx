export type FitWord = 'fits' | 'close' | 'over' | 'unrated';

/** Shape and colour of a margin; the word goes beside it. */
export function FitMark({ fit }: { fit: FitWord }) {
  return (
    <svg viewBox="0 0 12 12" className="inline-block size-3 shrink-0" aria-hidden="true">
      {fit === 'fits' ? <circle cx="6" cy="6" r="4.6" fill="var(--fits)" /> : null}
      {fit === 'close' ? <path d="M6 1 11.200 10.600H.8Z" fill="var(--close)" /> : null}
      {fit === 'over' ? <rect x="1.400" y="1.400" width="9.200" height="9.200" fill="var(--over)" /> : null}
      {fit === 'unrated' ? <circle cx="6" cy="6" r="4" fill="none" stroke="var(--soft)" strokeDasharray="2 2" /> : null}
    </svg>
  );
}
