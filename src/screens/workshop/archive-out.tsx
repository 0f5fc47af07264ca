'use client';

import { format } from 'date-fns';
import Download from 'lucide-react/icons/download';
import { useEffect, useRef, useState } from 'react';
import { Refusal } from '@/client/answers';
import { downloadBlob } from '@/client/design-file';
import { useOwnMeters } from '@/client/meter-store';
import { fetchArchive } from '@/client/workshop-api';
import type { Holdings } from '@/core/workshop/messages';
import { buttonStyle } from '@/ui/button';
import { useListening } from '@/ui/use-listening';
import { bytesWords, counted } from './words';

/** What the workshop holds, and the way out for all of it. */
export function ArchiveOut({ holdings }: { holdings: Holdings }) {
  const listening = useListening();
  const { settings: own } = useOwnMeters();
  const [bytes, setBytes] = useState<number | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const stop = useRef<AbortController | null>(null);
  useEffect(() => () => stop.current?.abort(), []);
  const take = async () => {
    const controller = (stop.current = new AbortController());
    setFault(null);
    setBytes(0);
    try {
      const archive = await fetchArchive(own, controller.signal, setBytes);
      downloadBlob(`eager-ladder-workshop-${format(new Date(), 'yyyy-MM-dd')}.zip`, archive);
    } catch (error) {
      if (!controller.signal.aborted)
        setFault(error instanceof Refusal ? error.message : 'the server cannot be reached; try again');
    } finally {
      setBytes(null);
    }
  };
  const rows: readonly (readonly [string, string])[] = [
    ['Designs', `${holdings.designs}, with ${counted(holdings.revisions, 'saved state')}`],
    ['Parts in the drawer', `${holdings.parts}`],
    ['Sessions at the bench', `${holdings.sessions}, with ${counted(holdings.readings, 'entry', 'entries')}`],
    ['Discharges gone through', `${holdings.discharges}`],
    ['Pictures', holdings.pictures === 0 ? '0' : `${holdings.pictures}, ${bytesWords(holdings.pictureBytes)}`],
    ['Own meters, of this browser', listening ? `${own.meters.length}` : '…'],
  ];
  return (
    <section aria-labelledby="out-title">
      <h2 id="out-title" className="text-base font-semibold">
        Take it out
      </h2>
      <p className="mt-1 max-w-[62ch] text-[13.5px] text-soft">
        One ZIP file with everything in this workshop, put-away designs and every saved state among it. The documents in
        it are plain JSON, the pictures JPEG.
      </p>
      <table className="mt-3 w-full max-w-md text-left text-[13.5px]" aria-label="What it holds">
        <tbody>
          {rows.map(([name, value]) => (
            <tr key={name} className="border-b border-rule">
              <th scope="row" className="py-1 pr-3 font-normal text-soft">
                {name}
              </th>
              <td className="py-1 text-right tabular-nums">{value}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <div className="mt-4 flex flex-wrap items-center gap-3">
        <button
          type="button"
          className={buttonStyle('solid')}
          disabled={bytes !== null || !listening}
          onClick={() => void take()}
        >
          <Download className="size-4" aria-hidden="true" /> Whole workshop, ZIP
        </button>
        {bytes !== null ? (
          <>
            <span role="status" className="figures text-[13px]">
              {bytesWords(bytes)}
            </span>
            <button type="button" className={buttonStyle('plain')} onClick={() => stop.current?.abort()}>
              Cancel
            </button>
          </>
        ) : null}
      </div>
      {fault ? (
        <p role="alert" className="mt-2 text-[13px] text-over">
          Nothing was written: {fault}.
        </p>
      ) : null}
    </section>
  );
}
