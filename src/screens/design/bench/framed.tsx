'use client';

import type { ReactNode } from 'react';
import { pictureFile } from '@/client/design-file';
import { Pictured } from '@/ui/picture-menu';

/** A chart of the bench, said in words, with the way to take it away. */
export function Framed({
  designName,
  what,
  label,
  children,
}: {
  designName: string;
  /** What it is drawn against, as in its file's name. */
  what: string;
  label: string;
  children: ReactNode;
}) {
  return (
    <Pictured
      className="mt-2 max-w-3xl"
      name={what}
      title={`${designName}, ${what}`}
      onPicture={pictureFile(designName, what.replaceAll(' ', '-'))}
    >
      <div className="h-44" role="img" aria-label={label}>
        {children}
      </div>
    </Pictured>
  );
}
