import { format } from 'date-fns';
import { pictureHref } from '@/client/bench-api';

/** A picture taken at the bench, small; it opens by itself. */
export function BenchPicture({
  designId,
  id,
  takenAt,
  size,
}: {
  designId: string;
  id: string;
  takenAt: string;
  /** Its largest height, as a class. */
  size: string;
}) {
  const href = pictureHref(designId, id);
  return (
    <a href={href} target="_blank" rel="noreferrer" className="block w-fit">
      {/* eslint-disable-next-line @next/next/no-img-element -- the server has written it anew at its size already */}
      <img
        src={href}
        alt={`Picture taken ${format(new Date(takenAt), 'd MMM, HH:mm')}`}
        loading="lazy"
        className={`max-w-full rounded border border-rule ${size}`}
      />
    </a>
  );
}
