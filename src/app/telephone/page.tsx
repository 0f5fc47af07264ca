import type { Metadata } from 'next';
import { headers } from 'next/headers';
import { TelephoneScreen } from '@/screens/telephone/telephone-screen';
import { authorityCertificate, serverCertificate } from '@/server/entry/certificates';
import { asksOf, entryFolder } from '@/server/entry/entry';
import { isPassPhrase } from '@/server/entry/pass-phrase';
import { wayOf } from '@/server/entry/way';

export const dynamic = 'force-dynamic';
export const metadata: Metadata = { title: 'Telephone' };

/** The pass phrase that this start has made, as long as it is the one that holds. */
async function shownPassPhrase(): Promise<string | null> {
  const folder = entryFolder();
  const made = process.env.EAGER_LADDER_PASS_PHRASE;
  return folder !== null && made && (await isPassPhrase(folder, made)) ? made : null;
}

export default async function TelephonePage() {
  const way = wayOf(await headers())!;
  const isHere = way.over === 'loopback';
  return (
    <TelephoneScreen
      addresses={JSON.parse(process.env.EAGER_LADDER_ADDRESSES || '[]') as string[]}
      listens={Boolean(process.env.EAGER_LADDER_NETWORK)}
      isHere={isHere}
      isAsked={asksOf(way)}
      passPhrase={isHere ? await shownPassPhrase() : null}
      shownFingerprint={serverCertificate()?.fingerprint ?? null}
      trustedFingerprint={authorityCertificate()?.fingerprint ?? null}
    />
  );
}
