'use client';

import Download from 'lucide-react/icons/download';
import { useRef, type ReactNode } from 'react';
import { toast } from 'sonner';
import { EntryMenu } from './entry-menu';
import { pngOf, stillOfDrawing } from './still';

/** What becomes of a picture that was taken: its kind is the file's ending. */
export type OnPicture = (ending: 'svg' | 'png', picture: Blob) => void;

/** A chart or a drawing as a file, made when it is asked for; null where none is shown. */
async function pictureOf(shown: Element | null, title: string, ending: 'svg' | 'png'): Promise<Blob | null> {
  if (shown instanceof HTMLCanvasElement) {
    // Only whoever takes a chart away needs what draws it as SVG.
    const { pngOfChart, stillOfChart } = await import('./chart-picture');
    if (ending === 'png') return pngOfChart(shown);
    const still = stillOfChart(shown, title);
    return still && new Blob([still.svg], { type: 'image/svg+xml' });
  }
  if (!(shown instanceof SVGSVGElement)) return null;
  const still = stillOfDrawing(shown, title);
  return ending === 'png' ? pngOf(still) : new Blob([still.svg], { type: 'image/svg+xml' });
}

/** The menu at a picture by which it is taken away. */
export function PictureMenu({
  name,
  title,
  find,
  onPicture,
}: {
  /** Which picture, for those who hear the screen. */
  name: string;
  /** What it shows, for whoever opens the file. */
  title: string;
  /** The canvas or drawing that is shown; null while there is none. */
  find: () => Element | null;
  onPicture: OnPicture;
}) {
  const take = async (ending: 'svg' | 'png') => {
    try {
      const picture = await pictureOf(find(), title, ending);
      if (picture) onPicture(ending, picture);
      else toast.error('There is no picture yet.');
    } catch {
      toast.error(
        ending === 'png'
          ? 'The picture could not be made here; take the SVG instead.'
          : 'The picture could not be made here; take the PNG instead.',
      );
    }
  };
  return (
    <EntryMenu
      className="no-print"
      label={`Save the picture: ${name}`}
      entries={[
        { name: 'Picture', gives: 'lines, SVG', run: () => void take('svg') },
        { name: 'Picture', gives: 'points, PNG', run: () => void take('png') },
      ]}
    >
      <Download className="size-3.5" aria-hidden="true" />
    </EntryMenu>
  );
}

/** A picture with its menu in the corner above it. */
export function Pictured({
  name,
  title,
  onPicture,
  className = '',
  heading = null,
  shown = 'canvas',
  children,
}: {
  name: string;
  title: string;
  onPicture: OnPicture;
  className?: string;
  /** What stands beside the menu. */
  heading?: ReactNode;
  /** Selects the picture among what is inside. */
  shown?: string;
  children: ReactNode;
}) {
  const frame = useRef<HTMLDivElement>(null);
  return (
    <div className={className}>
      <div className="flex items-center justify-between gap-2">
        <div className="min-w-0">{heading}</div>
        <PictureMenu
          name={name}
          title={title}
          find={() => frame.current?.querySelector(shown) ?? null}
          onPicture={onPicture}
        />
      </div>
      <div ref={frame}>{children}</div>
    </div>
  );
}
