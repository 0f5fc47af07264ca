'use client';

import { useState, type FormEvent } from 'react';
import { shallow } from 'zustand/shallow';
import { useMeter, useOwnMeters } from '@/client/meter-store';
import { buttonStyle } from '@/ui/button';
import { PickField } from '@/ui/pick-field';

const OTHER = '';

/** Which of one's own meters it is; one that is not kept yet can be, under a name. */
export function OwnMeters() {
  const { settings: meter, change } = useMeter();
  const {
    settings: { meters },
    change: changeMeters,
  } = useOwnMeters();
  const [fault, setFault] = useState<string | null>(null);
  const [name, setName] = useState('');
  const present = meters.find((one) => shallow(one.meter, meter));
  const keep = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const others = meters.filter((one) => one.name !== name.trim());
    const wrong = changeMeters({ meters: [...others, { name: name.trim(), meter }] });
    setFault(wrong);
    if (wrong === null) setName('');
  };
  return (
    <>
      {meters.length > 0 ? (
        <PickField
          label="Own meters"
          value={present?.name ?? OTHER}
          options={[
            ...(present ? [] : [{ value: OTHER, name: 'As below, not kept' }]),
            ...meters.map((one) => ({ value: one.name, name: one.name })),
          ]}
          onValue={(wanted) => {
            const found = meters.find((one) => one.name === wanted);
            if (found) change(found.meter);
          }}
        />
      ) : null}
      {present ? (
        <button
          type="button"
          className="text-[13px] text-copper hover:underline"
          onClick={() => changeMeters({ meters: meters.filter((one) => one !== present) })}
        >
          Remove {present.name} from own meters
        </button>
      ) : (
        <form onSubmit={keep} className="flex flex-wrap items-baseline gap-2 py-[3px]" noValidate>
          <input
            aria-label="Name of this meter"
            aria-invalid={fault !== null}
            placeholder="its name"
            maxLength={40}
            className="field min-w-0 flex-1 px-2 py-0.5 text-[13.5px]"
            value={name}
            onChange={(event) => {
              setName(event.target.value);
              setFault(null);
            }}
          />
          <button type="submit" className={buttonStyle('plain')}>
            Keep this meter
          </button>
          {fault ? (
            <p role="alert" className="basis-full text-xs text-over">
              {fault}
            </p>
          ) : null}
        </form>
      )}
    </>
  );
}
