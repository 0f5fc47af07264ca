/** What happened where a save failed, what is kept where, and what happens next. */
export function SaveTrouble({
  reason,
  isKept,
  onRetry,
}: {
  reason: string;
  isKept: () => boolean;
  onRetry: () => void;
}) {
  return (
    <p role="alert" className="no-print border-b border-rule bg-sheet px-3 py-1.5 text-[13px] sm:px-5">
      <span className="font-medium text-over">Not saved: {reason}.</span>{' '}
      {isKept()
        ? 'What you typed is on screen and kept in this browser, also when this page is closed.'
        : 'What you typed is on screen only, for this browser keeps nothing: leave the page open.'}{' '}
      It is sent again every few seconds.{' '}
      <button type="button" className="text-copper underline" onClick={onRetry}>
        Try now
      </button>
    </p>
  );
}
