'use client';

import { useState } from 'react';
import { Refusal } from '@/client/answers';
import { enter } from '@/client/entry-api';
import { buttonStyle } from '@/ui/button';
import { CheckField } from '@/ui/check-field';
import { useListening } from '@/ui/use-listening';

/** Asks for the pass phrase, and goes on to where one wanted to go. */
export function EnterScreen({ to }: { to: string }) {
  const listening = useListening();
  const [passPhrase, setPassPhrase] = useState('');
  const [shown, setShown] = useState(false);
  const [fault, setFault] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);

  const tryIt = async () => {
    setBusy(true);
    setFault(null);
    try {
      await enter(passPhrase);
      // Read anew as a whole: everything on screen was made for somebody who had not entered.
      window.location.assign(to);
    } catch (error) {
      setFault(
        error instanceof Refusal
          ? `This ${error.faults[0].message}.`
          : 'The server cannot be reached; what you typed is still here.',
      );
      setBusy(false);
    }
  };

  return (
    <main className="mx-auto w-full max-w-md px-5 py-16">
      <p className="text-soft">Eager Ladder</p>
      <h1 className="mt-1 text-xl font-semibold">Enter the pass phrase</h1>
      <p className="mt-2 text-soft">
        Five words, shown in the terminal when they were made, and on the page “Telephone” of the machine this runs on.
        Another can be made there.
      </p>
      <form
        className="mt-5"
        onSubmit={(event) => {
          event.preventDefault();
          void tryIt();
        }}
      >
        <label htmlFor="pass-phrase" className="text-soft">
          Pass phrase
        </label>
        <input
          id="pass-phrase"
          type={shown ? 'text' : 'password'}
          value={passPhrase}
          readOnly={!listening}
          onChange={(event) => setPassPhrase(event.target.value)}
          autoComplete="current-password"
          autoCapitalize="none"
          autoCorrect="off"
          spellCheck={false}
          autoFocus
          aria-invalid={fault !== null}
          aria-describedby={fault ? 'pass-phrase-fault' : undefined}
          className="field mt-1 h-[40px] w-full px-3"
        />
        {fault ? (
          <p id="pass-phrase-fault" role="alert" className="mt-1 text-sm text-over">
            {fault}
          </p>
        ) : null}
        <div className="mt-1">
          <CheckField label="Show what I type" checked={shown} onChecked={setShown} />
        </div>
        <button type="submit" disabled={busy} className={`mt-4 w-full ${buttonStyle('solid')}`}>
          {busy ? 'Trying…' : 'Enter'}
        </button>
      </form>
    </main>
  );
}
