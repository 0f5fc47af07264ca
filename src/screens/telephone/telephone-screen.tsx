'use client';

import { Fragment, useState, type ReactNode } from 'react';
import { attempt } from '@/client/attempt';
import { leave, makePassPhrase } from '@/client/entry-api';
import { buttonStyle } from '@/ui/button';
import { QrCode } from '@/ui/qr-code';
import { TopBar } from '@/ui/top-bar';

type Props = {
  /** Where this is reached over the network. */
  addresses: readonly string[];
  listens: boolean;
  /** Whether it is shown on the machine that it runs on. */
  isHere: boolean;
  /** Whether whoever it is shown to had to enter the pass phrase. */
  isAsked: boolean;
  /** Where this start has made it. */
  passPhrase: string | null;
  /** Of the certificate that HTTPS shows, and of the one that vouches for it. */
  shownFingerprint: string | null;
  trustedFingerprint: string | null;
};

/** The way in from a telephone at the bench: where, with which words, and what to make of the browser's warning. */
export function TelephoneScreen(props: Props) {
  const { addresses, listens, isHere, isAsked, passPhrase, shownFingerprint, trustedFingerprint } = props;
  return (
    <>
      <TopBar here="telephone" />
      <main className="mx-auto max-w-4xl px-5 py-8">
        <h1 className="text-xl font-semibold">On the bench’s telephone</h1>
        {listens ? (
          <div className="mt-5 grid gap-x-10 gap-y-8 sm:grid-cols-[minmax(0,15rem)_minmax(0,1fr)]">
            <Addresses addresses={addresses} />
            <div className="grid content-start gap-7">
              <PassPhrase isHere={isHere} first={passPhrase} />
              {shownFingerprint && trustedFingerprint ? (
                <Certificates shown={shownFingerprint} trusted={trustedFingerprint} />
              ) : null}
              {isAsked ? <Leave /> : null}
            </div>
          </div>
        ) : (
          <NotListening isAsked={isAsked} isHere={isHere} passPhrase={passPhrase} />
        )}
      </main>
    </>
  );
}

function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section>
      <h2 className="font-semibold">{title}</h2>
      <div className="mt-1.5 grid gap-2">{children}</div>
    </section>
  );
}

function Addresses({ addresses }: { addresses: readonly string[] }) {
  const [chosen, setChosen] = useState(addresses[0]);
  if (chosen === undefined)
    return (
      <p className="text-soft">
        This machine had no address of a private network when it was started. Connect it to yours and start again.
      </p>
    );
  return (
    <section aria-label="Address">
      <div className="overflow-hidden rounded-md border border-rule">
        <QrCode text={chosen} label={`Code to scan: ${chosen}`} />
      </div>
      <p className="figures mt-2 text-[13px] break-all">{chosen}</p>
      <p className="mt-1 text-[13px] text-soft">
        Scan it with the telephone’s camera, in the same network as this machine.
      </p>
      {addresses.length > 1 ? (
        <div role="group" aria-label="Other addresses of this machine" className="mt-3 grid justify-items-start gap-1">
          {addresses.map((address) => (
            <button
              key={address}
              type="button"
              aria-pressed={address === chosen}
              className="figures rounded px-1.5 py-0.5 text-[13px] text-soft hover:text-ink aria-pressed:bg-tint aria-pressed:text-ink"
              onClick={() => setChosen(address)}
            >
              {address}
            </button>
          ))}
        </div>
      ) : null}
    </section>
  );
}

function PassPhrase({ isHere, first }: { isHere: boolean; first: string | null }) {
  const [passPhrase, setPassPhrase] = useState(first);
  const [asking, setAsking] = useState(false);
  const make = async () => {
    setAsking(false);
    await attempt('Making another pass phrase', async () => setPassPhrase(await makePassPhrase()));
  };
  return (
    <Part title="Pass phrase">
      {passPhrase === null ? (
        <p className="text-soft">
          The one that was made before. It is kept only as a hash, so that nothing can show it again.
        </p>
      ) : (
        <>
          <output aria-label="Pass phrase" className="figures rounded bg-copper-tint px-3 py-2 text-[17px]">
            {passPhrase}
          </output>
          <p className="text-[13px] text-soft">Write it down: it is kept only as a hash, and not shown again later.</p>
        </>
      )}
      {isHere ? (
        asking ? (
          <div role="group" aria-label="Make another pass phrase" className="grid gap-2">
            <p>The present one is no good any more then, and every telephone is asked for the new one.</p>
            <div className="flex gap-2">
              <button type="button" className={buttonStyle('solid')} onClick={() => void make()}>
                Make another
              </button>
              <button type="button" className={buttonStyle('plain')} onClick={() => setAsking(false)}>
                Keep it
              </button>
            </div>
          </div>
        ) : (
          <div>
            <button type="button" className={buttonStyle('plain')} onClick={() => setAsking(true)}>
              Make another pass phrase…
            </button>
          </div>
        )
      ) : (
        <p className="text-[13px] text-soft">Another is made on this page at the machine itself.</p>
      )}
    </Part>
  );
}

/** May break after each pair of digits, and nowhere else. */
function Fingerprint({ of }: { of: string }) {
  return (
    <p className="figures text-[12px] leading-relaxed">
      {of.split(':').map((pair, at, all) => (
        <Fragment key={at}>
          {pair}
          {at < all.length - 1 ? ':' : ''}
          <wbr />
        </Fragment>
      ))}
    </p>
  );
}

function Certificates({ shown, trusted }: { shown: string; trusted: string }) {
  return (
    <Part title="The browser’s warning">
      <p className="text-soft">
        The connection is encrypted, but nobody else vouches for this machine, so the telephone warns once. Go on only
        where the certificate that it shows has this SHA-256 fingerprint:
      </p>
      <Fingerprint of={shown} />
      <p className="text-soft">
        To be warned no more, have the telephone trust{' '}
        <a href="/api/certificate" download className="text-copper underline">
          the one that vouches for it
        </a>
        , with this fingerprint. It can vouch for this machine’s names and for addresses of private networks alone; its
        key stays in the data folder.
      </p>
      <Fingerprint of={trusted} />
    </Part>
  );
}

function Leave() {
  return (
    <Part title="This browser">
      <p className="text-soft">It is not asked again for thirty days after it entered.</p>
      <div>
        <button
          type="button"
          className={buttonStyle('plain')}
          onClick={() =>
            void attempt('Leaving', async () => {
              await leave();
              window.location.reload();
            })
          }
        >
          Ask this browser again
        </button>
      </div>
    </Part>
  );
}

function NotListening({ isAsked, isHere, passPhrase }: Pick<Props, 'isAsked' | 'isHere' | 'passPhrase'>) {
  return (
    <div className="mt-3 grid max-w-2xl gap-4">
      <p>
        This answers on this machine alone. To have it beside the work, on a telephone in the same network, end it with
        Ctrl-C and start it so:
      </p>
      <p className="figures rounded bg-tint px-3 py-2">./start --network</p>
      <p className="text-soft">
        It then answers by HTTPS as well, to whoever knows a pass phrase of five words, and the terminal and this page
        show the address to scan. Nothing changes on this machine itself.
      </p>
      {isAsked ? (
        <>
          <PassPhrase isHere={isHere} first={passPhrase} />
          <Leave />
        </>
      ) : null}
    </div>
  );
}
