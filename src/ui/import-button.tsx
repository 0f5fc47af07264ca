'use client';

import Upload from 'lucide-react/icons/upload';
import type { RefObject } from 'react';
import { buttonStyle } from './button';

/** Asks for a file and hands it over; the same file can be taken twice. */
export function ImportButton({
  label,
  words = 'Import',
  accept,
  inputRef,
  onFile,
}: {
  /** What the file is, for those who hear the screen. */
  label: string;
  words?: string;
  accept: string;
  inputRef: RefObject<HTMLInputElement | null>;
  onFile: (file: File) => void;
}) {
  return (
    <>
      <button type="button" className={buttonStyle('plain')} onClick={() => inputRef.current?.click()}>
        <Upload className="size-4" aria-hidden="true" /> <span className="max-w-60 truncate">{words}</span>
      </button>
      <input
        ref={inputRef}
        type="file"
        accept={accept}
        aria-label={label}
        className="sr-only"
        tabIndex={-1}
        onChange={(event) => {
          const file = event.target.files?.[0];
          event.target.value = '';
          if (file) onFile(file);
        }}
      />
    </>
  );
}
