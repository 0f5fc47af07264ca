'use client';

import { AlertDialog } from 'radix-ui';
import { useSyncExternalStore } from 'react';
import { buttonStyle } from './button';

const STORAGE_KEY = 'eager-ladder-cautions-read';
const CHANGED = 'eager-ladder-cautions';

function subscribe(notify: () => void): () => void {
  window.addEventListener(CHANGED, notify);
  return () => window.removeEventListener(CHANGED, notify);
}

function haveBeenRead(): boolean {
  try {
    return window.localStorage.getItem(STORAGE_KEY) !== null;
  } catch {
    return false;
  }
}

function setRead(read: boolean): void {
  try {
    if (read) window.localStorage.setItem(STORAGE_KEY, new Date().toISOString());
    else window.localStorage.removeItem(STORAGE_KEY);
  } catch {
    // Without storage the cautions are simply shown again next time.
  }
  window.dispatchEvent(new Event(CHANGED));
}

/** Shows the cautions again, for whoever wants to reread them. */
export function showCautionsAgain(): void {
  setRead(false);
}

const CAUTIONS: readonly { lead: string; text: string }[] = [
  {
    lead: 'This work can kill.',
    text: 'A ladder holds its charge after the supply is off, and some of it comes back after a short. Nothing here makes a circuit harmless to touch.',
  },
  {
    lead: 'It is not dead until you have measured it.',
    text: 'Switch off, unplug, wait out the bleeder, discharge every capacitor through a resistor rated for the voltage, then measure each one.',
  },
  {
    lead: 'Mains and oven transformers give no second chance.',
    text: 'Work one-handed, never alone, with an isolated supply, a cut-out within reach and no metal on you.',
  },
  {
    lead: 'Over about 5 kV a vacuum tube can emit X-rays;',
    text: 'sparks make ozone, start fires and destroy pacemakers and meters. A meter stops at its marking: use a divider rated for the voltage.',
  },
  {
    lead: 'Your local codes and licensed practice come first.',
    text: 'What is computed here is a prediction from the numbers you enter, not a guarantee.',
  },
];

/** The usual dangers, plainly, once: shown on the first visit and whenever asked for again. */
export function Cautions() {
  const read = useSyncExternalStore(subscribe, haveBeenRead, () => true);
  return (
    <AlertDialog.Root open={!read}>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className="fixed inset-0 z-40 bg-scrim" />
        <AlertDialog.Content className="fixed top-1/2 left-1/2 z-50 max-h-[92vh] w-[min(34rem,calc(100vw-1.5rem))] -translate-x-1/2 -translate-y-1/2 overflow-y-auto rounded-md border border-rule bg-sheet p-5 sm:p-6">
          <AlertDialog.Title className="text-lg font-semibold">Before you begin</AlertDialog.Title>
          <AlertDialog.Description asChild>
            <ul className="mt-3 grid gap-2.5">
              {CAUTIONS.map((caution) => (
                <li key={caution.lead} className="border-l-2 border-over pl-3">
                  <strong className="font-semibold">{caution.lead}</strong> {caution.text}
                </li>
              ))}
            </ul>
          </AlertDialog.Description>
          <div className="mt-5 flex justify-end">
            <AlertDialog.Action className={buttonStyle('solid')} onClick={() => setRead(true)}>
              I have read this
            </AlertDialog.Action>
          </div>
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  );
}
