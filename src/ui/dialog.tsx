'use client';

import X from 'lucide-react/icons/x';
import { Dialog } from 'radix-ui';
import type { ReactNode } from 'react';

const WIDTHS = {
  narrow: 'w-[min(28rem,calc(100vw-1.5rem))]',
  wide: 'w-[min(44rem,calc(100vw-1.5rem))]',
  bench: 'w-[min(60rem,calc(100vw-1.5rem))]',
};

/** A dialog with a title, a word of description and its contents. */
export function Panel({
  open,
  onClose,
  title,
  description,
  children,
  size = 'narrow',
}: {
  open: boolean;
  onClose: () => void;
  title: string;
  description?: ReactNode;
  children: ReactNode;
  size?: keyof typeof WIDTHS;
}) {
  return (
    <Dialog.Root open={open} onOpenChange={(next) => !next && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-scrim" />
        <Dialog.Content
          {...(description ? {} : { 'aria-describedby': undefined })}
          className={`fixed top-1/2 left-1/2 z-50 max-h-[90vh] -translate-x-1/2 -translate-y-1/2 overflow-y-auto rounded-md border border-rule bg-sheet p-5 ${WIDTHS[size]}`}
        >
          <Dialog.Close
            aria-label="Dismiss"
            className="absolute top-3.5 right-3.5 rounded p-1 text-soft hover:text-ink"
          >
            <X className="size-4" aria-hidden="true" />
          </Dialog.Close>
          <Dialog.Title className="pr-8 text-base font-semibold">{title}</Dialog.Title>
          {description ? <Dialog.Description className="mt-1 text-soft">{description}</Dialog.Description> : null}
          <div className="mt-4">{children}</div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
