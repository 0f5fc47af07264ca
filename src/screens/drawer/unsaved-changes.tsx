'use client';

import { useEffect, useState } from 'react';
import { attempt } from '@/client/attempt';
import { fetchMade } from '@/client/drawer-api';
import { useDrawer } from '@/client/drawer-store';
import { drawerLeftInWords, unsavedDrawer } from '@/client/unsaved';
import { useLeft } from '@/client/use-left';
import { buttonStyle } from '@/ui/button';
import { SaveTrouble } from '@/ui/save-trouble';

/** Changes of the drawer that have not arrived: those of this page, and those that a page that is gone has left. */
export function UnsavedChanges() {
  const { trouble, isKept, send, take } = useDrawer();
  const { left: found, drop } = useLeft(unsavedDrawer);
  // What arrived after all, its page gone before it was told, is nothing to ask about.
  const [asked, setAsked] = useState<ReadonlySet<string>>(new Set());
  useEffect(() => {
    for (const one of found)
      fetchMade(one.steps.map(({ id }) => id)).then(
        (made) => {
          if (one.steps.every(({ id }) => made.has(id))) drop(one);
          else setAsked((now) => new Set([...now, one.key]));
        },
        // Nobody knows while the server is away: it is looked for again with the next that is left.
        () => setAsked((now) => new Set([...now, one.key])),
      );
  }, [found, drop]);
  const left = found.filter(({ key }) => asked.has(key));
  const takeIn = async (one: (typeof left)[number]) => {
    drop(one);
    await attempt('Taking them', () => take(one.steps));
  };
  return (
    <>
      {trouble === null ? null : <SaveTrouble reason={trouble} isKept={isKept} onRetry={() => void send()} />}
      {left.map((one) => (
        <div
          key={one.key}
          role="status"
          className="no-print flex flex-wrap items-center gap-x-2 border-b border-rule bg-copper-tint px-3 py-1 text-[13px] sm:px-5"
        >
          <details>
            <summary className="cursor-pointer">
              {drawerLeftInWords(one)} {one.steps.length === 1 ? 'is' : 'are'} not saved. Look
            </summary>
            <ul className="list-disc pl-5">
              {one.steps.map((step) => (
                <li key={step.id}>{step.what}</li>
              ))}
            </ul>
          </details>
          <button type="button" className={buttonStyle('quiet')} onClick={() => void takeIn(one)}>
            Take
          </button>
          <button type="button" className={buttonStyle('quiet')} onClick={() => drop(one)}>
            Drop
          </button>
        </div>
      ))}
    </>
  );
}
